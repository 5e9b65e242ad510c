"""What is to be said of the choices of a member: those that change nothing, or take too much."""

from __future__ import annotations

import numpy as np

from welbric.standards.aisc360.demands import demand
from welbric.standards.aisc360.design import by_quarter_points
from welbric.standards.aisc360.limit_states.reversed_curvature import rule_applies
from welbric.standards.aisc360.limit_states.strengths import uses_moment_shape
from welbric.standards.aisc360.options import BY_CURVATURE, BY_EIGENVALUE, MemberOptions
from welbric.standards.case import MemberCase
from welbric.standards.options import Options

ROUNDED = 1.005  # a factor that is more by rounding alone is the own one


def remarks_on_choices(case: MemberCase, options: Options) -> list[str]:
    """Return what is to be said of Cb."""
    Cb = options.Cb if isinstance(options, MemberOptions) else None
    if Cb is None:
        return []
    if not uses_moment_shape(case.shape):
        return [f"Cb: no strength of a {case.shape} depends on it, so it changes nothing"]
    bends = np.asarray(demand(case).M_major) > 0
    unbraced = bends & (np.asarray(case.segments.unbraced) > 0)
    if not np.any(unbraced):
        return ["Cb: nothing bends a length that is not restrained, so it changes nothing"]
    if Cb == BY_CURVATURE and not np.any(rule_applies(case)):
        return [
            "Cb by reversed curvature is for a length whose other flange is continuously "
            "restrained, under loads that bend it away from its end moments; there is none, "
            "so F1-1 holds"
        ]
    if Cb in (BY_CURVATURE, BY_EIGENVALUE):
        return []
    own = np.broadcast_to(by_quarter_points(case), unbraced.shape)[unbraced]
    if float(Cb) <= float(own.max()) * ROUNDED:
        return []
    low, high = (f"{value:.2f}" for value in (own.min(), own.max()))
    moments = low if low == high else f"{low} to {high}"
    return [f"Cb = {Cb:g} is given, more than the {moments} that its own moments have by F1-1"]
