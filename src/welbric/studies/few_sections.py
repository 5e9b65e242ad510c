"""The best sections for many members with a limit on how many different ones, solved as a whole.

Each group of members takes one section of those that pass in all of it; a section is used or not;
no more than so many are used: a mixed-integer linear problem, whose answer is proved or bounded.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from welbric.errors import InputError

PROVED = 1e-9  # of the answer


@dataclass(frozen=True)
class Assignment:
    """Which section each group takes.

    Attributes
    ----------
    chosen : list of int
        The column of each group.
    total : float
    bound : float
        No assignment is better than this.
    """

    chosen: list[int]
    total: float
    bound: float

    @property
    def proved(self) -> bool:
        """Whether no assignment is better."""
        return self.total - self.bound <= PROVED * max(abs(self.total), 1.0)


def assign(scores: NDArray[np.float64], most: int) -> Assignment:
    """Return the assignment with the least total score.

    Parameters
    ----------
    scores : array, shape (groups, sections)
        NaN where a section does not pass in a group.
    most : int
        Different sections that may be used.

    Raises
    ------
    InputError
        If a group has no section, or so few do not suffice.
    """
    from scipy.optimize import Bounds, LinearConstraint, milp
    from scipy.sparse import coo_array

    fits = np.isfinite(scores)
    useful = np.flatnonzero(fits.any(axis=0))
    groups, sections = np.nonzero(fits[:, useful])
    pairs, uses = len(groups), len(useful)
    index = np.arange(pairs)
    cost = np.concatenate([scores[:, useful][groups, sections], np.zeros(uses)])
    rows, columns, values, low, high = _constraints(
        groups, sections, index, len(scores), uses, most
    )
    shape = (len(low), pairs + uses)
    matrix = coo_array((values, (rows, columns)), shape=shape).tocsr()
    answer = milp(
        cost,
        constraints=LinearConstraint(matrix, low, high),
        integrality=np.concatenate([np.zeros(pairs), np.ones(uses)]),
        bounds=Bounds(0, 1),
        options={"time_limit": 60.0, "mip_rel_gap": 0.0},
    )
    if answer.x is None:
        raise InputError(f"no choice of {most} different sections passes for all members")
    used = answer.x[pairs:] > 0.5
    allowed = np.where(used[None, :] & fits[:, useful], scores[:, useful], np.inf)
    chosen = allowed.argmin(axis=1)
    total = float(allowed.min(axis=1).sum())
    bound = answer.mip_dual_bound
    return Assignment(useful[chosen].tolist(), total, float(total if bound is None else bound))


Numbers = NDArray[np.float64]


def _constraints(
    groups: Any, sections: Any, index: Any, count: int, uses: int, most: int
) -> tuple[Any, Any, Numbers, Numbers, Numbers]:
    """Return rows, columns, values and limits: one section a group, only used ones, few of them."""
    pairs = len(index)
    last = count + pairs
    rows = np.concatenate([groups, count + index, count + index, np.full(uses, last)])
    columns = np.concatenate([index, index, pairs + sections, pairs + np.arange(uses)])
    values = np.concatenate([np.ones(pairs), np.ones(pairs), -np.ones(pairs), np.ones(uses)])
    low = np.concatenate([np.ones(count), np.full(pairs, -np.inf), [0.0]])
    high = np.concatenate([np.ones(count), np.zeros(pairs), [float(most)]])
    return rows, columns, values, low, high
