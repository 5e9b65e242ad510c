"""What is to be said of the choices of a member: those that change nothing, or take too much."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from welbric.standards.case import MemberCase
from welbric.standards.en1993 import shapes
from welbric.standards.en1993.demands import demand
from welbric.standards.en1993.design import is_high_strength, is_too_strong
from welbric.standards.en1993.limit_states import lateral
from welbric.standards.en1993.limit_states.bending import web_counts_in_class_2
from welbric.standards.en1993.limit_states.senses import senses
from welbric.standards.en1993.options import web_in_class_2
from welbric.standards.options import Options

HIGH_STRENGTH_STEEL = (
    "a steel above S460, by EN 1993-1-12: the general buckling curves, eta = 1.0, and gamma_M12 of "
    "1.25 at least for net sections are taken; plastic analysis is not allowed"
)


def remarks_on_choices(case: MemberCase, options: Options) -> list[str]:
    """Return what is to be said of C1 and Mcr, of a class 3 web, and of the ends of two chords."""
    found = [*_of_web(case, options), *_of_C1(case, options), *_of_ends(case)]
    if np.any(is_high_strength(case) & ~is_too_strong(case)):
        found.append(HIGH_STRENGTH_STEEL)
    return found


def _of_ends(case: MemberCase) -> list[str]:
    """Return what is to be said where two chords count as hinged, and K is less."""
    K = float(case.buckling.K_minor)
    if case.webbing is None or K > 1 - 1e-9:
        return []
    return [
        f"the ends of a member with lacing or battens count as hinged about the z axis (6.4.1), so "
        f"K = {K:g} changes nothing of its chords"
    ]


def _of_web(case: MemberCase, options: Options) -> list[str]:
    if not web_in_class_2(options):
        return []
    if any(np.any(web_counts_in_class_2(case, sense)) for sense in senses(case)):
        return []
    return [
        "class_3_web: no web of class 3 between flanges of class 1 or 2 bends alone, so it changes "
        "nothing"
    ]


def _of_C1(case: MemberCase, options: Options) -> list[str]:
    C1, Mcr = getattr(options, "C1", None), case.critical_moment
    key = "C1" if Mcr is None else "Mcr"
    if C1 is None and Mcr is None:
        return []
    if not shapes.bends_sideways(case.shape):
        return [f"{key}: no resistance of a {case.shape} depends on it, so it changes nothing"]
    if lateral.by_flange(case):
        return [f"{key}: by the compressed flange nothing depends on it, so it changes nothing"]
    bends = np.asarray(demand(case).M_major) > 0
    unbraced = bends & (np.asarray(case.segments.unbraced) > 0)
    if not np.any(unbraced):
        return [f"{key}: nothing bends a length that is not restrained, so it changes nothing"]
    own = lateral.C_1(replace(case, moment_shape=None, cache={}))
    own = np.broadcast_to(own, unbraced.shape)[unbraced]
    if not isinstance(C1, float) or np.any(np.isnan(own)) or float(own.max()) * (1 + 1e-6) >= C1:
        return []
    low, high = (f"{value:.2f}" for value in (own.min(), own.max()))
    moments = low if low == high else f"{low} to {high}"
    return [f"C1 = {C1:g} is given, more than the {moments} that its own moments have"]
