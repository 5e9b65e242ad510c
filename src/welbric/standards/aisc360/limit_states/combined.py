"""Combined forces: H1 and H2 with the second order of Appendix 8, and H3.2 with torsion."""

from __future__ import annotations

from typing import Any

import numpy as np

from welbric.sections.table import Section
from welbric.standards.aisc360.clauses import appendix_8, c2, e3, h1_h2, h3_h4
from welbric.standards.aisc360.demands import demand
from welbric.standards.aisc360.design import (
    E,
    Family,
    effective_length_major,
    effective_length_minor,
    flexure,
    moment_shape_factor,
    pick,
    uncovered,
)
from welbric.standards.aisc360.limit_states import corners
from welbric.standards.aisc360.limit_states.strengths import (
    bending_not_covered,
    compression_not_covered,
    compressive_strength,
    family,
    flexural_strength_major,
    flexural_strength_minor,
    major_buckling_strength,
    minor_buckling_strength,
    minor_not_covered,
    tensile_strength,
)
from welbric.standards.aisc360.options import is_direct_analysis, of_job
from welbric.standards.aisc360.symbols import GLOSSARY
from welbric.standards.case import (
    BucklingLengths,
    Check,
    MemberCase,
    Segments,
    once_per_case,
    uniform_effects,
)
from welbric.working import either, given, heading, holds, note


@once_per_case
def required_moments(case: MemberCase) -> tuple[Any, Any]:
    """Return the required moments about the axes of the strengths.

    For a single angle they are principal axes: each geometric moment counts in both, whatever its
    sense.
    """
    d = demand(case)
    if not family(case.shape).principal:
        return d.M_major, d.M_minor
    if case.geometric:
        return np.maximum(d.M_max, d.M_major), d.M_minor
    s = case.section
    cos, sin = np.abs(np.cos(s.angle)), np.abs(np.sin(s.angle))
    about_x = np.maximum(d.M_max, d.M_major)
    major, minor = about_x * cos + d.M_minor * sin, about_x * sin + d.M_minor * cos
    return (major, minor) if np.ndim(major) else (float(major), float(minor))


@once_per_case
def squash_load(case: MemberCase) -> Any:
    """Return the compressive strength of the cross-section, nominal (C2.3)."""
    Pc = family(case.shape).compression(case, case.Fy)
    return Pc / e3.PHI if case.method == "LRFD" else Pc * e3.OMEGA


def squash_load_of(section: Section, Fy: float) -> float:
    """Return the compressive strength of a section, nominal (C2.3): on its effective area (E7)."""
    case = MemberCase(
        section=section, shape=section.shape, Fy=Fy, Fu=Fy, method="LRFD", single=True,
        effects=uniform_effects(), segments=Segments(0.0), buckling=BucklingLengths(1.0, 1.0, 1.0),
    )  # fmt: skip
    outside, _ = compression_not_covered(family(case.shape), case)
    return section.A * Fy if np.any(outside) else float(squash_load(case))


def _second_order(case: MemberCase, axis: str, M: Any) -> Any:
    """Return the moment about an axis with its second-order effects (Appendix 8).

    Where nothing bends about the axis there is nothing to multiply, whatever the axial force:
    buckling about it is E3's.
    """
    if case.second_order_included or not np.any(M):
        return M
    found = _multiplied(case, axis, M)
    return found if np.ndim(M) == 0 else np.where(np.asarray(M) == 0, 0.0, found)


def _multiplied(case: MemberCase, axis: str, M: Any) -> Any:
    """Return a moment times B1, or B2 where the ends move against each other."""
    d, s = demand(case), case.section
    major = axis == "major"
    heading(f"Second-order moment about the {axis} axis", "Appendix 8")
    alpha = given(GLOSSARY, "alpha", appendix_8.ALPHA[case.method], f"{case.method}, C2.1")
    I = s.I_major if major else s.I_minor
    if is_direct_analysis(of_job(case)):
        Pns = given(GLOSSARY, "Pns", squash_load(case), "Fy on the effective area (E7)")
        I = c2.softened(alpha, d.compression, Pns, I)
    if case.buckling.sways_major if major else case.buckling.sways_minor:
        Lc1 = effective_length_major(case) if major else effective_length_minor(case)
        return appendix_8.second_order_sway_moment(E, I, Lc1, d.compression, M, alpha)
    Lc1 = case.buckling.length_major if major else case.buckling.length_minor
    given(GLOSSARY, "Lc1", Lc1, f"unbraced length, {axis} axis, ends held in position")
    loaded, ratio = _moments_between_ends(case, major)
    if loaded:
        Cm = given(GLOSSARY, "Cm", 1.0, "loads act between the ends (A-8.2.1)")
    else:
        Cm = appendix_8.end_moment_factor(ratio)
    return appendix_8.second_order_moment(E, I, Lc1, d.compression, M, alpha, Cm)


def _moments_between_ends(case: MemberCase, major: bool) -> tuple[bool, Any]:
    """Return whether loads act between the ends, and the ratio of the end moments.

    A moment about a principal axis has a part of each geometric one: the worse of the two counts.
    """
    d = demand(case)
    if not family(case.shape).principal or case.geometric:
        loaded = case.loaded_major if major else case.loaded_minor
        return loaded, d.end_ratio_major if major else d.end_ratio_minor
    # Without a moment about an axis its ratio is that of uniform moment: it would hide the other.
    about_x = pick(np.asarray(d.M_minor) > 0, np.minimum(d.end_ratio_major, d.end_ratio_minor),
                   d.end_ratio_major)  # fmt: skip
    ratio = pick(np.maximum(d.M_max, d.M_major) > 0, about_x, d.end_ratio_minor)
    return case.loaded_major or case.loaded_minor, ratio if np.ndim(ratio) else float(ratio)


def _several(*effects: Any) -> Any:
    """Return where two or more of the effects act together."""
    acting: Any = 0
    for effect in effects:
        acting = acting + (np.asarray(effect) > 0)
    return acting >= 2


def _interaction(
    case: MemberCase, compressed: bool, Pr: Any, Pc: Any, Mrx: Any, Mcx: Any, Mry: Any, Mcy: Any
) -> Any:
    """Return the ratio of H1.1 or H1.2; of H2 for others, at their corners where known."""
    if not family(case.shape).principal:
        return h1_h2.interaction(Pr, Pc, Mrx, Mcx, Mry, Mcy)
    if case.geometric or case.reduced is not None or not corners.places(case):
        return h1_h2.stresses_added(Pr, Pc, Mrx, Mcx, Mry, Mcy)
    Mx, My = required_moments(case)
    strengths = (Pr, Pc, Mcx, Mcy, _times(Mrx, Mx), _times(Mry, My))
    return corners.interaction(case, compressed, *strengths)


def _times(more: Any, first: Any) -> Any:
    """Return what the second order multiplies a moment by."""
    found = np.where(np.asarray(first) > 0, more / np.where(first > 0, first, 1.0), 1.0)
    return found if found.ndim else float(found)


def _combined_outside(of: Family, case: MemberCase, Mrx: Any, Mry: Any) -> tuple[Any, str]:
    """Return where a part of the interaction is outside, and why."""
    major, why_major = bending_not_covered(of, case)
    minor, why_minor = minor_not_covered(of, case)
    # A moment that compresses the other flange bends the segment too.
    bends = (np.asarray(Mrx) > 0) | (np.asarray(demand(case).M_max) > 0)
    mask = (np.asarray(major) & bends) | (np.asarray(minor) & (np.asarray(Mry) > 0))
    by_minor = np.any(np.asarray(minor) & (np.asarray(Mry) > 0))
    return mask, why_minor if by_minor else why_major


def compression_and_bending(case: MemberCase) -> Check:
    """H1.1, or by choice H1.3 where it applies and is the more favourable; H2 for angles."""
    d, of = demand(case), family(case.shape)
    Pr = given(GLOSSARY, "Pr", d.compression, "largest compression of the member")
    Pc = compressive_strength(case)
    Mcx, Mcy = flexural_strength_major(case), flexural_strength_minor(case)
    Mx, My = required_moments(case)
    Mrx, Mry = _second_order(case, "major", Mx), _second_order(case, "minor", My)
    mask, reason = _combined_outside(of, case, Mx, My)
    alone, why = compression_not_covered(of, case)
    if np.any(alone):
        alone = np.asarray(alone) & (np.asarray(d.compression) > 0)
        mask, reason = mask | alone, why if np.any(alone) else reason
    if of.flexural and case.one_leg is not None:
        # The eccentricity is in the slenderness of E5; bending beside it is not.
        mask = mask | _several(Mx + My, d.compression)
        reason = "E5 is for axial force alone; bending besides is outside"
    heading("Interaction", "H2" if of.principal else "H1.1")
    U = _interaction(case, True, Pr, Pc, Mrx, Mcx, Mry, Mcy)
    clause = "H2" if of.principal else "H1.1"
    if of_job(case).separate_planes and case.shape == "rolled I":
        U = h1_h2.more_favourable(U, _separate_planes(case, Pr, Mrx, Mry, Mcy, U))
        clause = "H1.3"
    together = _several(d.compression, Mx, My)
    return _combined("compression and bending", clause, U, together, mask, reason, "M_major")


def _separate_planes(case: MemberCase, Pr: Any, Mrx: Any, Mry: Any, Mcy: Any, H1_1: Any) -> Any:
    """Return the ratio of H1.3 where it applies, else that of H1.1."""
    from welbric.standards.aisc360.limit_states import i_bending, i_shapes

    heading("In-plane and out-of-plane verified apart", "H1.3")
    Mcx_in_plane = np.minimum(
        i_bending.yielding_strength(case), i_bending.flange_buckling_strength(case)
    )
    in_plane = h1_h2.interaction(Pr, major_buckling_strength(case), Mrx, Mcx_in_plane, 0.0, Mcy)
    Cb = moment_shape_factor(case)
    with_Cb_1 = flexure(case, i_bending.nominal_lateral_torsional(case, 1.0))
    out = h1_h2.interaction_out_of_plane(Pr, minor_buckling_strength(case), Mrx, Cb, with_Cb_1)
    compact = i_shapes.flange_slenderness(case) <= i_bending.flange_limits(case)[0]
    short = case.buckling.effective("torsion") <= case.buckling.effective("minor")
    one_plane = holds(h1_h2.bends_in_one_plane, Mry=Mry, Mcy=Mcy)
    applies = np.asarray(one_plane) & np.asarray(compact) & np.asarray(short)
    if np.ndim(applies) == 0 and not applies:
        note("H1.3 does not apply here; the ratio of H1.1 stands.")
        return H1_1
    return np.where(applies, h1_h2.planes_apart(in_plane, out), H1_1)


def tension_and_bending(case: MemberCase) -> Check:
    """H1.2; H2 for angles."""
    d, of = demand(case), family(case.shape)
    Pr = given(GLOSSARY, "Pr", d.tension, "largest tension of the segment")
    Pc = tensile_strength(case)
    Mcx, Mcy = flexural_strength_major(case), flexural_strength_minor(case)
    Mx, My = required_moments(case)
    mask, reason = _combined_outside(of, case, Mx, My)
    heading("Interaction", "H2" if of.principal else "H1.2")
    U = _interaction(case, False, Pr, Pc, Mx, Mcx, My, Mcy)
    together = _several(d.tension, Mx, My) & (np.asarray(d.tension) > 0)
    clause = "H2" if of.principal else "H1.2"
    return _combined("tension and bending", clause, U, together, mask, reason, "M_max")


def _combined(
    name: str, clause: str, U: Any, together: Any, outside: Any, reason: str, effect: str
) -> Check:
    outside = np.asarray(outside) & together
    U = np.where(outside, np.nan, np.where(together, U, 0.0))
    return Check(name, clause, None, None, U, "number", effect, outside, reason)


def with_torsion(case: MemberCase) -> Check:
    """H3.2, where torsion is more than a fifth of its strength."""
    d, of = demand(case), family(case.shape)
    if of.torsion is None or of.shear_major is None:
        return no_torsion(case)
    Tr, Tc = given(GLOSSARY, "Tr", d.torsion, "of the segment"), of.torsion.strength(case)
    Mcx, Mcy = flexural_strength_major(case), flexural_strength_minor(case)
    Mx, My = required_moments(case)
    axial: Any = 0.0
    Pr: Any = d.compression
    Pc = compressive_strength(case)
    if np.any(np.asarray(d.tension) > 0):
        in_tension = np.asarray(d.tension) / tensile_strength(case) > np.asarray(Pr) / Pc
        Pr = np.where(in_tension, d.tension, Pr)
        Pc = np.where(in_tension, tensile_strength(case), Pc)
    Mrx, Mry = _second_order(case, "major", Mx), _second_order(case, "minor", My)
    Vr, Vc = d.V_major, of.shear_major.strength(case)
    if of.shear_minor is not None:
        other = of.shear_minor.strength(case)
        Vr = np.where(d.V_minor / other > Vr / Vc, d.V_minor * Vc / other, Vr)
    else:
        Vr = np.hypot(d.V_major, d.V_minor)
    mask, reason = _combined_outside(of, case, Mx, My)
    heading("Interaction with torsion", "H3.2")
    symbols = {
        "Pr": Pr, "Pc": Pc, "Mrx": Mrx, "Mcx": Mcx, "Mry": Mry, "Mcy": Mcy,
        "Vr": Vr, "Vc": Vc, "Tr": Tr, "Tc": Tc, "U_1": axial,
    }  # fmt: skip
    symbols = {k: v if np.ndim(v) else float(v) for k, v in symbols.items()}
    U = either(
        h3_h4.torsion_is_small,
        h3_h4.torsion_left_out,
        h3_h4.with_torsion,
        **symbols,
    )
    acting = np.asarray(d.torsion) > 0
    return _combined("forces with torsion", "H3.2", U, acting, mask, reason, "torsion")


def no_torsion(case: MemberCase) -> Check:
    """Return torsion as outside: the shape has no clause for it."""
    why = f"torsion of a {case.shape} is not covered: H3.1 is for hollow sections"
    return uncovered("torsion", "H3", demand(case).torsion, "moment", "torsion", why)
