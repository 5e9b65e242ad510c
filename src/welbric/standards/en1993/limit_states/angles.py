"""Angles in bending: the stresses at their corners (6.2.1(4), 6.42), whatever the axes."""

from __future__ import annotations

import functools
from dataclasses import replace
from typing import Any

import numpy as np

from welbric.standards.case import Check, MemberCase
from welbric.standards.en1993.clauses import c6_2, c6_3_1, c6_3_2, c6_3_4
from welbric.standards.en1993.demands import Station, demand, worst_station
from welbric.standards.en1993.design import E, G, partial, pick
from welbric.standards.en1993.limit_states import compression, effective, lateral, shear
from welbric.standards.en1993.symbols import GLOSSARY
from welbric.working import given, heading, note

NEARLY = 0.99  # of a critical force, and of what shear takes: there their effects end
NAME, CLAUSE = "normal stress", "6.2.1(4)"


def normal_stress(case: MemberCase) -> Check:
    """6.42 at the worst station, elastic, of axial force and bending about both axes."""
    U, case.cache["station"] = worst_station(case, _at_station)
    return Check(NAME, CLAUSE, None, None, U, "number", "station")


def _at_station(case: MemberCase, at: Station) -> Any:
    """Return the largest stress of a station over its resistance; 0 where nothing bends."""
    gamma = partial(case, 0)
    bends = (np.asarray(at.M_major) > 0) | (np.asarray(at.M_minor) > 0)
    heading("Stress", CLAUSE)
    if np.ndim(at.N) == 0:
        given(GLOSSARY, "N_Ed", abs(float(at.N)), "at this place")
        given(GLOSSARY, "M_y_Ed", float(at.M_major), "about the level axis, at this place")
        given(GLOSSARY, "M_z_Ed", float(at.M_minor), "about the upright axis, at this place")
    at, shifts = _with_shift(case, at)
    bends = bends | shifts
    sigma = _largest_stress(case, at)
    if np.ndim(at.N) == 0:
        sigma = given(GLOSSARY, "sigma_x_Ed", float(sigma), "at the worst of five corners")
    rho_z = c6_2.rho(at.V_major, shear.resistance(case, "major"))
    rho_y = c6_2.rho(at.V_minor, shear.resistance(case, "minor"))
    rho = np.maximum(rho_z, rho_y) if np.ndim(rho_z + rho_y) else max(rho_z, rho_y)
    rho = np.minimum(rho, NEARLY) if np.ndim(rho) else min(rho, NEARLY)
    f_y = c6_2.reduced_yield(rho, case.Fy) if np.any(np.asarray(rho) > 0) else case.Fy
    U = np.where(bends, c6_2.stress_utilisation(sigma, f_y, gamma), 0.0)
    return U if np.ndim(U) else float(U)


def _with_shift(case: MemberCase, at: Station) -> tuple[Station, Any]:
    """Return forces with the moments of a compression about the effective section's axes."""
    gross, counts = case.section, effective.angle(case)
    pressed = np.maximum(-np.asarray(at.N), 0.0)
    up, across = gross.y - counts["y"], gross.x - counts["x"]
    shifts = (pressed > 0) & np.asarray(up + across > 0)
    # A web member has its eccentricities in its slenderness (BB.1.2).
    if case.one_leg is not None or not np.any(shifts):
        return at, np.asarray(False)
    if np.ndim(at.N) == 0:
        given(GLOSSARY, "e_N", float(up), "upwards (6.2.2.5(4))")
        given(GLOSSARY, "e_N", float(across), "away from the heel (6.2.2.5(4))")
    own = ("signed_major", at.signed_major + pressed * up), (
        "signed_minor", at.signed_minor + pressed * across
    )  # fmt: skip
    return replace(at, **{k: v if np.ndim(v) else float(v) for k, v in own}), shifts


def lateral_torsional(case: MemberCase, name: str) -> Check:
    """6.3.2.2 of a length that is not held: elastic stresses of bending by curve d."""
    held, _ = lateral.covered_length(case)
    U_sigma, station = _bending_alone(case)
    U = c6_3_4.lateral_stresses(U_sigma, reduction(case))
    bends = (np.asarray(U_sigma) > 0) & ~held
    case.cache["station"] = station
    return Check(name, "6.3.2.2", None, None, np.where(bends, U, 0.0), "number", "station")


def buckling(case: MemberCase, name: str) -> Check:
    """Compression beside bending about any axes, by elastic stresses (6.2.1(7))."""
    d, clause = demand(case), "6.2.1(7), 6.3"
    N_Ed = given(GLOSSARY, "N_Ed", d.compression, "largest compression of the member")
    bent = (np.asarray(d.M_max) > 0) | (np.asarray(d.M_minor) > 0)
    bent = bent | np.asarray(effective.angle(case)["A"] < case.section.A * (1 - 1e-9))
    together = (np.asarray(N_Ed) > 0) & bent & (case.one_leg is None)
    if not np.any(together):
        if case.single:
            note("Nothing to combine.")
        return Check(name, clause, None, None, 0.0, "number", "M_major")
    U_sigma, _ = _bending_alone(case)
    chi_LT = reduction(case)
    chis = [compression.chi_y(case)[0], compression.chi_z(case)[0], compression.chi_t(case)[0]]
    chi = functools.reduce(np.minimum, chis)
    N_cr = functools.reduce(
        np.minimum,
        [
            *(compression.critical_force(case, axis) for axis in ("major", "minor")),
            compression.critical_twisting(case),
        ],
    )
    heading("Compression beside bending", clause)
    if case.single:
        chi = given(GLOSSARY, "chi", float(chi), "the least of all modes")
        N_cr = given(GLOSSARY, "N_cr_op", float(N_cr), "the least of all modes")
        U_sigma = given(GLOSSARY, "U_sigma", float(U_sigma), "of bending alone, from above")
    N_b = c6_3_1.buckling_resistance(chi, effective.area(case), case.Fy, partial(case, 1))
    force = np.minimum(N_Ed, NEARLY * N_cr)
    U = c6_3_4.of_stresses(force if np.ndim(force) else float(force), N_b, N_cr, U_sigma, chi_LT)
    if np.any(force < np.asarray(N_Ed)):  # beyond a critical force
        U = np.maximum(U, N_Ed / N_b) if np.ndim(U) else U
        if np.ndim(U) == 0 and N_Ed / N_b > U:
            U = c6_3_1.utilisation(N_Ed, N_b)
    mask, reason = compression.compressed_outside(case, chi)
    outside = together & np.asarray(mask)
    if case.single and np.all(outside):
        note(f"Outside: {reason}.")
    U = np.where(outside, np.nan, np.where(together, U, 0.0))
    return Check(name, clause, None, None, U, "number", "M_major", outside, reason)


def _bending_alone(case: MemberCase) -> tuple[Any, Any]:
    """Return the stresses of bending alone over their resistance, at the worst place."""

    def bending(one: MemberCase, at: Station) -> Any:
        shifted, _ = _with_shift(one, at)
        return _at_station(one, replace(shifted, N=0.0 * at.N, M_major=_bent(shifted)))

    return worst_station(case, bending)


def _bent(at: Station) -> Any:
    """Return a moment that is there where any is."""
    M = np.abs(at.signed_major) + np.abs(at.signed_minor)
    return M if np.ndim(M) else float(M)


def reduction(case: MemberCase) -> Any:
    """Return chi_LT of an angle: 1 where it is held, else of uniform moment about u, by curve d.

    Of unequal legs the sense that is the worse one is taken.
    """
    held, L = lateral.covered_length(case)
    if case.single and np.all(held):
        return given(GLOSSARY, "chi_LT", 1.0, "a leg is continuously restrained")
    heading("Lateral-torsional buckling", "6.3.2.2")
    s = case.section
    z_j = -np.abs(s.beta_major) / 2
    if case.single:
        z_j = given(GLOSSARY, "z_j", float(z_j), "of the worse sense")
    M_cr = c6_3_2.critical_moment_unequal(1.0, E, s.I_minor, L, 0.0, G, s.J, z_j)
    lambda_LT = c6_3_2.slenderness(s.Wel_major, case.Fy, M_cr)
    chi = c6_3_2.reduction(c6_3_1.IMPERFECTION["d"], lambda_LT, 0.2, 1.0)
    return pick(held, 1.0, chi)


def _largest_stress(case: MemberCase, at: Station) -> Any:
    """Return the largest longitudinal stress, of either sign, MPa; of class 4 of what counts.

    About its geometric axes, where it is said to bend so and is held all along, the moments act
    about these alone.
    """
    s = effective.angle(case)
    held, _ = lateral.covered_length(case)
    level = bool(case.geometric and np.all(held))
    I_xy = 0.0 if level else s["I_xy"]
    together = s["I_x"] * s["I_y"] - I_xy**2
    M_x, M_y = at.signed_major, at.signed_minor
    by_y = (M_x * s["I_y"] - M_y * I_xy) / together
    by_x = (M_y * s["I_x"] - M_x * I_xy) / together
    d, b, t = s["d"], s["b"], s["t"]
    corners = ((0.0, 0.0), (0.0, d), (t, d), (b, 0.0), (b, t))
    worst: Any = 0.0
    for x, y in corners:
        stress = np.abs(at.N / s["A"] - by_y * (y - s["y"]) - by_x * (x - s["x"]))
        worst = np.maximum(worst, stress)
    return worst
