"""By how much the loads of a frame may grow: the whole of it analysed and checked at each."""

from __future__ import annotations

import math

from welbric.checking.check import check
from welbric.checking.results import MemberResult
from welbric.checking.verdicts import OK, badness
from welbric.errors import InputError
from welbric.inputs.frame import JointLoad
from welbric.inputs.job import Job
from welbric.studies.reserves import Reserve, symbol_of, with_loads_times

LOW, HIGH = 0.01, 100.0
STEP = 1.6  # from a factor that passes to the next that is tried
CLOSE = 1e-4  # of the answer
OF_JOINT = ("x", "y", "z", "about_x", "about_y", "about_z", "move_x", "move_y", "move_z")


def frame_reserve(job: Job, mark: str | None = None, case: str | None = None) -> Reserve:
    """Return the factor on a frame's loads up to which a member passes, or all of them do.

    The frame is analysed under each factor, second order included, and checked whole; so that the
    factor is also that at which the frame itself is used up. Own weight stays as it is.

    Parameters
    ----------
    job : Job
    mark : str, optional
        A member of the frame; the first that does not pass decides where there is none.
    case : str, optional
        Such as ``"wind"``: the loads of this case alone.

    Raises
    ------
    InputError
        If the job has no frame, or nothing acts on it in the case.
    """
    frame = next((one.frame for one in job.members if one.frame is not None), None)
    if frame is None:
        raise InputError("the job has no frame: name a member")
    if mark is not None:
        mark = job.member(mark).mark
    symbol = symbol_of(case)
    acting = [one.case for m in frame.members.values() for one in m.loads]
    acting += [one.case for one in job.joint_loads]
    if not any(symbol in (None, one) for one in acting):
        raise InputError(f"the frame has no {case or 'load'}")

    def checked(factor: float) -> MemberResult:
        table = check(_scaled(job, factor, symbol))
        if mark is not None:
            return table[mark]
        return max((one for one in table if one.member.mark in frame.members), key=badness)

    searched = (LOW, HIGH)
    passes, fails = 0.0, math.inf
    inside = beyond = None
    x = 1.0
    while LOW <= x <= HIGH:  # to a factor that passes below one that does not
        result = checked(x)
        if result.status == OK:
            passes, inside = x, result
        else:
            fails, beyond = x, result
        if inside is not None and beyond is not None:
            break
        x = x * STEP if inside is not None else x / STEP
    if inside is None:
        return Reserve("load", 0.0, None, beyond, False, searched)
    if beyond is None:
        return Reserve("load", math.inf, inside, None, False, searched)
    while fails - passes > CLOSE * fails:
        x = _between(passes, fails, inside.utilisation, beyond.utilisation)
        result = checked(x)
        if result.status == OK:
            passes, inside = x, result
        else:
            fails, beyond = x, result
    return Reserve("load", passes, inside, beyond, False, searched)


def _between(passes: float, fails: float, inside: float, beyond: float) -> float:
    """Return a factor to try next: where a line between the two would be one, or the middle."""
    middle = 0.5 * (passes + fails)
    if not (math.isfinite(beyond) and inside < 1 < beyond < 2):
        return middle
    at = passes + (fails - passes) * (1 - inside) / (beyond - inside)
    # A little to either side in turn, so that both ends come close.
    edge = max(0.5 * CLOSE * fails, 0.02 * (fails - passes))
    at += edge if at < middle else -edge
    return min(max(at, passes + 0.01 * (fails - passes)), fails - 0.01 * (fails - passes))


def _scaled(job: Job, factor: float, symbol: str | None) -> Job:
    """Return a job whose frame has its loads times a factor."""

    def of_joint(load: JointLoad) -> JointLoad:
        if symbol not in (None, load.case):
            return load
        return load.model_copy(update={name: getattr(load, name) * factor for name in OF_JOINT})

    members = {
        one.mark: with_loads_times(one, factor, symbol)
        for one in job.members
        if one.frame is not None
    }
    return job.with_members(members, [of_joint(load) for load in job.joint_loads])
