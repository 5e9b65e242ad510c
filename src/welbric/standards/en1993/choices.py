"""What is to be said of the choices of a member: those that change nothing, or take too much."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from welbric.standards.case import MemberCase
from welbric.standards.en1993 import shapes
from welbric.standards.en1993.demands import demand
from welbric.standards.en1993.design import is_high_strength, is_too_strong
from welbric.standards.en1993.limit_states import general_method, lateral, moment_shapes
from welbric.standards.en1993.limit_states.bending import web_counts_in_class_2
from welbric.standards.en1993.limit_states.senses import senses
from welbric.standards.en1993.national import PARTIAL, national_values
from welbric.standards.en1993.options import job_options, web_in_class_2
from welbric.standards.options import Options

FAR = 20.0  # times: a critical moment so far from the closed form is hardly meant
ROUNDED = 1.005  # a factor that is more by rounding alone is the own one
HIGH_STRENGTH_STEEL = (
    "a steel above S460, by EN 1993-1-12: the general buckling curves, eta = 1.0, and gamma_M12 of "
    "1.25 at least for net sections are taken; plastic analysis is not allowed"
)


def remarks_on_choices(case: MemberCase, options: Options) -> list[str]:
    """Return what is to be said of C1 and Mcr, of a class 3 web, and of the ends of two chords."""
    found = [*_of_web(case, options), *_of_C1(case, options), *_of_ends(case)]
    found += [*_of_Mcr(case), *_of_partial_factors(case), *_of_equivalent_moments(case, options)]
    if getattr(options, "made", None) is not None and case.shape not in (shapes.TUBE, shapes.ROUND):
        found.append("made: only the curves of hollow sections go by it, so it changes nothing")
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


def _of_Mcr(case: MemberCase) -> list[str]:
    """Return where a critical moment that is given is far from the one by the closed form."""
    if case.critical_moment is None or not shapes.bends_sideways(case.shape):
        return []
    unbraced = np.asarray(case.segments.unbraced, dtype=float)
    if lateral.by_flange(case) or not np.any(unbraced > 0):
        return []
    plain = replace(case, critical_moment=None, moment_shape=1.0, cache={})
    found = []
    with np.errstate(all="ignore"):
        by_sense = {
            sense: np.asarray(lateral.critical_moment(plain, sense)) for sense in senses(case)
        }
        long = {sense: value[..., unbraced > 0].min() for sense, value in by_sense.items()}
    given, least, most = float(case.critical_moment), min(long.values()), max(long.values())
    shown = " to ".join(dict.fromkeys(f"{value / 1e6:.4g}" for value in (least, most)))
    if not least / FAR <= given <= most * FAR:
        found.append(
            f"Mcr = {given / 1e6:.4g} kN m is given; of uniform moment over the longest length "
            f"that is not held it is {shown} kN m: is the unit right?"
        )
    d = demand(case)
    both = np.any(np.asarray(d.M_top) > 0) and np.any(np.asarray(d.M_bottom) > 0)
    if len(long) > 1 and both and most > least * (1 + 1e-3):
        found.append(
            f"Mcr is one for both senses of moment, that of uniform moment is {shown} kN m in one "
            "and in the other: give the lesser"
        )
    return found


def _of_equivalent_moments(case: MemberCase, options: Options) -> list[str]:
    """Return what is to be said of factors of Table B.3 that are given."""
    names = {"Cmy": moment_shapes.C_my, "Cmz": moment_shapes.C_mz, "CmLT": moment_shapes.C_mLT}
    asked = {name: getattr(options, name, None) for name in names}
    given = {name: float(value) for name, value in asked.items() if value is not None}
    if not given:
        return []
    by_table_b3 = job_options(case.options).interaction == "Annex B"
    if not by_table_b3 or general_method.applies(case):
        return [f"{', '.join(given)}: Table B.3 is not asked here, so it changes nothing"]
    own = replace(case, member_options=None, cache={})
    found = []
    for name, value in given.items():
        most = float(np.max(names[name](own)))
        if value < most / ROUNDED:
            found.append(
                f"{name} = {value:g} is given, less than the {most:.2f} of its own moments"
            )
    return found


def _of_partial_factors(case: MemberCase) -> list[str]:
    """Return the partial factors of one's own that are less than those of the annex."""
    options = job_options(case.options)
    usual = national_values(options.annex)
    return [
        f"{name} = {own:g} is given, less than the {known:g} of the {options.annex} values"
        for name in PARTIAL
        if (own := getattr(options.national, name)) is not None
        and (known := getattr(usual, name)) is not None
        and own < known * (1 - 1e-9)
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
    if float(own.max()) * ROUNDED >= C1:
        return []
    low, high = (f"{value:.2f}" for value in (own.min(), own.max()))
    moments = low if low == high else f"{low} to {high}"
    return [f"C1 = {C1:g} is given, more than the {moments} that its own moments have"]
