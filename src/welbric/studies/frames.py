"""A frame as it is built up in Python: joints, members and what acts on them, one by one."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING, Any

from welbric.inputs.job import Job

if TYPE_CHECKING:
    from welbric.checking.frames import FrameResults
    from welbric.checking.table import CheckTable


class Frame:
    """A frame in the plane of x and z, or in space; the keys are those of a job file.

    Parameters
    ----------
    name : str
    **job
        What else the job says: ``standard``, ``design``, ``loading``, ``frame`` (how it is
        analysed), ``defaults``, ``combinations`` ...

    Examples
    --------
    >>> import welbric as wb
    >>> frame = wb.Frame("A post", standard="EN 1993-1-1")
    >>> frame.joint("A", "0 m", "0 m", support="fixed").joint("B", "0 m", "3 m", support=["x", "y"])
    <frame of 2 joints, 0 members>
    >>> frame.member("P", "A", "B", section="HEB200", steel="S355", role="column")
    <frame of 2 joints, 1 members>
    >>> frame.load("B", "snow", z="-120 kN")
    <frame of 2 joints, 1 members>
    >>> frame.check()["P"].status
    'ok'
    """

    def __init__(self, name: str = "A frame", **job: Any) -> None:
        self._said: dict[str, Any] = {"name": name, **job}
        for key in ("joint", "member", "joint_load"):
            self._said[key] = list(self._said.get(key) or [])
        self._job: Job | None = None

    def __repr__(self) -> str:
        joints, members = (len(self._said[key]) for key in ("joint", "member"))
        return f"<frame of {joints} joints, {members} members>"

    def _add(self, key: str, table: dict[str, Any]) -> Frame:
        self._said.setdefault(key, []).append(table)
        self._job = None
        return self

    def joint(self, name: str, *at: str, support: str | Sequence[str] | None = None,
              **more: Any) -> Frame:  # fmt: skip
        """Add a joint at x and z, or at x, y and z."""
        held = {} if support is None else {"support": support}
        return self._add("joint", {"name": name, "at": list(at)} | held | more)

    def member(self, mark: str, *through: str, **more: Any) -> Frame:
        """Add a member through joints, with what a member has: section, steel, load ..."""
        return self._add("member", {"mark": mark, "through": list(through)} | more)

    def load(self, joint: str, case: str, **more: Any) -> Frame:
        """Add what acts on a joint in a load case: x, y, z, about_x ..., or moves it."""
        return self._add("joint_load", {"joint": joint, "case": case} | more)

    def limit(self, *joints: str, along: str, **more: Any) -> Frame:
        """Say how far joints may move along x, y or z: ``live="20 mm"``, ``against="A"`` ..."""
        return self._add("joint_limit", {"joint": list(joints), "along": along} | more)

    def made(self, generator: str, **table: Any) -> Frame:
        """Add what a generator makes: a ``"truss"``, ``"portal"``, ``"building"`` ..."""
        return self._add(generator, table)

    @property
    def job(self) -> Job:
        """The job that all of this is.

        Raises
        ------
        InputError
            With everything that is wrong in it.
        """
        if self._job is None:
            self._job = Job(**self._said)
        return self._job

    def analyse(self) -> FrameResults:
        """Return what the frame does under every strength combination, as arrays and in pandas."""
        from welbric.checking.frames import frame_results

        return frame_results(self.job)

    def check(self) -> CheckTable:
        """Return the checks of all of its members."""
        from welbric.checking.check import check

        return check(self.job)
