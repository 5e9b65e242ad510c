"""Many members at once: schedule."""

from __future__ import annotations

import contextlib
import sys
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import click

from welbric.cli.shared import (
    OVER_OR_OUTSIDE,
    one_form,
    print_json,
    put,
    say,
    says_what_is_wrong,
    to_write,
)
from welbric.errors import InputError

PATIENCE = 2_000  # rows of a schedule that take a moment


@click.command(short_help="Check or size the members of a CSV or XLSX.")
@click.argument("file", type=click.Path(path_type=Path))
@click.option(
    "--among", help="Choose the lightest of these for every mark: 'W, depth at most 18 in'."
)
@click.option("--utilisation", type=float, default=1.0, help="Largest utilisation when choosing.")
@click.option("--standard", default="AISC 360-22", show_default=True)
@click.option("--method", help="Default: the standard's usual one.")
@click.option("--steel", default="", help="Of rows that name none; default: as is usual for it.")
@click.option(
    "--second-order",
    type=click.Choice(["amplified", "included"]),
    default="amplified",
    show_default=True,
    help="What is to be done with the moments, or is in them.",
)
@click.option(
    "--decimal-comma/--decimal-point",
    default=None,
    help="Whether 1,5 is one and a half; default: as the numbers tell.",
)
@click.option("--sheet", help="Of an XLSX; default: its first.")
@click.option("--all", "every", is_flag=True, help="Show every row, not only the worst.")
@click.option(
    "--to",
    type=click.Path(path_type=Path),
    help="Write rows and results: .csv, .xlsx or .json.",
)
@click.option("--csv", "as_csv", is_flag=True, help="The rows with their results, as CSV.")
@click.option("--json", "as_json", is_flag=True, help="For machines.")
@says_what_is_wrong
def schedule(
    file: Path,
    among: str | None,
    utilisation: float,
    standard: str,
    method: str | None,
    steel: str,
    second_order: str,
    decimal_comma: bool | None,
    sheet: str | None,
    every: bool,
    to: Path | None,
    as_csv: bool,
    as_json: bool,
) -> None:
    """Check the many members of FILE, a CSV or XLSX with a row for each, or choose their sections.

    The heads name what they hold, with units: mark, section, steel, combination, length (ft),
    unbraced_length (ft), compression (kip), moment_major (kip ft), shear_major (kip) ... A
    column `choose` has a wish for the section. Bad rows are reported, and the others done; the
    exit status is 2 then.
    """
    from welbric.files.schedules import load_schedule
    from welbric.studies.schedule_checks import check_schedule, size_schedule

    one_form(as_json, as_csv)
    to_write(to, (".csv", ".json", ".xlsx", ".xlsm"), file)
    rows = load_schedule(file, steel, decimal_comma, sheet)
    options: dict[str, Any] = {
        "standard": standard, "method": method, "second_order": second_order,
    }  # fmt: skip
    chooses = among is not None or any(entry.choose for entry in rows.entries)
    with _progress(len(rows.entries)) as progress:
        if chooses:
            done = size_schedule(rows, among, utilisation, progress=progress, **options)
        else:
            done = check_schedule(rows, progress=progress, **options)
    if to is not None:
        from welbric.files.schedule_results import save_schedule

        save_schedule(done, to)
        say(f"Wrote {to}.", err=as_csv or as_json)
    if as_json:
        print_json(done.records())
    elif as_csv:
        from welbric.files.schedule_results import schedule_csv

        say(schedule_csv(done), nl=False)
    else:
        from welbric.studies.schedule_shown import schedule_document

        put(schedule_document(done, every))
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
