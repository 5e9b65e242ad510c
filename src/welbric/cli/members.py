"""Commands on the members of a job: what they are checked by, and what comes of it."""

from __future__ import annotations

import sys
from collections.abc import Sequence
from pathlib import Path
from typing import TYPE_CHECKING, Any

import click

from welbric.cli.shared import (
    FIGURES,
    OVER_OR_OUTSIDE,
    TABLE_FORMS,
    asked_width,
    one_form,
    print_json,
    put,
    put_rows,
    say,
    says_what_is_wrong,
    to_write,
)
from welbric.errors import InputError

if TYPE_CHECKING:
    from welbric.checking.results import MemberResult
    from welbric.checking.table import Explanation
    from welbric.documents.blocks import Document
    from welbric.inputs.job import Job


TO_TABLE = click.option(
    "--to", type=click.Path(path_type=Path), help="Write it: .txt, .html, .csv, .xlsx or .json."
)
FORMS = {".txt": "text", ".typ": "typst", ".html": "html", ".pdf": "PDF", ".json": "JSON"}


@click.command(short_help="Write a demo job and check it.")
@click.argument("folder", default="saltmarsh", type=click.Path(path_type=Path))
@click.option("--standard", default="AISC 360-22", show_default=True)
@says_what_is_wrong
def demo(folder: Path, standard: str) -> None:
    """Write the demo job into FOLDER (default: saltmarsh) and check it.

    A job file that is there already is kept. Some members of the demo are over, so that every
    verdict is seen; the exit status is 0 all the same.
    """
    from welbric.checking.check import check as check_job
    from welbric.files.jobs import DEMOS, FRAMES, MEMBERS, demo_text, load_job
    from welbric.standards import standard as standard_named

    standard_named(standard)
    if standard not in DEMOS:
        raise InputError(f"{standard}: has no demo of its own; there is one of {', '.join(DEMOS)}")
    try:
        folder.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise InputError(f"{folder}: cannot be made: {error.strerror}") from None
    path, mark = folder / DEMOS[standard], "FB2"
    _keep_or_write(path, demo_text(DEMOS[standard]).encode())
    has_schedule = path.name == next(iter(DEMOS.values()))
    if has_schedule:
        _write_schedule(folder / MEMBERS, demo_text(MEMBERS))
    for name in FRAMES[standard]:
        _keep_or_write(folder / name, demo_text(name).encode())
    click.echo()
    put(check_job(load_job(path)).document())
    say(
        f"\nNext:  welbric explain {path} {mark}\n"
        f"       welbric book {path} --to {folder / 'book.html'}\n"
        f"       welbric draw {path} {mark}\n"
        f"       welbric check {path} --details\n"
        f"       welbric frame {folder / FRAMES[standard][0]}"
        + (f"\n       welbric schedule {folder / MEMBERS}" if has_schedule else "")
    )


def _write_schedule(path: Path, table: str) -> None:
    """Write the demo's schedule, as CSV and as XLSX."""
    from welbric.files.schedule_results import sheet_bytes
    from welbric.inputs.schedules import read_schedule
    from welbric.inputs.text_tables import csv_cells

    _keep_or_write(path, table.encode())
    schedule = read_schedule(csv_cells(table), path.name)
    rows = [row for _, row in schedule.cells]
    _keep_or_write(path.with_suffix(".xlsx"), sheet_bytes(rows, schedule))


def _keep_or_write(path: Path, content: bytes) -> None:
    from welbric.documents.writing import save_bytes

    if path.exists():
        say(f"{path} is there already and is kept as it is.")
    else:
        save_bytes(path, content)
        say(f"Wrote {path}.")


@click.command(short_help="Write a job file to begin with.")
@click.argument("job", type=click.Path(path_type=Path))
@click.option("--standard", default="AISC 360-22", show_default=True)
@click.option(
    "--units", type=click.Choice(["US", "metric"]), help="Default: as is usual with the standard."
)
@says_what_is_wrong
def new(job: Path, standard: str, units: str | None) -> None:
    """Write a commented job file to JOB: a beam, a column and a brace that check as they stand.

    A file that is there already is kept.
    """
    from welbric.documents.writing import save_text
    from welbric.files.jobs import parse_job, starter_text
    from welbric.standards import standard as standard_named

    if job.exists():
        raise InputError(f"{job}: is there already, and is kept")
    text = starter_text(standard, units or standard_named(standard).units)
    parse_job(text, str(job))
    save_text(job, text)
    say(f"Wrote {job}. Next: welbric check {job}")


@click.command(short_help="Check the members of a job.")
@click.argument("job", type=click.Path(path_type=Path))
@click.option("--details", is_flag=True, help="Every check of every member, and the assumptions.")
@click.option("--json", "as_json", is_flag=True, help="For machines.")
@click.option("--csv", "as_csv", is_flag=True, help="One line for each check of each member.")
@click.option(
    "--against",
    type=click.Path(path_type=Path),
    help="Say only which results of this file (of --json) still stand.",
)
@click.option("--under", help="One combination, or a load case alone, such as 'live'.")
@TO_TABLE
@says_what_is_wrong
def check(
    job: Path,
    details: bool,
    as_json: bool,
    as_csv: bool,
    against: Path | None,
    under: str | None,
    to: Path | None,
) -> None:
    """Check the members of JOB: utilisation, verdict, what governs and where."""
    from welbric.checking.check import check as check_job
    from welbric.checking.table import records
    from welbric.files.jobs import load_job

    one_form(as_json, as_csv)
    form = to_write(to, TABLE_FORMS, job)
    if against is not None:
        if details or as_json or as_csv or under is not None or to is not None:
            raise InputError("--against says only what still stands: it goes with no other option")
        sys.exit(_say_what_is_stale(job, against))
    table = check_job(load_job(job), under)
    data = None
    if as_json or form == ".json":
        from welbric.reports.documents import check_document

        data = check_document(table)
    below: Document = ()
    if not (table.ok or as_json or as_csv or under):
        from welbric.studies.remedies import MOST_MEMBERS, remedies_document

        most = None if details else MOST_MEMBERS
        below = remedies_document(table.job, table.results, most)
    document = table.document(details, below)
    put_rows(records(table), document, as_json, as_csv, to, data)
    sys.exit(0 if table.ok else OVER_OR_OUTSIDE)


def _results(job: Job, marks: Sequence[str]) -> list[MemberResult]:
    """Return what came of the members named, or of all."""
    from welbric.checking.check import check as check_job
    from welbric.checking.check import check_one

    return [check_one(job, mark)[mark] for mark in marks] if marks else [*check_job(job)]


@click.command(short_help="What goes to the supports, and the forces at the ends.")
@click.argument("job", type=click.Path(path_type=Path))
@click.argument("marks", nargs=-1)
@click.option("--json", "as_json", is_flag=True, help="Every case and combination, for machines.")
@click.option("--csv", "as_csv", is_flag=True, help="Every case and combination, a line each.")
@TO_TABLE
@says_what_is_wrong
def reactions(
    job: Path, marks: tuple[str, ...], as_json: bool, as_csv: bool, to: Path | None
) -> None:
    """Show the reactions and end forces of members of JOB, unfactored by case and factored.

    For the foundation and the connections; of all members where no MARKS are named.
    """
    from welbric.checking.supports_shown import support_records, supports_document
    from welbric.files.jobs import load_job

    one_form(as_json, as_csv)
    to_write(to, TABLE_FORMS, job)
    whole = load_job(job)
    results = _results(whole, marks)
    document = supports_document(whole, results)
    put_rows(support_records(whole, results), document, as_json, as_csv, to)


@click.command(short_help="The combinations, with the factor of each load case.")
@click.argument("job", type=click.Path(path_type=Path))
@click.argument("marks", nargs=-1)
@click.option("--json", "as_json", is_flag=True, help="For machines.")
@click.option("--csv", "as_csv", is_flag=True, help="One line for each combination.")
@TO_TABLE
@says_what_is_wrong
def combinations(
    job: Path, marks: tuple[str, ...], as_json: bool, as_csv: bool, to: Path | None
) -> None:
    """Show the combinations that act on members of JOB, for strength and for deflections.

    Of all members where no MARKS are named.
    """
    from welbric.checking.combinations_shown import combination_records, combinations_document
    from welbric.files.jobs import load_job

    one_form(as_json, as_csv)
    to_write(to, TABLE_FORMS, job)
    whole = load_job(job)
    results = _results(whole, marks)
    document = combinations_document(whole, results)
    put_rows(combination_records(whole, results), document, as_json, as_csv, to)


@click.command(short_help="Pieces, lengths, masses, cost and carbon.")
@click.argument("job", type=click.Path(path_type=Path))
@click.option("--json", "as_json", is_flag=True, help="For machines.")
@click.option("--csv", "as_csv", is_flag=True, help="A line for each section and steel.")
@TO_TABLE
@says_what_is_wrong
def takeoff(job: Path, as_json: bool, as_csv: bool, to: Path | None) -> None:
    """Show what steel the members of JOB take, by section and steel.

    Cost and carbon where the job has [prices] and [carbon].
    """
    from welbric.files.jobs import load_job
    from welbric.studies.take_off import take_off
    from welbric.studies.take_off_shown import take_off_document, take_off_records

    one_form(as_json, as_csv)
    to_write(to, TABLE_FORMS, job)
    whole = load_job(job)
    parts = take_off(whole)
    document = take_off_document(whole, parts)
    put_rows(take_off_records(whole, parts), document, as_json, as_csv, to)


def _say_what_is_stale(job: Path, against: Path) -> int:
    """Print which results do not stand any more; return the exit status."""
    from welbric.checking.fingerprints import stale
    from welbric.files.jobs import load_job
    from welbric.files.results import load_results

    found = stale(load_job(job), load_results(against))
    for mark, why in found.items():
        say(f"{mark} {why}.")
    if not found:
        say(f"{against} stands: nothing it depends on has changed.")
    return OVER_OR_OUTSIDE if found else 0


@click.command(short_help="Every step of a member's checks.")
@click.argument("job", type=click.Path(path_type=Path))
@click.argument("mark")
@click.option("--check", "name", help="One check only: its id, its name, or its clause.")
@click.option(
    "--form",
    type=click.Choice(["text", "typst", "html"]),
    help="How it is printed; text where it is not said.",
)
@click.option("--json", "as_json", is_flag=True, help="For machines.")
@click.option(
    "--to", type=click.Path(path_type=Path), help="Write it: .pdf, .html, .typ, .txt or .json."
)
@says_what_is_wrong
def explain(
    job: Path, mark: str, name: str | None, form: str | None, as_json: bool, to: Path | None
) -> None:
    """Show every step of the checks of member MARK in JOB, each at its governing combination."""
    from welbric.checking.check import check_one
    from welbric.documents.writing import save_bytes
    from welbric.files.jobs import load_job

    if form is not None and as_json:
        raise InputError("--form and --json: give one of them")
    wanted = "JSON" if as_json else form
    if to is not None:
        by_ending = FORMS[to_write(to, tuple(FORMS), job)]
        if wanted not in (None, by_ending):
            raise InputError(f"{to}: would be {by_ending}, but {wanted} is asked for")
        wanted = by_ending
    written = _written(check_one(load_job(job), mark).explain(mark, name), wanted or "text")
    if to is None:
        say(written.decode(), nl=False)
    else:
        save_bytes(to, written)
        say(f"Wrote {to}.")


def _written(explanation: Explanation, form: str) -> bytes:
    """Return a working in a form."""
    match form:
        case "JSON":
            from welbric.documents.records import as_json
            from welbric.reports.documents import explanation_document

            return f"{as_json(explanation_document(explanation))}\n".encode()
        case "PDF":
            return explanation.pdf()
        case "typst":
            return explanation.typst().encode()
        case "html":
            return explanation.page().encode()
    return explanation.text(asked_width()).encode()


@click.command(short_help="Lengths between restraints, and what those need.")
@click.argument("job", type=click.Path(path_type=Path))
@click.argument("mark")
@click.option("--json", "as_json", is_flag=True, help="For machines.")
@click.option("--csv", "as_csv", is_flag=True, help="One line for each segment.")
@click.option("--under", help="The combination to buckle under; default: the governing one.")
@click.option("--to", type=click.Path(path_type=Path), help="Draw into this PNG, SVG or PDF.")
@says_what_is_wrong
def segments(
    job: Path, mark: str, as_json: bool, as_csv: bool, under: str | None, to: Path | None
) -> None:
    """Show the lengths of member MARK between points that hold its flanges: moments, ratios.

    Below the table stands when the whole member buckles laterally, elastically, by eigenvalue;
    `--to` draws the segments and that mode.
    """
    from welbric.checking import shown
    from welbric.checking.bracing import (
        brace_needs,
        continuous_needs,
        stabilising_needs,
        twist_needs,
    )
    from welbric.checking.check import check_member, lateral_buckling, segment_rows
    from welbric.documents.blocks import paragraph
    from welbric.documents.records import as_csv as write_csv
    from welbric.files.jobs import load_job
    from welbric.members.resolve import resolve
    from welbric.reports import documents

    one_form(as_json, as_csv)
    to_write(to, FIGURES, job)
    whole = load_job(job)
    member = resolve(whole.member(mark))
    result = check_member(whole, member)
    rows = segment_rows(whole, member, result)
    needs: dict[str, Sequence[Any]] = {
        "restraints": brace_needs(whole, member, result.forces),
        "restraint_systems": stabilising_needs(whole, member, result.forces),
        "twist_restraints": twist_needs(whole, member, result.forces),
        "continuous_twist_restraints": continuous_needs(whole, member, result),
    }
    critical, why_not = None, ""
    try:
        critical = lateral_buckling(whole, mark, under)
    except InputError as error:
        if under is not None or to is not None:
            raise
        why_not = "\n".join(error.problems)
    if as_json:
        print_json(documents.segments_document(rows, needs, critical, whole.display))
    elif as_csv:
        say(write_csv(documents.segment_records(rows, whole.display)), nl=False)
    else:
        how = whole.code_of(member.said), whole.display
        document = [*shown.segments_document(member.mark, rows, *how)]
        for found, written in zip(needs.values(), shown.NEEDS, strict=True):
            if found:
                document += written(found, *how)
        if critical is not None:
            document += shown.lateral_buckling_document(critical, *how)
        else:
            document.append(paragraph(why_not))
        put(document)
    if to is not None and critical is not None:
        from welbric.reports.mode_figure import save_mode

        save_mode(whole, member, critical, to)
        say(f"Wrote {to}.", err=as_json or as_csv)


@click.command(short_help="A member with its diagrams, or the frame of a job.")
@click.argument("job", type=click.Path(path_type=Path))
@click.argument("mark", required=False)
@click.option(
    "--to",
    type=click.Path(path_type=Path),
    help="PNG, SVG or PDF; default: MARK.png here, or JOB.png of a frame.",
)
@click.option("--under", help="A combination or a load case, such as '1.2D + 1.6L' or 'dead'.")
@click.option(
    "--drawn",
    type=click.Choice(["utilisation", "axial", "shear", "moments", "mode", "loads", "motion"]),
    help="Of a frame: what is drawn; by default utilisations, and how it moves.",
)
@click.option("--plane", help="Of a frame: the members in a plane alone, such as 'y = 5 m'.")
@says_what_is_wrong
def draw(
    job: Path,
    mark: str | None,
    to: Path | None,
    under: str | None,
    drawn: str | None,
    plane: str | None,
) -> None:
    """Draw member MARK of JOB, or its frame.

    A member with its supports, loads, restraints, shear, moment and deflection, under the governing
    combination or another. A frame with the utilisations of its members, and how it moves; or
    diagrams of its forces, by default between the least and the most of all combinations; or the
    shape it buckles into; or the loads of a case; or how it moves where it is a mechanism.
    """
    from welbric.files.jobs import load_job

    to_write(to, FIGURES, job)
    if mark is None:
        from welbric.reports.frame_diagrams import save_frame

        whole, target = load_job(job), to or Path(f"{job.stem}.png")
        if all(member.frame is None for member in whole.members):
            raise InputError(
                f"the job has no frame to draw: name a member, such as {whole.members[0].mark}"
            )
        save_frame(whole, target, under, drawn or "utilisation", plane)
    else:
        from welbric.checking.check import check_one
        from welbric.reports.figures import save

        if drawn or plane:
            raise InputError(f"{'--drawn' if drawn else '--plane'} is for a frame: leave MARK out")
        safe = "".join(c if c.isalnum() or c in "-_." else "_" for c in mark).lstrip(".")
        target = to or Path(f"{safe or 'member'}.png")
        save(check_one(load_job(job), mark), mark, target, under)
    say(f"Wrote {target}.")
