"""Annex A: interaction factors of method 1 for 6.3.3, by choice."""

from __future__ import annotations

from typing import Any

import numpy as np

from welbric.standards.case import MemberCase
from welbric.standards.en1993.clauses import annex_a, c6_3_2
from welbric.standards.en1993.design import E, G, pick
from welbric.standards.en1993.limit_states import compression, lateral
from welbric.standards.en1993.limit_states.moment_shapes import base_factor
from welbric.standards.en1993.symbols import GLOSSARY
from welbric.working import given

NEARLY = 0.99  # of an elastic critical force: there the factors end
NONE = 1e-9  # N, stands for no axial force where something is divided by it
SWAYS = "members that sway are not covered by Annex A: choose Annex B"


def critical_forces(case: MemberCase) -> tuple[Any, Any, Any]:
    """Return N_cr,y, N_cr,z and N_cr,T."""
    y, z = (compression.critical_force(case, axis) for axis in ("major", "minor"))
    return y, z, compression.critical_torsion(case)


def factors(
    case: MemberCase,
    kind: Any,
    N: Any,
    N_b: Any,
    M_y: Any,
    M_z: Any,
    chi_y: Any,
    lambda_y: Any,
    chi_z: Any,
    lambda_z: Any,
    chi_LT: Any,
    N_Rk: Any,
    W_y: Any,
    gamma: Any,
) -> dict[str, Any]:
    """Return the interaction factors.

    Beyond the resistance N_b in compression, and nearly a critical force, they are those there:
    what is over stays so.
    """
    s, plastic = case.section, np.asarray(kind) <= 2
    y, z, t = critical_forces(case)
    most = np.maximum(N_b, NEARLY * np.minimum(np.minimum(y, z), t))
    force = np.maximum(np.minimum(N, most), NONE)
    if case.single:
        force = float(force)
        if force < N:
            force = given(GLOSSARY, "N_Ed", force, "for the factors: nearly the critical force")
    mu_y, mu_z = annex_a.mu_y(force, y, chi_y), annex_a.mu_z(force, z, chi_z)
    w_y, w_z = annex_a.w_y(s.Wpl_major, s.Wel_major), annex_a.w_z(s.Wpl_minor, s.Wel_minor)
    a_LT = annex_a.torsion_share(s.J, s.I_major)
    base_y = base_factor(case, "major", force, y)
    C_mz = base_factor(case, "minor", force, z)
    if lateral.may_buckle_laterally(case):
        held = (np.asarray(case.segments.unbraced) <= 0) | lateral.is_square(case)
        L: Any = np.where(held, 1.0, case.segments.unbraced)
        L = L if np.ndim(L) else float(L)
        M_0 = c6_3_2.critical_moment(1.0, E, s.I_minor, L, s.Cw, G, s.J)
        lambda_0 = pick(held, 0.0, c6_3_2.slenderness(W_y, case.Fy, M_0))
        lambda_0 = lambda_0 if np.ndim(lambda_0) else float(lambda_0)
        limit = annex_a.slenderness_limit(lateral.C_1(case), force, z, t)
        if case.single:
            given(GLOSSARY, "lambda_0", lambda_0, "under uniform moment")
    else:
        lambda_0, limit = 0.0, 0.2
    modulus = pick(plastic, s.Wel_major, W_y)
    area = pick(np.asarray(kind) <= 3, s.A, N_Rk / case.Fy)
    e_y = annex_a.eccentricity(M_y, force, area, modulus)
    C_my = annex_a.C_my(lambda_0, limit, base_y, e_y, a_LT)
    C_mLT = annex_a.C_mLT(lambda_0, limit, C_my, a_LT, force, z, t)
    k = {
        "k_yy": annex_a.k_yy(C_my, C_mLT, mu_y, force, y),
        "k_yz": annex_a.k_yz(C_mz, mu_y, force, z),
        "k_zy": annex_a.k_zy(C_my, C_mLT, mu_z, force, y),
        "k_zz": annex_a.k_zz(C_mz, mu_z, force, z),
    }
    if np.any(plastic):
        n_pl = annex_a.axial_share(force, N_Rk, gamma)
        longest = annex_a.larger_slenderness(lambda_y, lambda_z)
        m_y = M_y / (chi_LT * s.Wpl_major * case.Fy / gamma)
        m_z = M_z / (s.Wpl_minor * case.Fy / gamma)
        if case.single:
            m_y = given(GLOSSARY, "m_y", float(m_y), "My,Ed over χLT Mpl,y,Rd")
            m_z = given(GLOSSARY, "m_z", float(m_z), "Mz,Ed over Mpl,z,Rd")
        el_y, pl_y, el_z, pl_z = s.Wel_major, s.Wpl_major, s.Wel_minor, s.Wpl_minor
        b_LT = annex_a.b_LT(a_LT, lambda_0, m_y, m_z)
        c_LT = annex_a.c_LT(a_LT, lambda_0, lambda_z, C_my, m_y)
        d_LT = annex_a.d_LT(a_LT, lambda_0, lambda_z, C_my, m_y, C_mz, m_z)
        e_LT = annex_a.e_LT(a_LT, lambda_0, lambda_z, C_my, m_y)
        C_yy = annex_a.C_yy(w_y, C_my, longest, n_pl, b_LT, el_y, pl_y)
        C_yz = annex_a.C_yz(w_y, w_z, C_mz, longest, n_pl, c_LT, el_z, pl_z)
        C_zy = annex_a.C_zy(w_y, w_z, C_my, longest, n_pl, d_LT, el_y, pl_y)
        C_zz = annex_a.C_zz(w_z, C_mz, longest, n_pl, e_LT, el_z, pl_z)
        of_plastic = {
            "k_yy": annex_a.k_yy_plastic(k["k_yy"], C_yy),
            "k_yz": annex_a.k_yz_plastic(k["k_yz"], C_yz, w_z, w_y),
            "k_zy": annex_a.k_zy_plastic(k["k_zy"], C_zy, w_y, w_z),
            "k_zz": annex_a.k_zz_plastic(k["k_zz"], C_zz),
        }
        k = {name: pick(plastic, of_plastic[name], k[name]) for name in k}
    return k
