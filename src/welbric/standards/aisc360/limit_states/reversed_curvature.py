"""Moment-shape factor of a flange whose fellow is continuously restrained (commentary to F1)."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import numpy as np
from numpy import maximum, minimum

from welbric.standards.aisc360.clauses import f1
from welbric.standards.aisc360.demands import demand
from welbric.standards.case import MemberCase


def rule_applies(case: MemberCase) -> Any:
    """Return where the other flange is continuously restrained, and the ends reverse the moment."""
    d = demand(case)
    M_0 = maximum(d.M_start, d.M_end)
    # Both ends of the length are held; a free tip is not.
    held = np.asarray(case.segments.other_held) & ~np.asarray(case.segments.free_tip, dtype=bool)
    # It is for loads that bend the member away from the ends' moments: not for uplift.
    turns = np.asarray(d.M_middle <= M_0) & np.asarray(d.M_major <= M_0 * (1 + 1e-9))
    return held & np.asarray(M_0 > 0) & turns


def pick_rule(case: MemberCase, otherwise: Callable[[MemberCase], Any]) -> Any:
    """Return Cb by the rule where it applies, else by another one."""
    d = demand(case)
    M_0, M_1 = maximum(d.M_start, d.M_end), minimum(d.M_start, d.M_end)
    applies = rule_applies(case)
    if np.ndim(d.M_max) == 0:
        if not applies:
            return otherwise(case)
        return f1.reversed_curvature(M_0, M_1, d.M_middle, f1.sum_of_ends(M_0, M_1))
    safe = np.where(applies, M_0, 1.0)
    total = f1.sum_of_ends(safe, M_1)
    return np.where(applies, f1.reversed_curvature(safe, M_1, d.M_middle, total), otherwise(case))
