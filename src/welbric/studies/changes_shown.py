"""Changes as tables, and as records."""

from __future__ import annotations

from typing import Any

from welbric.checking.shown import STYLE, VERDICT, ratio
from welbric.documents.blocks import Block, Column, Document, Table, Words, paragraph
from welbric.documents.records import finite
from welbric.studies.changes import Changes, CheckThen, MemberChange, MemberThen
from welbric.units import digits

WORDS = {
    "new": "new", "gone": "gone", "moved": "with other results", "changed": "said otherwise",
    "same": "same",
}  # fmt: skip


def summary(found: Changes) -> str:
    """Return the changes in one line."""
    if found.alike:
        return "Nothing is otherwise."
    counts = {kind: sum(one.kind == kind for one in found.members) for kind in WORDS}
    parts = [f"{count} {WORDS[kind]}" for kind, count in counts.items() if count]
    words = [f"{len(found.members)} members: {', '.join(parts)}"]
    for status in ("over", "outside", "ok"):
        now = [one.mark for one in found.members if _became(one, status)]
        if now:
            words.append(f"now {VERDICT[status]}: {', '.join(now)}")
    if found.total is not None:
        before, after = found.total
        words.append(f"mass {digits(before)} to {digits(after)} {found.unit}")
    return "; ".join(words)


def _became(one: MemberChange, status: str) -> bool:
    return (
        one.after is not None
        and one.after.verdict == status
        and (one.before is None or one.before.verdict != status)
    )


def changes_document(found: Changes, before: str = "before", after: str = "now") -> Document:
    """Return the changes: what is said, members, their checks, the take-off; and in one line.

    Parameters
    ----------
    found : Changes
    before, after : str
        What the two sides are called.
    """
    blocks: list[Block] = []
    if found.said is None:
        blocks.append(paragraph("Of results alone what was said is not known.", "dim"))
    elif found.said:
        grid = Table([
            Column("mark", wraps=True, widest=14),
            Column("said", wraps=True, widest=28),
            Column(before, wraps=True, widest=24),
            Column(after, wraps=True, widest=24),
        ])  # fmt: skip
        for one in found.said:
            grid.add(one.mark or "the job", one.field, one.before or "–", one.after or "–")
        blocks += [paragraph("What is said otherwise:", "strong"), grid, paragraph()]
    moved = [one for one in found.members if one.kind != "same"]
    if moved:
        grid = Table([
            Column("mark", wraps=True, widest=14),
            Column("section", wraps=True, widest=26),
            Column(f"ratio\n{before}", right=True),
            Column(f"\n{after}", right=True),
            Column("verdict"),
            Column("what"),
        ])  # fmt: skip
        for change in moved:
            section, verdict = _section(change), _verdict(change)
            grid.add(change.mark, section, _ratio(change.before), _ratio(change.after), verdict,
                     WORDS[change.kind])  # fmt: skip
        blocks += [paragraph("Members:", "strong"), grid, paragraph()]
    if any(change.checks for change in moved):
        grid = Table([
            Column("mark", wraps=True, widest=14),
            Column("check", wraps=True, widest=30),
            Column("clause"),
            Column(f"ratio\n{before}", right=True),
            Column(after, right=True),
            Column("combination", wraps=True, widest=18, spare=1),
        ])  # fmt: skip
        for change in moved:
            mark = change.mark
            for check in change.checks:
                last = check.after or check.before
                combination = last.combination if last else ""
                now = Words(_ratio(check.after), STYLE[check.after.status] if check.after else "")
                grid.add(mark, check.name, check.clause, _ratio(check.before), now, combination)
                mark = ""
        blocks += [paragraph("Checks whose printed ratio is another:", "strong"), grid, paragraph()]
    if found.masses:
        grid = Table([
            Column("section", wraps=True), Column("steel"),
            *(Column(f"{name}\n{found.unit}", right=True) for name in (before, after, "more")),
        ])  # fmt: skip
        for section, steel, a, b in found.masses:
            grid.add(section, steel, digits(a), digits(b), _signed(b - a))
        if found.total is not None:
            a, b = found.total
            grid.rule()
            grid.add(Words("in all", "strong"), "", digits(a), digits(b), _signed(b - a))
        blocks += [paragraph("Steel taken:", "strong"), grid, paragraph()]
    return [*blocks, paragraph(summary(found), "strong")]


def _signed(value: float) -> str:
    return f"+{digits(value)}" if value > 0 else digits(value)


def _ratio(then: MemberThen | CheckThen | None) -> str:
    if then is None:
        return ""
    return ratio(float("nan") if then.utilisation is None else then.utilisation)


def _section(change: MemberChange) -> str:
    names = [one.section for one in (change.before, change.after) if one is not None]
    return " to ".join(dict.fromkeys(names))


def _verdict(change: MemberChange) -> tuple[Words, ...]:
    found = [one.verdict for one in (change.before, change.after) if one is not None]
    names = " to ".join(dict.fromkeys(VERDICT[one] for one in found))
    return (Words(names, STYLE[found[-1]]),)


def changes_records(found: Changes) -> list[dict[str, Any]]:
    """Return one plain record for each value said otherwise and each check that moved."""
    records: list[dict[str, Any]] = [
        {"mark": one.mark, "what": "said", "name": one.field, "before": one.before,
         "after": one.after}
        for one in found.said or []
    ]  # fmt: skip
    for change in found.members:
        if change.kind == "same":
            continue
        a, b = change.before, change.after
        records.append({
            "mark": change.mark, "what": "member", "name": WORDS[change.kind],
            "before": a.utilisation if a else None, "after": b.utilisation if b else None,
            "verdict_before": a.verdict if a else "", "verdict_after": b.verdict if b else "",
            "section_before": a.section if a else "", "section_after": b.section if b else "",
        })  # fmt: skip
        for check in change.checks:
            c, d = check.before, check.after
            records.append({
                "mark": change.mark, "what": "check", "name": check.name, "clause": check.clause,
                "before": c.utilisation if c else None, "after": d.utilisation if d else None,
                "verdict_before": c.status if c else "", "verdict_after": d.status if d else "",
            })  # fmt: skip
    for section, steel, before, after in found.masses:
        records.append({"mark": "", "what": f"mass, {found.unit}", "name": f"{section}, {steel}",
                        "before": before, "after": after})  # fmt: skip
    cleaned: list[dict[str, Any]] = finite(records)
    return cleaned
