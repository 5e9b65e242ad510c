"""What is left, or suffices, in words."""

from __future__ import annotations

import math

from welbric.checking.verdicts import OUTSIDE
from welbric.studies.reserves import LEAST, QUESTIONS, Reserve
from welbric.units import DisplayUnits


def _least_words(what: str, kind: str, found: Reserve, show: DisplayUnits) -> str:
    low, high = (show.show(x, kind) for x in found.searched)
    row = found.above.governing if found.above else None
    decides = f"; with less {row.name} ({row.clause}) decides" if row else ""
    if math.isinf(found.value) and row is not None and row.status == OUTSIDE:
        return f"{what} is not known: {row.name} is outside – {row.reason}"
    if math.isinf(found.value):
        failing = f": {row.name} ({row.clause})" if row else ""
        return f"no {what.removeprefix('the ')} up to {high} suffices{failing}"
    if found.above is None:
        return f"{what} need not be more than {low}"
    words = f"{what} must be at least {show.show(found.value, kind)}{decides}"
    return words + ("; larger values fail again" if found.passes_again else "")


def reserve_words(mark: str, found: Reserve, case: str | None, show: DisplayUnits) -> str:
    """Return in words how much is left."""
    kind = QUESTIONS[found.question]
    what = {
        "load": f"the factor on {f'the {case} loads' if case else 'all loads but own weight'}",
        "spacing": "the spacing of the restraints",
        "span": "the span",
        "buckling length": "the buckling length about the minor axis",
        "yield stress": "the yield stress",
        "plate": "the thickness of the cover plates",
    }[found.question]
    if found.question in LEAST:
        return f"{mark}: {_least_words(what, kind, found, show)}."
    low, high = (show.show(x, kind) for x in found.searched)
    first = found.above.governing if found.above else None
    if found.below is None and first is not None and first.status == OUTSIDE:
        return f"{mark}: {what} is not known: {first.name} is outside – {first.reason}."
    if found.below is None:
        words = f"{mark}: {what} has no value that passes from {low} up to what it is"
        row = found.above.governing if found.above else None
        words += f": {row.name} ({row.clause})" if row else ""
    elif math.isinf(found.value):
        words = f"{mark}: {what} has no limit up to {high}"
    else:
        words = f"{mark}: {what} may be up to {show.show(found.value, kind)}"
        row = found.above.governing if found.above else None
        whose = ""
        if found.above is not None and found.above.member.mark != mark:
            whose = f"{found.above.member.mark}, "
        words += f"; beyond it {whose}{row.name} ({row.clause}) decides" if row else ""
    if found.passes_again and found.failing:
        ranges = []
        for a, b in found.failing:
            to = "on" if b >= found.searched[1] else f"to {show.show(b, kind)}"
            ranges.append(f"from {show.show(a, kind)} {to}")
        words += f"; larger values pass again, and fail {' and '.join(ranges)}"
    elif found.passes_again:
        words += "; larger values pass again, this is the first limit"
    return words + (f" ({found.said})." if found.said else ".")
