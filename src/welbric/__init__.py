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
    "Job": "welbric.job",
    "Member": "welbric.members",
    "MemberLoad": "welbric.actions",
    "Restraint": "welbric.holds",
    "CombinedForces": "welbric.actions",
    "CheckTable": "welbric.results",
    "check": "welbric.checking",
    "segments": "welbric.restraints",
    "reserve": "welbric.reserves",
    "curves": "welbric.strength_curves",
    "curves_of_member": "welbric.strength_curves",
    "compare": "welbric.variants",
    "check_schedule": "welbric.bulk",
    "size_schedule": "welbric.bulk",
    "load_schedule": "welbric.jobs.schedule_files",
    "size": "welbric.sizing",
    "sideways": "welbric.checking",
    "load_job": "welbric.jobs",
    "parse_job": "welbric.jobs",
    "change_job": "welbric.jobs",
    "load_catalogue": "welbric.jobs",
    "table_of": "welbric.sections.kinds",
    "draw": "welbric.reports.figures",
    "Working": "welbric.working",
}
_NAMES = {"section": "section_in_words"}
__all__ = sorted(_HOMES)

if TYPE_CHECKING:
    from welbric.actions import CombinedForces, MemberLoad
    from welbric.bulk import check_schedule, size_schedule
    from welbric.checking import check, sideways
    from welbric.errors import InputError
    from welbric.holds import Restraint
    from welbric.job import Job
    from welbric.jobs import change_job, load_catalogue, load_job, parse_job
    from welbric.jobs.schedule_files import load_schedule
    from welbric.members import Member
    from welbric.reports.figures import draw
    from welbric.reserves import reserve
    from welbric.restraints import segments
    from welbric.results import CheckTable
    from welbric.sections import Section, SectionTable, catalogue
    from welbric.sections.built import section_in_words as section
    from welbric.sections.kinds import table_of
    from welbric.sections.wish import wished
    from welbric.sizing import size
    from welbric.steels import steel
    from welbric.strength_curves import curves, curves_of_member
    from welbric.variants import compare
    from welbric.working import Working


def __getattr__(name: str) -> Any:
    if name in _HOMES:
        return getattr(import_module(_HOMES[name]), _NAMES.get(name, name))
    raise AttributeError(f"module 'welbric' has no attribute {name!r}")


def __dir__() -> list[str]:
    return __all__
