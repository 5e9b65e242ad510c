"""Which work is done on one thread, and which on several."""

from __future__ import annotations

import functools
import itertools
import os
from collections.abc import Callable, Sequence
from concurrent.futures import ThreadPoolExecutor
from typing import ParamSpec, TypeVar

import numpy as np
from threadpoolctl import ThreadpoolController

from welbric.analysis.diagram import Array

Given = ParamSpec("Given")
Found = TypeVar("Found")
Part = TypeVar("Part")
MOST = 8  # threads
WORTH = 8  # columns that a thread is worth


@functools.cache
def _controller() -> ThreadpoolController:
    return ThreadpoolController()


def on_one_thread(function: Callable[Given, Found]) -> Callable[Given, Found]:
    """Return a function with its linear algebra on one thread.

    In products of small matrices several would wait for one another longer.
    """

    @functools.wraps(function)
    def alone(*args: Given.args, **kwargs: Given.kwargs) -> Found:
        with _controller().limit(limits=1, user_api="blas"):
            return function(*args, **kwargs)

    return alone


@functools.cache
def _pool() -> ThreadPoolExecutor:
    return ThreadPoolExecutor(_count(), "solving")


def _count() -> int:
    return min(os.cpu_count() or 1, MOST)


def each(do: Callable[[Part], Found], parts: Sequence[Part]) -> list[Found]:
    """Return what is found of each part, on as many threads as there are processors.

    ``do`` must let other threads work meanwhile.
    """
    if len(parts) < 2 or _count() < 2:
        return [do(part) for part in parts]
    return list(_pool().map(do, parts))


def by_columns(solve: Callable[[Array], Array], load: Array) -> Array:
    """Return what solves a load, (n, C), some columns of it on each thread.

    ``solve`` must let other threads work meanwhile.
    """
    found = np.empty(load.shape)  # row by row, as other arrays are

    def part(some: slice) -> None:
        found[:, some] = solve(load[:, some])

    count = load.shape[1]
    parts = max(min(_count(), count // WORTH), 1)
    ends = [count * k // parts for k in range(parts + 1)]
    each(part, [slice(*pair) for pair in itertools.pairwise(ends)])
    return found
