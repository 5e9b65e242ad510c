"""Welbric checks steel members and shows every step.

>>> import welbric as wb
>>> job = wb.Job(members=[wb.Member(mark="FB1", section="W18X50", span="6 m")])
>>> table = wb.check(job)
"""

from __future__ import annotations

from importlib import import_module
from typing import TYPE_CHECKING, Any

__version__ = "0.1.0"

_HOMES = {
    "InputError": "welbric.errors",
    "Section": "welbric.sections",
    "SectionTable": "welbric.sections",
    "section": "welbric.sections.built",
    "catalogue": "welbric.sections",
    "wished": "welbric.sections.wish",
    "steel": "welbric.steels",
    "Job": "welbric.inputs.job",
    "Member": "welbric.inputs.member",
    "MemberLoad": "welbric.inputs.actions",
    "Restraint": "welbric.inputs.restraints",
    "CombinedForces": "welbric.inputs.actions",
    "CheckTable": "welbric.checking.table",
    "check": "welbric.checking.check",
    "resolve": "welbric.members.resolve",
    "segments": "welbric.members.segments",
    "reserve": "welbric.studies.reserves",
    "curves": "welbric.studies.curves",
    "curves_of_member": "welbric.studies.curves",
    "compare": "welbric.studies.variants",
    "check_schedule": "welbric.studies.schedule_checks",
    "size_schedule": "welbric.studies.schedule_checks",
    "load_schedule": "welbric.files.schedules",
    "size": "welbric.studies.sizing",
    "size_in_frame": "welbric.studies.frame_groups",
    "frame_reserve": "welbric.studies.frame_reserves",
    "frame_results": "welbric.checking.frames",
    "Frame": "welbric.studies.frames",
    "take_off": "welbric.studies.take_off",
    "remedies": "welbric.studies.remedies",
    "lateral_buckling": "welbric.checking.check",
    "natural_frequency": "welbric.checking.frequency",
    "load_job": "welbric.files.jobs",
    "parse_job": "welbric.files.jobs",
    "change_job": "welbric.files.jobs",
    "load_catalogue": "welbric.files.jobs",
    "table_of": "welbric.sections.kinds",
    "draw": "welbric.reports.figures",
    "Working": "welbric.working",
}
_NAMES = {"section": "section_in_words"}
__all__ = sorted(_HOMES)

if TYPE_CHECKING:
    from welbric.checking.check import check, lateral_buckling
    from welbric.checking.frames import frame_results
    from welbric.checking.frequency import natural_frequency
    from welbric.checking.table import CheckTable
    from welbric.errors import InputError
    from welbric.files.jobs import change_job, load_catalogue, load_job, parse_job
    from welbric.files.schedules import load_schedule
    from welbric.inputs.actions import CombinedForces, MemberLoad
    from welbric.inputs.job import Job
    from welbric.inputs.member import Member
    from welbric.inputs.restraints import Restraint
    from welbric.members.resolve import resolve
    from welbric.members.segments import segments
    from welbric.reports.figures import draw
    from welbric.sections import Section, SectionTable, catalogue
    from welbric.sections.built import section_in_words as section
    from welbric.sections.kinds import table_of
    from welbric.sections.wish import wished
    from welbric.steels import steel
    from welbric.studies.curves import curves, curves_of_member
    from welbric.studies.frame_groups import size_in_frame
    from welbric.studies.frame_reserves import frame_reserve
    from welbric.studies.frames import Frame
    from welbric.studies.remedies import remedies
    from welbric.studies.reserves import reserve
    from welbric.studies.schedule_checks import check_schedule, size_schedule
    from welbric.studies.sizing import size
    from welbric.studies.take_off import take_off
    from welbric.studies.variants import compare
    from welbric.working import Working


def __getattr__(name: str) -> Any:
    if name in _HOMES:
        return getattr(import_module(_HOMES[name]), _NAMES.get(name, name))
    raise AttributeError(f"module 'welbric' has no attribute {name!r}")


def __dir__() -> list[str]:
    return __all__
