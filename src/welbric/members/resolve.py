"""From descriptions to members that stand."""

from __future__ import annotations

from welbric.errors import InputError, Problem
from welbric.inputs.job import Job
from welbric.inputs.member import Member
from welbric.members.design_member import DesignMember, stretches_of
from welbric.members.misfits import misfits


def resolve(said: Member) -> DesignMember:
    """Return a member as it stands.

    Raises
    ------
    InputError
        With everything that does not fit together.
    """
    member = DesignMember(said, said.length, said.slope, stretches_of(said))
    if found := misfits(member):
        raise InputError(*found).under(f"member {said.mark}")
    return member


def resolve_all(job: Job) -> list[DesignMember]:
    """Return the members of a job as they stand.

    Raises
    ------
    InputError
        With everything that does not fit together, of all of them.
    """
    members, found = [], list[Problem]()
    for number, said in enumerate(job.members, 1):
        try:
            members.append(resolve(said))
        except InputError as error:
            where = f"member {number} ({said.mark})"
            found += [Problem(one.text, where, *one.path[1:]) for one in error.problems]
    if found:
        raise InputError(*found)
    return members
