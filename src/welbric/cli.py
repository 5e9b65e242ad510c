"""The command line: reads, calls, prints; it computes nothing.

Every command imports what it needs when it runs, so that start-up stays short.
"""

from __future__ import annotations

import contextlib
import functools
import gc
import sys
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import TYPE_CHECKING, Any

import click

from welbric import __version__
from welbric.errors import InputError

if TYPE_CHECKING:
    from rich.console import Console, RenderableType

    from welbric.sections.table import Section

OVER_OR_OUTSIDE, WRONG_INPUT = 1, 2
PATIENCE = 2_000  # rows of a schedule that take a moment
WIDTH = 100  # of what is printed where there is no terminal to ask


def _says_what_is_wrong(command: Callable[..., Any]) -> Callable[..., Any]:
    """Print an input's problems one to a line and leave with status 2."""

    @functools.wraps(command)
    def run(*args: Any, **kwargs: Any) -> Any:
        try:
            return command(*args, **kwargs)
        except InputError as error:
            for problem in error.problems:
                click.echo(f"welbric: {problem}", err=True)
            sys.exit(WRONG_INPUT)

    return run


def _console() -> Console:
    from rich.console import Console

    console = Console(highlight=False, soft_wrap=False)
    if not console.is_terminal:
        console = Console(highlight=False, width=WIDTH, color_system=None)
    return console


def _print(what: RenderableType) -> None:
    _console().print(what)


def _print_json(what: Any) -> None:
    import json

    click.echo(json.dumps(what, indent=2, ensure_ascii=False, allow_nan=False))


@click.group(context_settings={"help_option_names": ["-h", "--help"]})
@click.version_option(__version__, prog_name="welbric")
def main() -> None:
    """Check steel members against a design standard, and show every step.

    A job file (TOML) describes the members. Exit status: 0 all within limits, 1 something over or
    outside the standard's scope, 2 the input was wrong.
    """
    # A command lives for a second: looking for garbage while it loads only costs time.
    gc.set_threshold(200_000)
    for stream in (sys.stdout, sys.stderr):
        if hasattr(stream, "reconfigure"):
            stream.reconfigure(errors="replace")


@main.command()
@click.argument("folder", default="saltmarsh", type=click.Path(path_type=Path))
@_says_what_is_wrong
def demo(folder: Path) -> None:
    """Write the demo job into FOLDER (default: saltmarsh) and check it.

    A job file that is there already is kept. One member of the demo is over and one a plain
    failure, so that every verdict is seen; the exit status is 0 all the same.
    """
    from welbric.checking import check as check_job
    from welbric.jobs import MEMBERS, demo_text, load_job
    from welbric.reports.tables import check_table

    try:
        folder.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise InputError(f"{folder}: cannot be made: {error.strerror}") from None
    path = folder / "saltmarsh.toml"
    table = demo_text(MEMBERS)
    for file, text in ((path, demo_text()), (folder / MEMBERS, table)):
        _keep_or_write(file, text.encode())
    from welbric.jobs.schedule_files import csv_cells
    from welbric.reports.schedule_files import sheet_bytes

    rows = [row for _, row in csv_cells(table) if not row[0].startswith("#")]
    _keep_or_write((folder / MEMBERS).with_suffix(".xlsx"), sheet_bytes(rows))
    click.echo()
    _print(check_table(check_job(load_job(path))))
    click.echo(
        f"\nNext:  welbric explain {path} FB2\n"
        f"       welbric draw {path} FB2\n"
        f"       welbric check {path} --details\n"
        f"       welbric schedule {folder / MEMBERS}"
    )


def _keep_or_write(path: Path, content: bytes) -> None:
    from welbric.jobs import save_bytes

    if path.exists():
        click.echo(f"{path} is there already and is kept as it is.")
    else:
        save_bytes(path, content)
        click.echo(f"Wrote {path}.")


@main.command()
@click.argument("job", type=click.Path(path_type=Path))
@click.option("--details", is_flag=True, help="Every check of every member, and the assumptions.")
@click.option("--json", "as_json", is_flag=True, help="For machines.")
@click.option("--csv", "as_csv", is_flag=True, help="One line for each check of each member.")
@click.option(
    "--against",
    type=click.Path(path_type=Path),
    help="Say only which results of this file (of --json) still stand.",
)
@_says_what_is_wrong
def check(job: Path, details: bool, as_json: bool, as_csv: bool, against: Path | None) -> None:
    """Check the members of JOB: utilisation, verdict, what governs and where."""
    from welbric.checking import check as check_job
    from welbric.jobs import load_job
    from welbric.results import records

    if against is not None:
        sys.exit(_say_what_is_stale(job, against))
    table = check_job(load_job(job))
    if as_json:
        from welbric.reports.documents import check_document

        _print_json(check_document(table))
    elif as_csv:
        from welbric.reports.documents import as_csv as write_csv

        click.echo(write_csv(records(table)), nl=False)
    else:
        from welbric.reports.tables import check_table

        _print(check_table(table, details))
    sys.exit(0 if table.ok else OVER_OR_OUTSIDE)


def _say_what_is_stale(job: Path, against: Path) -> int:
    """Print which results do not stand any more; return the exit status."""
    import json

    from welbric.fingerprints import stale
    from welbric.jobs import load_job, read_text

    try:
        document = json.loads(read_text(against))
    except (json.JSONDecodeError, RecursionError) as error:
        raise InputError(f"{against}: is not what `check --json` writes: {error}") from None
    found = stale(load_job(job), document)
    for mark, why in found.items():
        click.echo(f"{mark} {why}.")
    if not found:
        click.echo(f"{against} stands: nothing it depends on has changed.")
    return OVER_OR_OUTSIDE if found else 0


@main.command()
@click.argument("job", type=click.Path(path_type=Path))
@click.argument("mark")
@click.option("--check", "name", help="One check only: its name, or its clause.")
@click.option(
    "--form",
    type=click.Choice(["text", "typst", "html"]),
    default="text",
    show_default=True,
    help="How it is written.",
)
@click.option("--json", "as_json", is_flag=True, help="For machines.")
@click.option("--to", type=click.Path(path_type=Path), help="Write into this file.")
@_says_what_is_wrong
def explain(
    job: Path, mark: str, name: str | None, form: str, as_json: bool, to: Path | None
) -> None:
    """Show every step of the checks of member MARK in JOB, each at its governing combination."""
    from welbric.checking import check_one
    from welbric.jobs import load_job, save_text

    explanation = check_one(load_job(job), mark).explain(mark, name)
    if as_json:
        import json

        from welbric.reports.documents import explanation_document

        document = explanation_document(explanation)
        text = json.dumps(document, indent=2, ensure_ascii=False, allow_nan=False) + "\n"
    elif form == "typst":
        text = explanation.typst()
    elif form == "html":
        from welbric.reports.workings import page

        text = page(explanation)
    else:
        text = explanation.text(WIDTH)
    if to is None:
        click.echo(text, nl=False)
    else:
        save_text(to, text)
        click.echo(f"Wrote {to}.")


@main.command()
@click.argument("job", type=click.Path(path_type=Path))
@click.argument("mark")
@click.option("--json", "as_json", is_flag=True, help="For machines.")
@click.option("--csv", "as_csv", is_flag=True, help="One line for each segment.")
@click.option("--under", help="The combination to buckle under; default: the governing one.")
@click.option("--to", type=click.Path(path_type=Path), help="Draw into this PNG, SVG or PDF.")
@_says_what_is_wrong
def segments(
    job: Path, mark: str, as_json: bool, as_csv: bool, under: str | None, to: Path | None
) -> None:
    """Show the lengths of member MARK between points that hold its flanges: moment, Cb, ratio.

    Below the table stands when the whole member buckles sideways, elastically, by eigenvalue;
    `--to` draws the segments and that mode.
    """
    from welbric.bracing import brace_needs, continuous_needs, twist_needs
    from welbric.checking import check_member, segment_rows, sideways
    from welbric.jobs import load_job
    from welbric.reports import documents, tables

    whole = load_job(job)
    member = whole.member(mark)
    result = check_member(whole, member)
    rows = segment_rows(whole, member, result)
    if as_json:
        _print_json(documents.segment_records(rows, whole.display))
    elif as_csv:
        click.echo(documents.as_csv(documents.segment_records(rows, whole.display)), nl=False)
    else:
        _print(tables.segment_table(member.mark, rows, whole.display))
        forces = result.forces
        if needs := brace_needs(whole, member, forces):
            _print(tables.brace_table(needs, whole.display))
        if twisting := twist_needs(whole, member, forces):
            _print(tables.twist_table(twisting, whole.display))
        if along := continuous_needs(whole, member, result):
            _print(tables.continuous_table(along, whole.display))
        try:
            critical = sideways(whole, member, under)
        except InputError as error:
            if under is not None or to is not None:
                raise
            click.echo("\n".join(error.problems))
            return
        _print(tables.sideways_words(critical, whole.display))
        if to is not None:
            from welbric.reports.mode_figure import save_mode

            save_mode(whole, member, critical, to)
            click.echo(f"Wrote {to}.")


@main.command()
@click.argument("wanted", nargs=-1)
@click.option("--units", type=click.Choice(["US", "metric"]), default="US", show_default=True)
@click.option(
    "--catalogue", type=click.Path(path_type=Path), help="A CSV or TOML of your own to look in too."
)
@click.option("--json", "as_json", is_flag=True, help="For machines.")
@click.option("--csv", "as_csv", is_flag=True, help="One line for each section.")
@click.option(
    "--to", type=click.Path(path_type=Path), help="Draw one section into this PNG, SVG or PDF."
)
@_says_what_is_wrong
def sections(
    wanted: tuple[str, ...],
    units: str,
    catalogue: Path | None,
    as_json: bool,
    as_csv: bool,
    to: Path | None,
) -> None:
    """List the catalogues, or what is WANTED of them.

    WANTED is the beginning of a name (W12), one name (all its properties), several names (side by
    side), a section built of others ("W16X40 with a 200 x 12 mm plate on the bottom flange"), or a
    wish:

        welbric sections "W or HEA, depth at most 360 mm, mass under 60 kg/m, sorted by mass"
    """
    from welbric.reports import documents, tables
    from welbric.units import DISPLAY

    show = DISPLAY[units]
    own = {}
    if catalogue is not None:
        from welbric.jobs import load_catalogue

        own = load_catalogue(catalogue).sections
    found = _sections_wanted(wanted, own)
    if to is not None:
        from welbric.reports.section_figure import save_section

        if len(found) != 1:
            raise InputError(f"--to draws one section; {len(found)} are wanted")
        save_section(found[0], show, to)
        click.echo(f"Wrote {to}.")
    elif as_json:
        _print_json(documents.section_records(found, show))
    elif as_csv:
        click.echo(documents.as_csv(documents.section_records(found, show)), nl=False)
    elif len(found) == 1 or len(wanted) > 1:
        _print(tables.section_sheet(found, show))
    else:
        _print(tables.section_list(found, show))


def _sections_wanted(wanted: tuple[str, ...], own: dict[str, Section]) -> list[Section]:
    """Return the sections that the words of a command name."""
    from welbric.sections.built import in_words, section_in_words
    from welbric.sections.catalogues import find, folded, sections_named
    from welbric.sections.wish import is_wish, wished

    if not wanted and own:
        return list(own.values())
    if len(wanted) != 1:
        names = wanted or ("",)
        found = [own.get(folded(name)) or section_in_words(name) for name in names if name]
        return found or list(sections_named(""))
    (text,) = wanted
    if folded(text) in own:
        return [own[folded(text)]]
    built = in_words(text)
    if built is not None:
        return [built]
    if is_wish(text):
        return wished(text)
    return ([] if find(text) else list(sections_named(text))) or [section_in_words(text)]


@main.command()
@click.argument("job", type=click.Path(path_type=Path))
@click.argument("marks", nargs=-1)
@click.option("--among", help="In words: 'W, depth at most 18 in'. Default: as the member says.")
@click.option("--ceiling", type=float, help="Largest utilisation.  [default: 1]")
@click.option("--least", help="mass, depth, cost, carbon, or a mix: '0.7 cost + 0.3 depth'.")
@click.option("--keep", help="Marks (commas between) whose sections stay as they are.")
@click.option("--different", type=int, help="The most different sections for all of them.")
@click.option("--all", "every", is_flag=True, help="Every candidate, not only those near.")
@click.option(
    "--sort", type=click.Choice(["mass", "depth", "utilisation"]), help="The candidates by this."
)
@click.option("--to", type=click.Path(path_type=Path), help="Draw every candidate of one member.")
@click.option("--accept", help="Write these marks (commas between), or 'all', into JOB.")
@click.option("--csv", "as_csv", is_flag=True, help="Every candidate with all its checks, as CSV.")
@click.option("--json", "as_json", is_flag=True, help="For machines.")
@_says_what_is_wrong
def size(
    job: Path,
    marks: tuple[str, ...],
    among: str | None,
    ceiling: float | None,
    least: str | None,
    keep: str | None,
    different: int | None,
    every: bool,
    sort: str | None,
    to: Path | None,
    accept: str | None,
    as_csv: bool,
    as_json: bool,
) -> None:
    """Find the best section for MARKS of JOB, or for its members with a 'choose' entry.

    Nothing is written unless --accept says so. Exit status 1 if a member finds no section.
    """
    from welbric.jobs import accept_sizes, load_job
    from welbric.sizing import size as size_job

    kept = [mark.strip() for mark in (keep or "").split(",") if mark.strip()]
    sized = size_job(
        load_job(job), marks, among, ceiling, least, every or to is not None, different, kept
    )
    if to is not None:
        from welbric.reports.sizing_figure import save_sizing

        if len(sized.sizings) != 1:
            raise InputError(f"--to draws one member; {len(sized.sizings)} were sized")
        save_sizing(sized, sized.sizings[0].member.mark, to)
        click.echo(f"Wrote {to}.", err=as_json)
    if as_csv:
        from welbric.reports.documents import as_csv as write_csv
        from welbric.reports.documents import candidate_table

        click.echo(write_csv(candidate_table(sized)), nl=False)
    elif as_json:
        from welbric.reports.documents import candidate_records

        _print_json(candidate_records(sized))
    else:
        from welbric.reports.sizing_tables import sizing_tables

        _print(sizing_tables(sized, every, sort or ""))
    if accept is not None:
        listed = None if accept == "all" else [mark.strip() for mark in accept.split(",")]
        changed = accept_sizes(job, sized, listed)
        click.echo(
            f"Wrote {job}: {', '.join(changed) or 'nothing changes'}.", err=as_json or as_csv
        )
    sys.exit(0 if sized.complete else OVER_OR_OUTSIDE)


@main.command()
@click.argument("job", type=click.Path(path_type=Path))
@click.argument("mark")
@click.option("--case", help="Only the loads of this case, such as 'live'.")
@click.option("--spacing", is_flag=True, help="How far apart may the restraints be?")
@click.option("--span", is_flag=True, help="How long may the span be?")
@click.option("--buckling", is_flag=True, help="How long may the minor buckling length be?")
@click.option("--yield", "strength", is_flag=True, help="Which yield stress suffices?")
@click.option(
    "--plate", type=click.Choice(["top", "bottom", "both"]), help="Which cover plate suffices?"
)
@click.option("--width", help="Of the plate, such as '6 in'.")
@click.option("--json", "as_json", is_flag=True, help="For machines.")
@_says_what_is_wrong
def reserve(
    job: Path,
    mark: str,
    case: str | None,
    spacing: bool,
    span: bool,
    buckling: bool,
    strength: bool,
    plate: str | None,
    width: str | None,
    as_json: bool,
) -> None:
    """Find how much more load member MARK of JOB carries, or its largest spacing or span.

    Or the least that suffices: a yield stress, a cover plate.
    """
    from welbric.jobs import load_job
    from welbric.reports.documents import reserve_document
    from welbric.reports.sizing_tables import reserve_words
    from welbric.reserves import reserve as reserve_of
    from welbric.units import parse

    asked = {
        "spacing": spacing, "span": span, "buckling length": buckling, "yield stress": strength,
        "plate": plate is not None,
    }  # fmt: skip
    questions = [name for name, wanted in asked.items() if wanted] or ["load"]
    if len(questions) > 1:
        raise InputError(f"ask for one of {', '.join(questions)} at a time")
    if width is not None and plate is None:
        raise InputError("--width goes with --plate")
    whole = load_job(job)
    wide = None if width is None else parse(width, "dimension")
    found = reserve_of(whole, mark, questions[0], case, plate or "both", wide)
    if as_json:
        _print_json(reserve_document(mark, found, whole.display))
    else:
        click.echo(reserve_words(mark, found, case, whole.display))


@main.command()
@click.argument("file", type=click.Path(path_type=Path))
@click.option(
    "--among", help="Choose the lightest of these for every mark: 'W, depth at most 18 in'."
)
@click.option("--ceiling", type=float, default=1.0, help="Largest utilisation when choosing.")
@click.option("--standard", default="AISC 360-22", show_default=True)
@click.option("--method", default="LRFD", show_default=True)
@click.option("--steel", default="A992", show_default=True, help="Of the rows that name none.")
@click.option(
    "--second-order",
    type=click.Choice(["amplified", "included"]),
    default="amplified",
    show_default=True,
    help="What is to be done with the moments, or is in them.",
)
@click.option("--decimal-comma", is_flag=True, help="1,5 is one and a half.")
@click.option("--sheet", help="Of an XLSX; default: its first.")
@click.option("--all", "every", is_flag=True, help="Show every row, not only the worst.")
@click.option("--to", type=click.Path(path_type=Path), help="Write the rows with their results.")
@click.option("--csv", "as_csv", is_flag=True, help="The rows with their results, as CSV.")
@click.option("--json", "as_json", is_flag=True, help="For machines.")
@_says_what_is_wrong
def schedule(
    file: Path,
    among: str | None,
    ceiling: float,
    standard: str,
    method: str,
    steel: str,
    second_order: str,
    decimal_comma: bool,
    sheet: str | None,
    every: bool,
    to: Path | None,
    as_csv: bool,
    as_json: bool,
) -> None:
    """Check the many members of FILE, a CSV or XLSX with a row for each, or choose their sections.

    The heads name what they hold, with units: mark, section, steel, combination, length (ft),
    unbraced_length (ft), compression (kip), moment_major (kip ft), shear_major (kip), Cb ... A
    column `choose` has a wish for the section. Bad rows are reported, and the others done; the
    exit status is 2 then.
    """
    from welbric.bulk import check_schedule, size_schedule
    from welbric.jobs.schedule_files import load_schedule

    rows = load_schedule(file, steel, decimal_comma, sheet)
    options = {"standard": standard, "method": method, "second_order": second_order}
    chooses = among is not None or any(entry.choose for entry in rows.entries)
    with _progress(len(rows.entries)) as progress:
        if chooses:
            done = size_schedule(rows, among, ceiling, progress=progress, **options)
        else:
            done = check_schedule(rows, progress=progress, **options)
    if to is not None:
        from welbric.reports.schedule_files import save_schedule

        save_schedule(done, to)
        click.echo(f"Wrote {to}.", err=as_csv or as_json)
    if as_json:
        _print_json(done.records())
    elif as_csv:
        from welbric.reports.documents import as_csv as write_csv

        click.echo(write_csv(done.records()), nl=False)
    else:
        from welbric.reports.schedule_tables import schedule_table

        _print(schedule_table(done, every))
    if rows.problems:
        raise InputError(*rows.problems)
    sys.exit(0 if done.ok else OVER_OR_OUTSIDE)


@contextlib.contextmanager
def _progress(count: int) -> Iterator[Callable[[int], None] | None]:
    """Show how far many rows are, where there is a terminal and something to wait for."""
    if count < PATIENCE or not sys.stderr.isatty():
        yield None
        return
    from rich.console import Console
    from rich.progress import Progress

    with Progress(console=Console(stderr=True), transient=True) as bar:
        task = bar.add_task("rows", total=count)
        yield lambda done: bar.update(task, completed=done)


@main.command()
@click.argument("job", type=click.Path(path_type=Path))
@click.argument("mark")
@click.option(
    "--of",
    type=click.Choice(["bending", "compression", "shear"]),
    default="bending",
    show_default=True,
    help="Over the unbraced length, the effective length, or the stiffeners' distance.",
)
@click.option("--beside", multiple=True, help="Another section to draw beside; may be repeated.")
@click.option("--upto", help="The longest length, such as '40 ft'.")
@click.option("--to", type=click.Path(path_type=Path), help="Draw into this PNG, SVG or PDF.")
@click.option("--csv", "as_csv", is_flag=True, help="Every point, as CSV.")
@click.option("--json", "as_json", is_flag=True, help="For machines.")
@_says_what_is_wrong
def curve(
    job: Path,
    mark: str,
    of: str,
    beside: tuple[str, ...],
    upto: str | None,
    to: Path | None,
    as_csv: bool,
    as_json: bool,
) -> None:
    """Show the strength of MARK's section over a length, and what member MARK of JOB asks of it."""
    from welbric.jobs import load_job
    from welbric.sections.built import section_in_words
    from welbric.strength_curves import curves_of_member
    from welbric.units import parse

    whole = load_job(job)
    others = [section_in_words(name) for name in beside]
    longest = None if upto is None else parse(upto, "length")
    found = curves_of_member(whole, mark, of, others, longest)
    if to is not None:
        from welbric.reports.curve_figure import save_curves

        save_curves(found, whole.display, to)
        click.echo(f"Wrote {to}.", err=as_csv or as_json)
    if as_json:
        from welbric.reports.documents import finite

        _print_json(finite(found.records(whole.display)))
    elif as_csv:
        from welbric.reports.documents import as_csv as write_csv

        click.echo(write_csv(found.records(whole.display)), nl=False)
    else:
        from welbric.reports.variant_tables import curve_table

        _print(curve_table(found, whole.display))


@main.command()
@click.argument("job", type=click.Path(path_type=Path))
@click.argument("mark")
@click.option(
    "--change",
    "changes",
    multiple=True,
    required=True,
    help="Keys of the member, such as 'section = \"W18X55\"; Cb = 1.2'; may be repeated.",
)
@click.option("--json", "as_json", is_flag=True, help="For machines.")
@_says_what_is_wrong
def compare(job: Path, mark: str, changes: tuple[str, ...], as_json: bool) -> None:
    """Check member MARK of JOB as it is and with each change, side by side."""
    from welbric.jobs import load_job
    from welbric.variants import compare as compare_changes

    found = compare_changes(load_job(job), mark, changes)
    if as_json:
        from welbric.reports.documents import finite
        from welbric.reports.variant_tables import comparison_records

        _print_json(finite(comparison_records(found)))
    else:
        from welbric.reports.variant_tables import comparison_table

        _print(comparison_table(found))


@main.command("double-entry")
@click.argument("file", required=False, type=click.Path(path_type=Path))
@click.option("--json", "as_json", is_flag=True, help="For machines.")
@_says_what_is_wrong
def double_entry(file: Path | None, as_json: bool) -> None:
    """Show how every catalogue row reconciles with its dimensions, and which are left out.

    With FILE, a CSV or TOML catalogue of your own; exit status 2 if a row of it is bad.
    """
    from welbric.sections.reconcile import report, summary

    if file is None:
        families, wrong = report(), []
    else:
        from welbric.jobs import load_catalogue

        own = load_catalogue(file, keep_good=True)
        families, wrong = (
            [summary(own.name, "own", own.differences, len(own.sections))],
            own.problems,
        )
    if as_json:
        from welbric.reports.documents import reconciliation_document

        _print_json(reconciliation_document(families))
    else:
        from welbric.reports.tables import reconciliation

        _print(reconciliation(families))
    if wrong:
        raise InputError(*wrong)


@main.command()
@click.argument("job", type=click.Path(path_type=Path))
@click.argument("mark")
@click.option(
    "--to", type=click.Path(path_type=Path), help="PNG, SVG or PDF; default: MARK.png here."
)
@_says_what_is_wrong
def draw(job: Path, mark: str, to: Path | None) -> None:
    """Draw member MARK of JOB: supports, loads, restraints, shear, moment, deflection."""
    from welbric.checking import check_one
    from welbric.jobs import load_job
    from welbric.reports.figures import save

    table = check_one(load_job(job), mark)
    safe = "".join(c if c.isalnum() or c in "-_." else "_" for c in mark).lstrip(".")
    target = to or Path(f"{safe or 'member'}.png")
    save(table, mark, target)
    click.echo(f"Wrote {target}.")


@main.command()
@click.argument("standard", default="AISC 360-22")
@click.option("--markdown", is_flag=True, help="As a table of Markdown.")
@click.option("--json", "as_json", is_flag=True, help="For machines.")
@_says_what_is_wrong
def scope(standard: str, markdown: bool, as_json: bool) -> None:
    """Show what of STANDARD is covered, clause by clause, and by which equations."""
    from dataclasses import asdict

    from welbric.standards.scope import as_markdown
    from welbric.standards.scope import scope as clauses_of

    found = clauses_of(standard)
    if as_json:
        _print_json([asdict(clause) for clause in found])
    elif markdown:
        click.echo(as_markdown(found), nl=False)
    else:
        from welbric.reports.tables import scope_table

        _print(scope_table(standard, found))


@main.command()
@_says_what_is_wrong
def schema() -> None:
    """Print the JSON Schema of the job file."""
    from welbric.jobs import schema as job_schema

    _print_json(job_schema())
