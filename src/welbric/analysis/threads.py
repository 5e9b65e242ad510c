"""Linear algebra on one thread."""

from __future__ import annotations

import functools
from collections.abc import Callable
from typing import ParamSpec, TypeVar

from threadpoolctl import ThreadpoolController

Given = ParamSpec("Given")
Found = TypeVar("Found")


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
