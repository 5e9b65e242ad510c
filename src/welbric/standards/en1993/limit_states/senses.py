"""Moments of either sense, where it matters which fibre they compress."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import Any

import numpy as np

from welbric.standards.case import MemberCase
from welbric.standards.en1993 import shapes
from welbric.working import unrecorded

TOP, BOTTOM = 1, -1
WORDS = {TOP: "top", BOTTOM: "bottom"}


def senses(case: MemberCase) -> tuple[int, ...]:
    """Return the senses of a moment about the y axis that a shape knows apart."""
    return (TOP, BOTTOM) if case.shape in shapes.BY_SENSE else (TOP,)


def worse_sense(
    case: MemberCase, run: Callable[[MemberCase, int], tuple[Any, ...]]
) -> tuple[Any, ...]:
    """Run what ends in a utilisation for each sense, and return the answers of the worse one.

    In single numbers only that one is worked out in the working.
    """
    every = senses(case)
    if len(every) == 1:
        return run(case, every[0])
    if case.single:
        with unrecorded():
            ranks = [_rank(run(replace(case, cache=dict(case.cache)), one)[-1]) for one in every]
        return run(case, every[int(np.argmax([float(np.ravel(rank)[0]) for rank in ranks]))])
    top, bottom = (run(case, one) for one in every)
    other = _rank(bottom[-1]) > _rank(top[-1])
    return tuple(
        None if a is None else np.where(other, b, a) for a, b in zip(top, bottom, strict=True)
    )


def _rank(U: Any) -> Any:
    """Return the order of a verdict: what is over, what is outside, what is not."""
    U = np.asarray(U, dtype=float)
    return np.where(np.isnan(U), 1.0, U)
