"""Which members of a frame are sized together, among what, up to how much; and their sizing."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from welbric.errors import InputError
from welbric.inputs.job import Job
from welbric.inputs.rates import read_objective
from welbric.studies.frame_proposal import Round
from welbric.studies.frame_sizing import SizedFrame, nothing, ranked, size_frame
from welbric.studies.sizing import common_sections, group_of, largest_utilisation, objective_of
from welbric.studies.variants import refuse_what_stands


def size_in_frame(
    job: Job,
    marks: Sequence[str] = (),
    among: str | Sequence[str] | None = None,
    utilisation: float | None = None,
    objective: str | None = None,
    keep: Sequence[str] = (),
    watch: Callable[[Round], object] = nothing,
    different: int | None = None,
) -> SizedFrame:
    """Find the least sections of a frame's members that pass everywhere, analysing it again.

    Parameters
    ----------
    job : Job
    marks : sequence of str
        The members; those with a `choose` entry where there are none. A group, and a member
        without one, has one section.
    among, utilisation, objective, keep
        As `size` has them; the objective is one for all.
    watch : callable
        Called with each analysis as it is done.
    different : int, optional
        The most different sections for all of these members together.

    Raises
    ------
    InputError
        If there is nothing to size, a mark is not in the job or stands alone, or a wish cannot be
        understood.
    """
    wanted = [job.member(mark) for mark in marks] or [m for m in job.members if m.choose]
    if not wanted:
        raise InputError("no member has a 'choose' entry; name the members to size")
    alone = [member.mark for member in wanted if member.frame is None]
    if alone:
        raise InputError(
            f"{', '.join(alone[:6])}: stands alone: size it without those of the frame"
        )
    if objective is not None:
        read_objective(objective)
    if utilisation is not None and not 0 < utilisation <= 1:
        raise InputError(f"a utilisation of {utilisation:g} is not between 0 and 1")
    kept = {job.member(mark).mark for mark in keep}
    parts = dict.fromkeys(tuple(m.mark for m in group_of(job, member)) for member in wanted)
    together = [[job.member(mark) for mark in marks_of] for marks_of in parts]
    orders = list(dict.fromkeys(objective_of(members, objective) for members in together))
    if len(orders) > 1:
        raise InputError(
            f"a frame is sized by one objective; these members have {', '.join(sorted(orders))}"
        )
    groups = []
    for members in together:
        for member in members:
            if member.pieces:
                raise InputError(f"{member.mark}: a member of several sections cannot be sized")
            refuse_what_stands(job, member, {})
        sections = common_sections(members, among, kept, job.own_sections)
        limits = {member.mark: largest_utilisation(job, member, utilisation) for member in members}
        first = members[0].choose
        name = first.group if first is not None and first.group else members[0].mark
        groups.append(ranked(name, job, members, sections, orders[0], limits))
    if different is not None and different < 1:
        raise InputError(f"{different} different sections: at least one is needed")
    return size_frame(job, groups, orders[0], watch, different)
