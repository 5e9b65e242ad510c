"""The command on a frame as a whole."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path
from typing import TYPE_CHECKING

import click

from welbric.cli.shared import (
    FIGURES,
    new_folder,
    print_json,
    put,
    say,
    says_what_is_wrong,
    to_write,
)
from welbric.errors import InputError

if TYPE_CHECKING:
    from welbric.documents.workbook import Sheet


@click.command(short_help="A frame as a whole: stability, balance, drift.")
@click.argument("job", type=click.Path(path_type=Path))
@click.option(
    "--to",
    type=click.Path(path_type=Path),
    help="Write forces, reactions and movements: .xlsx, or a folder of CSV.",
)
@click.option("--forces", is_flag=True, help="The largest tension and compression of each member.")
@click.option("--json", "as_json", is_flag=True, help="For machines.")
@says_what_is_wrong
def frame(job: Path, to: Path | None, forces: bool, as_json: bool) -> None:
    """Show what the frame of JOB does as a whole under each strength combination.

    How near it is to its critical load, what acts and what the supports give, how its storeys
    and joints move. `welbric draw JOB` draws it.
    """
    from welbric.checking.frames import (
        axial_document,
        frame_document,
        frame_records,
        frame_results,
    )
    from welbric.files.jobs import load_job

    if forces and (to is not None or as_json):
        raise InputError("--forces goes without --to and --json, which have all of them")
    if to is not None and to.suffix.casefold() in FIGURES:
        raise InputError(f"{to.name} is a figure: welbric draw JOB draws the frame")
    ending = to_write(to, (".xlsx",), job) if to is not None and to.suffix else ""
    found = frame_results(whole := load_job(job))
    if to is not None:
        from welbric.reports.frame_sheets import frame_sheets

        _write_sheets(frame_sheets(found, whole.display), to, ending)
    elif as_json:
        print_json(frame_records(found))
    else:
        put((axial_document if forces else frame_document)(found, whole.display))


@click.command(short_help="A job with its generators written out, or as tables.")
@click.argument("job", type=click.Path(path_type=Path))
@click.option(
    "--to",
    type=click.Path(path_type=Path),
    help="Write it: .toml; joints, members and loads as tables: .xlsx, or a folder of CSV.",
)
@says_what_is_wrong
def expand(job: Path, to: Path | None) -> None:
    """Write out what the generators of JOB stand for, as plain joints and members.

    Into an XLSX, or a folder of CSV, go the joints, members and loads of any job with a frame.
    """
    from welbric.documents.writing import save_text
    from welbric.files.jobs import description_of, expanded

    if to is None:
        click.echo(expanded(job), nl=False)
        return
    ending = to_write(to, (".toml", ".xlsx"), job) if to.suffix else ""
    if ending == ".toml":
        save_text(to, expanded(job))
        say(f"Wrote {to}.")
        return
    from welbric.documents.workbook import Sheet
    from welbric.files.frame_tables import tables_of

    sheets = [Sheet(name, rows) for name, rows in tables_of(description_of(job)).items()]
    _write_sheets(sheets, to, ending)


def _write_sheets(sheets: Sequence[Sheet], to: Path, ending: str) -> None:
    """Write sheets as a workbook, or as a folder of CSV."""
    from welbric.documents.workbook import csv_files, workbook
    from welbric.documents.writing import save_bytes, save_text

    if ending == ".xlsx":
        save_bytes(to, workbook(sheets))
        say(f"Wrote {to}.")
        return
    new_folder(to)
    for name, text in csv_files(sheets).items():
        save_text(to / name, text, "utf-8-sig")
    say(f"Wrote {len(sheets)} files into {to}.")


@click.command(short_help="A job of the tables of a frame.")
@click.argument("tables", type=click.Path(path_type=Path))
@click.option(
    "--with",
    "base",
    type=click.Path(path_type=Path),
    help="A job file that has all else: standard, loading, frame, defaults.",
)
@click.option("--to", type=click.Path(path_type=Path), help="Write it into this TOML file.")
@says_what_is_wrong
def gather(tables: Path, base: Path | None, to: Path | None) -> None:
    """Make a job of the joints, members and loads in TABLES: an XLSX, or a folder of CSV.

    Its sheets or files are joints, members, joint loads and member loads; the heads of their
    columns the keys of a job file, the unit of bare numbers behind a comma: 'x, m'.
    """
    from welbric.documents.writing import save_text
    from welbric.files.frame_tables import gathered
    from welbric.files.jobs import parse_job
    from welbric.files.reading import read_text

    if to is not None:
        to_write(to, (".toml",), *([base] if base is not None else []))
    text = gathered(tables, *([read_text(base)] if base is not None else []))
    parse_job(text, str(tables), (base or tables).parent)
    if to is None:
        click.echo(text, nl=False)
        return
    save_text(to, text)
    say(f"Wrote {to}.")
