"""One of two chords that stand side by side: its shape and its properties."""

from __future__ import annotations

from typing import Any

import numpy as np

from welbric.standards.case import MemberCase, once_per_case
from welbric.standards.en1993 import shapes


@once_per_case
def one_of_two(case: MemberCase) -> tuple[str, dict[str, Any]]:
    """Return the shape of one chord, and its properties."""
    # Of what most jobs have not the shapes are loaded when it is asked for.
    from welbric.sections.compound import channel_of_pair
    from welbric.sections.i_shape import complete, properties

    s, shape = case.section, np.shape(case.section.d)

    def of(name: str) -> Any:
        return np.ravel(np.asarray(getattr(s, name), dtype=float))

    if case.shape == shapes.TWO_I:
        found = complete(properties(*(of(name) for name in ("d", "bf", "tw", "tf", "r"))))
        kind = "rolled I"
    else:
        names = ("d", "bf", "tw", "tf", "r", "slope", "r_toe", "tf_from_tip")
        found, _ = channel_of_pair(*(of(name) for name in names))
        kind = "tapered channel" if np.any(of("slope") > 0) else "channel"
    values = {name: np.reshape(np.broadcast_to(v, of("d").shape), shape) for name, v in
              found.items()}  # fmt: skip
    return kind, {name: v if v.ndim else float(v) for name, v in values.items()}
