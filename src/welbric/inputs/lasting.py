"""Making many things at once that last, without looking for garbage among them."""

from __future__ import annotations

import contextlib
import gc
from collections.abc import Iterator


@contextlib.contextmanager
def lasting() -> Iterator[None]:
    """Make what lasts without looking for garbage meanwhile.

    Each time enough new objects stand about, the collector goes through all of them for circles
    that nobody needs. Among thousands of members, which are all kept, it finds none, and takes a
    good part of the time of checking them.
    """
    looked = gc.isenabled()
    gc.disable()
    try:
        yield
    finally:
        if looked:
            gc.enable()
