"""6.4: built-up members of two chords: the chords, their lacing and their battens."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from welbric.sections.table import Section, SectionAxis
from welbric.standards.case import BucklingLengths, Check, MemberCase, Webbing, once_per_case
from welbric.standards.en1993 import shapes
from welbric.standards.en1993.chords import one_of_two
from welbric.standards.en1993.clauses import annex_bb, c6_2, c6_3_1, c6_3_2, c6_4
from welbric.standards.en1993.demands import demand
from welbric.standards.en1993.design import E, G, partial, pick, uncovered
from welbric.standards.en1993.limit_states import compression, effective
from welbric.standards.en1993.symbols import GLOSSARY
from welbric.working import given, heading, note, unrecorded

CHORDS, LACING, BATTENS = "chords", "lacing", "battens"
FEW = "fewer than three modules between its ends (6.4.1(3))"
NOT_HINGED = "6.4.1 is for ends that are held laterally"
BENT_Y = "bending of two chords about the y axis is not covered: 6.4 is for compression"
BENT_Z = "bending about the z axis of two chords without lacing or battens is not covered"
SHEARED = "shear of more than half of a chord's resistance beside its battens is not covered"
MODULES = 3


# One chord


@dataclass(frozen=True)
class Chord:
    """One of the two chords.

    Attributes
    ----------
    case : MemberCase
        The chord alone, as it buckles between joints of its webbing.
    of_whole : MemberCase
        The same, as it buckles about the member's y axis, over the member's own length.
    A, I_z, W_z, A_v : float or array
        Its area, second moment of area and least modulus about its own z axis, and what shears
        along its flanges; mm.
    h_0 : float or array
        Distance of the chords' centroids, mm.
    """

    case: MemberCase
    of_whole: MemberCase
    A: Any
    I_z: Any
    W_z: Any
    A_v: Any
    h_0: Any


@once_per_case
def chord(case: MemberCase) -> Chord:
    """Return one chord of a member."""
    kind, of = one_of_two(case)
    a, s = _webbing(case).spacing, case.section
    section: Any = Section(kind, "", of) if case.single else SectionAxis(of)
    alone = replace(case, section=section, shape=kind, connectors=None, webbing=None, cache={})
    between = replace(alone, buckling=BucklingLengths(a, a, a), cache={})
    if case.shape == shapes.TWO_I:
        h_0 = s.gap + s.bf
    else:
        # From the back of its web to its centroid; backs or toes stand at the gap.
        inside = np.where(np.asarray(s.toes_in) != 0, s.bf - of["x"], of["x"])
        h_0 = s.gap + 2 * (inside if np.ndim(inside) else float(inside))
    W_z = np.minimum(of["Wel_left"], of["Wel_right"])
    W_z = W_z if np.ndim(W_z) else float(W_z)
    return Chord(between, alone, of["A"], of["I_minor"], W_z, 2 * s.bf * s.tf, h_0)


def _webbing(case: MemberCase) -> Webbing:
    if case.webbing is None:
        raise ValueError("the member has neither lacing nor battens")
    return case.webbing


# The member as a whole


@dataclass(frozen=True)
class Together:
    """What acts in a member that bends to the second order: forces of the whole.

    Attributes
    ----------
    N_ch : float or array
        Compression of a chord, N; infinite from the critical force on.
    N_t : float or array
        Tension of a chord of a member in tension, N.
    V : float or array
        Shear force, N.
    """

    N_ch: Any
    N_t: Any
    V: Any


@once_per_case
def together(case: MemberCase) -> Together:
    """Return the forces of chords and webbing (6.4.1)."""
    d, of, web = demand(case), chord(case), _webbing(case)
    N = given(GLOSSARY, "N_Ed", d.compression, "largest compression of the member")
    M_I = given(GLOSSARY, "M_Ed_I", d.M_minor, "about the z axis, of the loads")
    V_I = given(GLOSSARY, "V_Ed_I", d.V_minor, "of the loads")
    h_0 = given(GLOSSARY, "h_0", of.h_0, "between the chords' centroids")
    A_ch = given(GLOSSARY, "A_ch", of.A, "of one chord")
    length = np.maximum(case.buckling.effective("minor"), case.buckling.length_minor)
    L = given(GLOSSARY, "L", length if np.ndim(length) else float(length), "between its ends")
    heading("The member as a whole", "6.4.1")
    if _is_laced(case):
        I_eff = c6_4.inertia_laced(h_0, A_ch)
        S_v = _stiffness_of_lacing(web, h_0)
    else:
        I_ch = given(GLOSSARY, "I_ch", of.I_z, "of one chord about its own z axis")
        with unrecorded():
            I_1 = c6_4.inertia_battened(h_0, A_ch, 1.0, I_ch)
        I_1 = given(GLOSSARY, "I_1", I_1, "by 6.74 with an efficiency factor of 1")
        mu = c6_4.efficiency(L, c6_4.radius_whole(I_1, A_ch))
        I_eff = c6_4.inertia_battened(h_0, A_ch, mu, I_ch)
        I_b = given(GLOSSARY, "I_b", web.thickness * web.width**3 / 12, "of one batten")
        S_v = c6_4.stiffness_of_battens(E, I_ch, web.spacing, web.planes, I_b, h_0)
    N_cr = c6_3_1.critical_force_z(E, I_eff, L)
    beyond = np.asarray(N / N_cr + N / S_v) >= 1
    if case.single and beyond:
        note("From its critical force on it has no moment to the second order: the member is over.")
    # Beyond it there is no moment; what stands in does not count.
    force = pick(beyond, 0.0, N)
    M_II = c6_4.moment(force if np.ndim(force) else float(force), c6_4.bow(L), M_I, N_cr, S_v)
    N_ch = c6_4.chord_force(N, M_II, h_0, A_ch, I_eff)
    V = c6_4.shear(M_II, L)
    V = c6_4.shear_beside_loads(V, V_I, M_II, M_I, L)
    N_ch, V = (np.where(beyond, np.inf, value) for value in (N_ch, V))
    N_ch, V = (value if value.ndim else float(value) for value in (N_ch, V))
    N_t: Any = 0.0
    if np.any(np.asarray(d.tension) > 0):
        tension = given(GLOSSARY, "N_Ed", d.tension, "largest tension of the segment")
        N_t = c6_4.chord_force(tension, M_I, h_0, A_ch, I_eff)
    return Together(N_ch, N_t, V)


def _stiffness_of_lacing(web: Webbing, h_0: Any) -> Any:
    if web.diagonal is None:
        raise ValueError("the member has no lacing")
    A_d = given(GLOSSARY, "A_d", web.diagonal.A, "of one diagonal")
    if web.post is None:
        d_l = c6_4.diagonal_of_zigzag(h_0, web.spacing)
        return c6_4.stiffness_of_zigzag(web.planes, E, A_d, web.spacing, h_0, d_l)
    A_p = given(GLOSSARY, "A_p", web.post.A, "of one post")
    d_l = c6_4.diagonal_beside_posts(h_0, web.spacing)
    return c6_4.stiffness_beside_posts(web.planes, E, A_d, web.spacing, h_0, d_l, A_p)


def _outside(case: MemberCase) -> tuple[Any, str]:
    """Return where the method is not for a member, and why."""
    between = np.asarray(case.buckling.length_minor)
    few = between < MODULES * _webbing(case).spacing * (1 - 1e-9)
    sways = np.asarray(case.buckling.sways_minor)
    why = NOT_HINGED if np.any(sways) else FEW
    return few | sways, why


# Checks


def _resistance(case: MemberCase, about_y: MemberCase) -> tuple[Any, Any, str]:
    """Return what a strut carries as it buckles, where that is not covered, and why."""
    chi = np.minimum(compression.chi_y(about_y)[0], compression.chi_z(case)[0])
    if shapes.twists(case.shape):
        chi = np.minimum(chi, compression.chi_t(case)[0])
    chi = given(GLOSSARY, "chi", chi if np.ndim(chi) else float(chi), "the least")
    mask, reason = compression.compressed_outside(case, chi)
    area = effective.area(case)
    return (
        c6_3_1.buckling_resistance(chi, area, case.Fy, partial(case, 1)),
        np.asarray(mask),
        reason,
    )


def chords(case: MemberCase) -> Check:
    """6.4.2.1 and 6.4.3.1: a chord between the joints of its webbing."""
    d, web = demand(case), case.webbing
    N = d.compression
    if web is None:
        acting = np.asarray(d.M_minor) > 0
        return uncovered(CHORDS, "6.4", 1.0 * acting, "number", "M_minor", BENT_Z)
    laced = _is_laced(case)
    clause = "6.4.2.1" if laced else "6.4.3.1"
    of, forces = chord(case), together(case)
    N_b, mask, reason = _resistance(of.case, of.of_whole)
    heading("A chord", clause)
    N_ch = given(GLOSSARY, "N_ch_Ed", forces.N_ch, "of the whole")
    V, M, M_Rd = np.asarray(0.0), 0.0, 1.0
    if laced:
        U = c6_3_1.utilisation(N_ch, N_b)
    else:
        V_Ed = given(GLOSSARY, "V_Ed", forces.V, "of the whole")
        M = c6_4.chord_moment(V_Ed, web.spacing)
        W_ch = given(GLOSSARY, "W_ch", of.W_z, "of one chord, the lesser")
        M_Rd = c6_2.bending(W_ch, case.Fy, partial(case, 1))
        U = c6_4.battened_chord_utilisation(N_ch, N_b, M, M_Rd)
        A_v = given(GLOSSARY, "A_v", of.A_v, "of its flanges")
        V_Rd = c6_2.plastic_shear(A_v, case.Fy, partial(case, 0))
        V = np.asarray(0.5 * V_Ed / V_Rd)
    if np.any(np.asarray(forces.N_t) > 0):
        N_pl = c6_2.plastic_tension(of.A, case.Fy, partial(case, 0))
        if laced:
            U_t = c6_2.tension_utilisation(forces.N_t, N_pl)
        else:
            U_t = c6_4.battened_chord_utilisation(forces.N_t, N_pl, M, M_Rd)
        U = np.maximum(U, U_t)
    acting = (np.asarray(N) > 0) | (np.asarray(d.M_minor) > 0)
    grounds = [_outside(case), (V > 0.5, SHEARED), (mask, reason)]
    return _check(case, (CHORDS, clause), np.asarray(U), acting, grounds)


def _check(
    case: MemberCase, what: tuple[str, str], U: Any, acting: Any, grounds: list[tuple[Any, str]]
) -> Check:
    """Return a check by name and clause; outside where it acts on one of some grounds."""
    mask, reason = np.asarray(False), ""
    for where, why in grounds:
        if np.any(where):
            mask, reason = mask | where, why
    outside = acting & mask & ~np.isinf(U)
    if case.single and np.all(outside):
        note(f"Outside: {reason}.")
    U = np.where(outside, np.nan, np.where(acting, U, 0.0))
    return Check(*what, None, None, U, "number", "compression", outside, reason)


def lacing(case: MemberCase) -> Check:
    """6.4.2.1(2): diagonals and posts under the shear of the whole."""
    return _between(case, LACING, "6.4.2.1", case.webbing is not None and _is_laced(case))


def battens(case: MemberCase) -> Check:
    """6.4.3.1: battens under the shear of the whole."""
    return _between(case, BATTENS, "6.4.3.1", case.webbing is not None and not _is_laced(case))


def _is_laced(case: MemberCase) -> bool:
    return _webbing(case).diagonal is not None


def _between(case: MemberCase, name: str, clause: str, there: bool) -> Check:
    if not there:
        return Check(name, clause, None, None, 0.0, "number", "compression")
    V = given(GLOSSARY, "V_Ed", together(case).V, "of the whole")
    U, mask, reason = (_of_lacing if _is_laced(case) else _of_battens)(case, V)
    return _check(case, (name, clause), U, np.asarray(V) > 0, [_outside(case), (mask, reason)])


def _strength(case: MemberCase) -> Any:
    """Return the yield strength of the webbing, whose parts have other thicknesses."""
    web = _webbing(case)
    if case.single and web.Fy != case.Fy:
        return given(GLOSSARY, "f_y", web.Fy, "of its own thickness")
    return web.Fy


def _strut(case: MemberCase, section: Section, length: Any) -> tuple[Any, Any, str]:
    """Return what a diagonal or a post carries; of angles not more than by BB.1.2."""
    f_y = _strength(case)
    alone = replace(
        case, section=section, shape=section.shape, cache={}, webbing=None, connectors=None,
        buckling=BucklingLengths(length, length, length), Fy=f_y,
    )  # fmt: skip
    N_b, mask, reason = _resistance(alone, alone)
    if section.shape == shapes.ANGLE:
        lambda_v = given(GLOSSARY, "lambda_v", compression.chi_z(alone)[1], "about the v axis")
        chi = c6_3_1.reduction(compression.imperfection(alone, "minor"), annex_bb.about_v(lambda_v))
        other = c6_3_1.buckling_resistance(chi, effective.area(alone), f_y, partial(case, 1))
        lesser = np.minimum(N_b, other)
        N_b = given(GLOSSARY, "N_b_Rd", lesser if np.ndim(lesser) else float(lesser), "the lesser")
    return N_b, mask, reason


def _of_lacing(case: MemberCase, V: Any) -> tuple[Any, Any, str]:
    web, of = _webbing(case), chord(case)
    if web.diagonal is None:
        raise ValueError("the member has no lacing")
    heading("A diagonal", "6.4.2.1(2)")
    length = c6_4.diagonal_of_zigzag if web.post is None else c6_4.diagonal_beside_posts
    d_l = length(of.h_0, web.spacing)
    N_l = c6_4.diagonal_force(V, d_l, web.planes, of.h_0)
    N_b, mask, reason = _strut(case, web.diagonal, d_l)
    U = np.asarray(c6_3_1.utilisation(N_l, N_b))
    if web.post is not None:
        heading("A post", "6.4.2.1(2)")
        N_p = c6_4.post_force(V, web.planes)
        N_b, where, why = _strut(case, web.post, of.h_0)
        U = np.maximum(U, c6_3_1.utilisation(N_p, N_b))
        mask, reason = mask | where, reason or why
    return U, mask, reason


def _of_battens(case: MemberCase, V: Any) -> tuple[Any, Any, str]:
    web, of = _webbing(case), chord(case)
    heading("A batten", "6.4.3.1(1)")
    b, t, gamma, f_y = web.width, web.thickness, partial(case, 0), _strength(case)
    V_b = c6_4.batten_shear(V, web.spacing, web.planes, of.h_0)
    V_Rd = c6_2.plastic_shear(given(GLOSSARY, "A_v", b * t, "of one batten"), f_y, gamma)
    M = c6_4.batten_moment(V, web.spacing, web.planes)
    W_b = c6_4.batten_modulus(b, t)
    M_Rd = c6_2.bending(W_b, f_y, gamma)
    # Where shear alone is too much, what is left for bending does not count.
    sheared = np.asarray(V_b >= V_Rd)
    small = np.asarray(c6_2.shear_is_small(V_b, V_Rd)) | sheared
    beside = M_Rd
    if not np.all(small):
        rho = pick(small, 0.0, c6_2.shear_reduction(V_b, V_Rd))
        left = c6_2.reduced_yield(rho if np.ndim(rho) else float(rho), f_y)
        beside = c6_2.bending(W_b, left, gamma)
    # Its ends bend it alike in opposite senses, between the chords.
    clear = np.maximum(case.section.gap, 1.0)
    L_b = given(GLOSSARY, "L_b", clear if np.ndim(clear) else float(clear), "between the chords")
    I_z = given(GLOSSARY, "I_b_z", b * t**3 / 12, "of one batten")
    I_t = given(GLOSSARY, "I_b_t", b * t**3 / 3, "of one batten")
    bent = pick(np.asarray(M) > 0, M, 1.0)
    bent = bent if np.ndim(bent) else float(bent)
    C_1 = c6_3_2.moment_shape(bent, 0.5 * bent, 0.0 * bent, 0.5 * bent)
    M_cr = c6_3_2.critical_moment(C_1, E, I_z, L_b, 0.0, G, I_t)
    alpha = given(GLOSSARY, "alpha_LT", c6_3_1.IMPERFECTION["d"], "Table 6.4")
    lambda_LT = c6_3_2.slenderness(W_b, f_y, M_cr)
    chi = c6_3_2.reduction(alpha, lambda_LT, 0.2, 1.0)
    buckles = c6_3_2.buckling_resistance(chi, W_b, f_y, partial(case, 1))
    U = c6_4.batten_utilisation(V_b, V_Rd, M, beside, buckles)
    return np.asarray(U), np.asarray(False), ""


def bending_major(case: MemberCase) -> Check:
    """About the y axis of two chords: outside."""
    M = demand(case).M_max
    return uncovered("bending, y axis", "6.4", M, "moment", "M_max", BENT_Y)
