"""Two shapes with connectors between them, in compression (E6)."""

from __future__ import annotations

from typing import Any

import numpy as np

from welbric.standards.aisc360.clauses import e3, e6
from welbric.standards.aisc360.design import effective_length_minor
from welbric.standards.aisc360.symbols import GLOSSARY
from welbric.standards.case import MemberCase
from welbric.working import either, given

KI = {"angles": 0.50, "channels back to back": 0.75, "others": 0.86}  # E6.1(b)
FARTHEST = 0.75  # E6.2: slenderness of one component over the governing one of the pair


def modified_slenderness(case: MemberCase, least_radius: Any, Ki: Any, words: str) -> Any:
    """Return the slenderness about y with the slip of the connectors (E6.1)."""
    lambda_o = e3.slenderness(effective_length_minor(case), case.section.r_minor)
    if case.connectors is None:
        return np.nan * lambda_o
    ri = given(GLOSSARY, "ri", least_radius, words)
    a_c = given(GLOSSARY, "a_c", case.connectors, "given with the member")
    if case.snug_tight:
        return e6.snug_tight_slenderness(lambda_o, a_c, ri)
    return either(
        e6.connectors_are_near,
        e6.slenderness_as_one,
        e6.fastened_slenderness,
        lambda_o=lambda_o,
        a_c=a_c,
        ri=ri,
        Ki=Ki,
    )


def connectors_missing(case: MemberCase, least_radius: Any, what: str) -> tuple[Any, str]:
    """Return where the connectors of a pair are not given, or are too far apart (E6.2)."""
    if case.connectors is None:
        return np.asarray(True), f"the connectors of the two {what}s are not given"
    s = case.section
    major = case.buckling.effective("major") / s.r_major
    minor = case.buckling.effective("minor") / s.r_minor
    slenderest = np.maximum(major, minor)
    apart = case.connectors / least_radius > FARTHEST * slenderest
    return np.asarray(apart), f"E6.2: one {what} between connectors is too slender for the pair"
