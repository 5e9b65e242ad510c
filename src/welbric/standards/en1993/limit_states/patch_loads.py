"""EN 1993-1-5, 6 and 7.2: concentrated forces on the web of an I-section without a stiffener."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import numpy as np

from welbric.standards.case import (
    Bearing,
    BucklingLengths,
    Check,
    MemberCase,
    Segments,
    uniform_effects,
)
from welbric.standards.en1993 import shapes
from welbric.standards.en1993.clauses import part_1_5
from welbric.standards.en1993.design import E
from welbric.standards.en1993.limit_states import bending, effective
from welbric.standards.en1993.options import LIMIT_STATES, job_options
from welbric.standards.en1993.symbols import GLOSSARY
from welbric.working import given, heading, note, unrecorded

NAME, CLAUSE = "concentrated force", "EN 1993-1-5, 6"
SLENDER = 0.5  # from which on m_2 counts (6.9)


def checks(of: Bearing) -> list[Callable[[Bearing], Check]]:
    """Return the limit states of the web under a force that presses or pulls it."""
    if _reason(of):
        return [_outside]
    return [patch_load, beside_bending]


def _reason(of: Bearing) -> str:
    if of.shape not in shapes.DOUBLE_I:
        return (
            "concentrated forces are covered on the webs of I-sections with two axes of symmetry; "
            f"this is a {of.shape}"
        )
    if of.stiffeners is not None:
        return "stiffeners under concentrated forces (EN 1993-1-5, 9.4) are not covered"
    if of.pulls:
        return "forces that pull a flange from its web are not covered"
    return ""


def _outside(of: Bearing) -> Check:
    why = _reason(of)
    U = np.where(np.asarray(of.force) > 0, np.nan, 0.0)
    if np.ndim(U) == 0:
        note(f"Outside: {why}.")
    return Check(NAME, CLAUSE, of.force, None, U, "force", "", np.isnan(U), why)


def _resistance(of: Bearing) -> Any:
    """Return F_Rd."""
    heading("Resistance of the web", CLAUSE)
    s, f_y = of.section, of.Fy
    h_w = s.d - 2 * s.tf
    s_s = given(GLOSSARY, "s_s", min(of.length, h_w), "at most the depth of the web")
    # Beside the middle of the force lies half its bearing; at an end the bearing is all inside.
    c_e = given(GLOSSARY, "c_e", max(of.from_end - s_s / 2, 0.0), "from the bearing to the end")
    with unrecorded():
        k_end = part_1_5.near_an_end(s_s, c_e, h_w)
    # Of the three that fit the least: near an end, from flange to flange, through one flange.
    at_end = k_end < (3.5 if of.both_flanges else 6.0)
    if at_end:
        k_F = part_1_5.near_an_end(s_s, c_e, h_w)
    else:
        k_F = (part_1_5.through_both_flanges if of.both_flanges else part_1_5.through_one_flange)()
    F_cr = part_1_5.critical_patch_load(k_F, E, s.tw, h_w)
    first, second = part_1_5.m_1(s.bf, s.tw), part_1_5.m_2(h_w, s.tf)
    l_y = _loaded_length(of, k_F, s_s, c_e, h_w, first, second, at_end)
    lambda_F = part_1_5.patch_slenderness(l_y, s.tw, f_y, F_cr)
    if lambda_F <= SLENDER:
        none = given(GLOSSARY, "m_2", 0.0, "6.9: the web is stocky")
        l_y = _loaded_length(of, k_F, s_s, c_e, h_w, first, none, at_end)
        lambda_F = part_1_5.patch_slenderness(l_y, s.tw, f_y, F_cr)
    gamma = given(GLOSSARY, "gamma_M1", job_options(of.options).values.gamma_M1, "6.1")
    return part_1_5.patch_resistance(part_1_5.patch_reduction(lambda_F), l_y, s.tw, f_y, gamma)


def _loaded_length(
    of: Bearing, k_F: Any, s_s: Any, c_e: Any, h_w: Any, m_1: Any, m_2: Any, at_end: bool
) -> Any:
    s = of.section
    if not at_end:
        return part_1_5.loaded_length(s_s, s.tf, m_1, m_2)
    l_e = part_1_5.length_at_end(k_F, E, s.tw, of.Fy, h_w, s_s, c_e)
    return part_1_5.loaded_length_at_end(s_s, s.tf, m_1, m_2, l_e)


def patch_load(of: Bearing) -> Check:
    """6.6: the force alone."""
    F_Ed = given(GLOSSARY, "F_Ed", of.force, of.source) if np.ndim(of.force) == 0 else of.force
    F_Rd = _resistance(of)
    U = part_1_5.patch_utilisation(F_Ed, F_Rd)
    return Check(NAME, CLAUSE, F_Ed, F_Rd, U, "force", "")


def beside_bending(of: Bearing) -> Check:
    """7.2: the force beside bending and axial force."""
    single = np.ndim(of.force) == 0
    F_Ed = given(GLOSSARY, "F_Ed", of.force, of.source) if single else of.force
    M = given(GLOSSARY, "M_y_Ed", of.moment, "at this place") if single else of.moment
    F_Rd = _resistance(of)
    # Of class 4 the effective modulus counts, as it does for every other check.
    case = MemberCase(
        section=of.section, shape=of.shape, Fy=of.Fy, Fu=of.Fy, method=LIMIT_STATES,
        effects=uniform_effects(), segments=Segments(unbraced=0.0),
        buckling=BucklingLengths(1.0, 1.0, 1.0), options=of.options, single=True,
    )  # fmt: skip
    W = given(GLOSSARY, "W_y", float(bending.modulus(case, "major", 3.0)), "of the elastic section")
    gamma = given(GLOSSARY, "gamma_M0", job_options(of.options).values.gamma_M0, "6.1")
    N = np.abs(of.axial)
    A = np.where(np.asarray(of.axial) > 0, effective.area(case), of.section.A)
    if single:
        N = given(GLOSSARY, "N_Ed", float(N), "at this place")
        A = given(GLOSSARY, "A_eff", float(A), "what counts of the area")
    eta_1 = part_1_5.longitudinal_stress(N, A, M, W, of.Fy, gamma)
    U = part_1_5.patch_beside_stress(F_Ed, F_Rd, eta_1)
    U = np.where(np.asarray(of.force) > 0, U, 0.0)
    U = float(U) if single else U
    return Check(
        "concentrated force beside bending", "EN 1993-1-5, 7.2", None, None, U, "number", ""
    )
