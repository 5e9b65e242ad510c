"""Flanges with a cover plate or a channel on them: what F4 and F5 take as the flange (F13.3)."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np

from welbric.standards.aisc360.clauses import b4, f4_f5
from welbric.standards.aisc360.design import E, pick
from welbric.standards.case import MemberCase, once_per_case

LEAST = 1e-3  # of the depth: no web is in compression then, and it is compact


@dataclass(frozen=True)
class Flanges:
    """The flange in compression, and what goes with it."""

    bfc: Any
    tfc: Any
    Sxc: Any
    Sxt: Any
    hc: Any
    hp: Any
    ho: Any
    Afc: Any = None
    Iyc: Any = None


def in_web(y: Any, d: Any) -> Any:
    """Return the distance of an axis from the flange; next to none where it lies in the flange."""
    return np.maximum(y, LEAST * d) if np.ndim(y) else max(y, LEAST * d)


def flanges(case: MemberCase) -> Flanges:
    """Return the flange that the segment's moment compresses, with what is welded on it."""
    s, top = case.section, case.segments.top
    # y is from the bottom of the I-shape; the web is clear of the fillets in compression.
    y_c = in_web(pick(top, s.d - s.tf - s.r - s.y, s.y - s.tf - s.r), s.d)
    y_p = in_web(pick(top, s.d - s.tf - s.plastic_y, s.plastic_y - s.tf), s.d)
    hc = b4.depth_in_compression(y_c)
    hp = b4.plastic_depth_in_compression(y_p)
    if case.shape == "plated I":
        plate = pick(top, s.b_top, s.b_bottom), pick(top, s.t_top, s.t_bottom)
        Iyc = f4_f5.plated_flange_inertia(s.tf, s.bf, t_pl=plate[1], b_pl=plate[0])
        Afc = f4_f5.plated_flange_area(s.tf, s.bf, t_pl=plate[1], b_pl=plate[0])
        levels = [(s.t_top, s.b_top), (s.t_bottom, s.b_bottom)]
        up, down = ((s.bf * s.tf**2 / 2 - b * t * t / 2) / (s.bf * s.tf + b * t) for t, b in levels)
    else:
        A_cap = s.cap_d * s.cap_tw + 2 * (s.cap_bf - s.cap_tw) * s.cap_tf
        I_cap = (
            s.cap_tw * s.cap_d**3 / 12
            + 2 * (s.cap_bf - s.cap_tw) * s.cap_tf * ((s.cap_d - s.cap_tf) / 2) ** 2
        )
        Iyc = pick(
            top,
            f4_f5.capped_flange_inertia(s.tf, s.bf, I_cap),
            f4_f5.compression_flange_inertia(s.tf, s.bf),
        )
        Afc = pick(top, f4_f5.capped_flange_area(s.tf, s.bf, A_cap), s.bf * s.tf)
        back, legs = s.cap_d * s.cap_tw, 2 * (s.cap_bf - s.cap_tw) * s.cap_tf
        moment = s.bf * s.tf**2 / 2 - back * s.cap_tw / 2 + legs * (s.cap_bf - s.cap_tw) / 2
        up, down = moment / (s.bf * s.tf + back + legs), s.tf / 2
    ho = s.d - up - down
    Sxc, Sxt = pick(top, s.Wel_top, s.Wel_bottom), pick(top, s.Wel_bottom, s.Wel_top)
    return Flanges(s.bf, s.tf, Sxc, Sxt, hc, hp, ho, Afc, Iyc)


@once_per_case
def slenderness(case: MemberCase) -> Any:
    """Return lambda_f of the cover on the flange that the segment's moment compresses."""
    s, top = case.section, case.segments.top
    if case.shape == "capped I":
        # Between the I's tips, or from there to the channel's own flange.
        b = np.maximum(s.bf, (s.cap_d - s.bf) / 2 - s.cap_tf)
        return b4.cover_slenderness(b, s.cap_tw)
    t = pick(top, s.t_top, s.t_bottom)
    b = np.minimum(pick(top, s.b_top, s.b_bottom), s.bf)
    return b4.cover_slenderness(b, np.where(t > 0, t, s.tf) if np.ndim(t) else t or s.tf)


def is_covered_here(case: MemberCase) -> Any:
    """Return where the flange that is compressed has a cover."""
    s, top = case.section, case.segments.top
    if case.shape == "capped I":
        return np.asarray(top)
    return np.asarray(pick(top, s.t_top, s.t_bottom)) > 0


def too_slender(case: MemberCase) -> tuple[Any, str]:
    """Return where a cover is slender between its welds, or its edges are not compact."""
    s = case.section
    limit = b4.noncompact_cover_limit.fn(E, case.Fy)
    edge = b4.compact_flange_limit.fn(E, case.Fy)
    why = "a cover of a flange is slender between its welds, or its edges are not compact"
    if case.shape == "capped I":
        between = np.maximum(s.bf, (s.cap_d - s.bf) / 2 - s.cap_tf) / s.cap_tw
        return np.asarray((between > limit) | ((s.cap_bf - s.cap_tw) / s.cap_tf > edge)), why
    mask: Any = np.zeros(np.shape(s.d), dtype=bool)
    for b, t in ((s.b_top, s.t_top), (s.b_bottom, s.t_bottom)):
        thick = np.maximum(t, 1e-9 * s.d)
        slender = np.minimum(b, s.bf) / thick > limit
        wide = np.maximum(b - s.bf, 0.0) / 2 / thick > edge
        mask = mask | (np.asarray(t > 0) & (slender | wide))
    return mask, why
