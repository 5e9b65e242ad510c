"""Which work is done on one thread, and which on several."""

from __future__ import annotations

import functools
import itertools
import os
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from typing import ParamSpec, TypeVar

import numpy as np
from threadpoolctl import ThreadpoolController

from welbric.analysis.diagram import Array

Given = ParamSpec("Given")
Found = TypeVar("Found")
MOST = 8  # threads
TOGETHER = 12  # columns, at least: less work is not worth a thread


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


def by_columns(solve: Callable[[Array], Array], load: Array) -> Array:
    """Return what solves a load, (n, C), some columns of it on each thread.

    ``solve`` must let other threads work for as long as it does: where it often goes back to the
    interpreter, they wait for one another longer than they work.
    """
    found = np.empty(load.shape)  # row by row, as other arrays are

    def part(some: slice) -> None:
        found[:, some] = solve(load[:, some])

    count = load.shape[1]
    # More parts than threads: one that is held up does fewer of them.
    parts = max(count // TOGETHER, 1) if _count() > 1 else 1
    ends = [count * k // parts for k in range(parts + 1)]
    slices = [slice(*pair) for pair in itertools.pairwise(ends)]
    for _ in _pool().map(part, slices) if parts > 1 else map(part, slices):
        pass
    return found
