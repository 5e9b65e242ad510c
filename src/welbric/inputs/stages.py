"""A member in a stage of its own: the same steel before it is held, or loaded, as at the end."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from typing import TYPE_CHECKING, Any

from welbric.errors import InputError, Problem, did_you_mean

if TYPE_CHECKING:
    from welbric.inputs.member import Member

# What is one in all stages: a stage has it of its member and does not say it again.
SAME = (
    "section", "steel", "web_steel", "piece", "role", "span", "spans", "height", "inclination",
    "web", "choose", "stiffeners", "bearing_stiffener", "flange_holes", "eyebar",
    "lacing", "battens",
)  # fmt: skip
# What a stage has of its member where it does not say otherwise.
USUALLY = (
    "ends", "ends_minor", "support", "hinges", "lengthwise", "self_weight", "connection", "pin",
    "connectors", "one_leg", "bending_axes", "bearing", "standard", "deflection_from",
)  # fmt: skip
# Keys that a member may have by another name.
ALSO = {"pieces": "piece", "supports": "support", "bearing_stiffeners": "bearing_stiffener"}
# What no stage takes from its member or the job's defaults: that it is held sooner than it is.
OWN = ("restraint",)
MADE = ("section", "steel", "web_steel", "pieces", "span", "spans", "height")


def with_stages(data: Mapping[str, Any]) -> dict[str, Any]:
    """Return a job's description whose stages have what they share with their members.

    Raises
    ------
    InputError
        With each stage that is of no member, or says itself what it shares.
    """
    found = dict(data)
    tables = [one for key in ("member", "members") for one in _listed(data.get(key))]
    bases = {str(one.get("mark")).strip(): _named(one) for one in tables if isinstance(one, dict)}
    wrongs: list[Problem] = []

    def filled(table: Any, number: int) -> Any:
        if not isinstance(table, dict) or table.get("stage_of") is None:
            return table
        table = _named(table)
        where = f"member {number} ({table.get('mark', '')})"
        base = bases.get(str(table["stage_of"]).strip())
        if base is None or base.get("stage_of") is not None:
            wrongs.append(_of_none(table["stage_of"], bases).under(where))
            return table
        said = [key for key in SAME if key in table]
        words = f"is that of {table['stage_of']}, of which this is a stage"
        wrongs.extend(Problem(words, where, key) for key in said)
        if base.get("design") and "design" not in table:
            words = (
                f"{table['stage_of']} has one, which need not hold under other moments: say what "
                "holds in this stage, {} for nothing"
            )
            wrongs.append(Problem(words, where, "design"))
        return {key: base[key] for key in (*SAME, *USUALLY) if key in base} | table

    for key in ("member", "members"):
        if isinstance(data.get(key), Sequence):
            found[key] = [filled(one, i) for i, one in enumerate(_listed(data[key]), 1)]
    if wrongs:
        raise InputError(*wrongs)
    return found


def _named(table: dict[str, Any]) -> dict[str, Any]:
    return {ALSO.get(key, key): value for key, value in table.items()}


def _of_none(name: Any, bases: Mapping[str, Any]) -> Problem:
    known = [mark for mark, one in bases.items() if one.get("stage_of") is None]
    hint = did_you_mean(str(name), known) or "; give the mark of a member that is no stage itself"
    return Problem(f"{name!r} is no member that has stages{hint}", "stage_of")


def _listed(value: Any) -> list[Any]:
    return list(value) if isinstance(value, (list, tuple)) else []


def unlike_their_members(members: Sequence[Member]) -> Iterator[Problem]:
    """Yield the stages that are of no member, of another steel, or of a member of a frame."""
    by_mark = {member.mark: member for member in members}
    for number, member in enumerate(members, 1):
        if member.stage_of is None:
            continue
        where, base = f"member {number} ({member.mark})", by_mark.get(member.stage_of)
        if base is None or base.stage_of is not None:
            yield _of_none(member.stage_of, {m.mark: vars(m) for m in members}).under(where)
        elif base.through or member.through:
            words = f"{base.mark} is part of a frame; a stage is of a member alone"
            yield Problem(words, where, "stage_of")
        elif any(getattr(base, name) != getattr(member, name) for name in MADE):
            words = f"its section, steel and length are not those of {base.mark}"
            yield Problem(words, where, "stage_of")
