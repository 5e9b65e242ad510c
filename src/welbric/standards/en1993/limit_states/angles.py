"""Angles in bending: the stresses at their corners (6.2.1(4), 6.42), whatever the axes."""

from __future__ import annotations

from typing import Any

import numpy as np

from welbric.standards.case import Check, MemberCase
from welbric.standards.en1993 import classify
from welbric.standards.en1993.clauses import c6_2
from welbric.standards.en1993.demands import Station, worst_station
from welbric.standards.en1993.design import partial
from welbric.standards.en1993.limit_states import effective, lateral, shear
from welbric.standards.en1993.symbols import GLOSSARY
from welbric.working import given, heading, note

NAME, CLAUSE = "normal stress", "6.2.1(4)"


def normal_stress(case: MemberCase) -> Check:
    """6.42 at the worst station, elastic, of axial force and bending about both axes."""
    U, case.cache["station"] = worst_station(case, _at_station)
    outside = np.isnan(np.asarray(U, dtype=float))
    return Check(NAME, CLAUSE, None, None, U, "number", "station", outside, effective.BENT)


def _at_station(case: MemberCase, at: Station) -> Any:
    """Return the largest stress of a station over its resistance; 0 where nothing bends."""
    gamma = partial(case, 0)
    bends = (np.asarray(at.M_major) > 0) | (np.asarray(at.M_minor) > 0)
    slender = np.asarray(classify.in_bending(case, "major")) == 4
    heading("Stress", CLAUSE)
    sigma = _largest_stress(case, at)
    if np.ndim(at.N) == 0:
        given(GLOSSARY, "N_Ed", abs(float(at.N)), "at this place")
        given(GLOSSARY, "M_y_Ed", float(at.M_major), "about the level axis, at this place")
        given(GLOSSARY, "M_z_Ed", float(at.M_minor), "about the upright axis, at this place")
        sigma = given(GLOSSARY, "sigma_x_Ed", float(sigma), "at the worst of five corners")
    rho_z = c6_2.rho(at.V_major, shear.resistance(case, "major"))
    rho_y = c6_2.rho(at.V_minor, shear.resistance(case, "minor"))
    rho = np.maximum(rho_z, rho_y) if np.ndim(rho_z + rho_y) else max(rho_z, rho_y)
    f_y = c6_2.reduced_yield(rho, case.Fy) if np.any(np.asarray(rho) > 0) else case.Fy
    U = np.where(bends, c6_2.stress_utilisation(sigma, f_y, gamma), 0.0)
    if np.ndim(at.N) == 0 and bends and slender:
        note(f"Outside: {effective.BENT}.")
    U = np.where(bends & slender, np.nan, U)
    return U if np.ndim(U) else float(U)


def _largest_stress(case: MemberCase, at: Station) -> Any:
    """Return the largest longitudinal stress, of either sign, MPa.

    About its geometric axes, where it is said to bend so and is held all along, the moments act
    about these alone.
    """
    s = case.section
    held, _ = lateral.covered_length(case)
    level = bool(case.geometric and np.all(held))
    I_xy = 0.0 if level else s.I_xy
    together = s.I_x * s.I_y - I_xy**2
    M_x, M_y = at.signed_major, at.signed_minor
    by_y = (M_x * s.I_y - M_y * I_xy) / together
    by_x = (M_y * s.I_x - M_x * I_xy) / together
    corners = ((0.0, 0.0), (0.0, s.d), (s.t, s.d), (s.b, 0.0), (s.b, s.t))
    worst: Any = 0.0
    for x, y in corners:
        stress = np.abs(at.N / s.A - by_y * (y - s.y) - by_x * (x - s.x))
        worst = np.maximum(worst, stress)
    return worst
