"""The calculation book, and what has changed since."""

from __future__ import annotations

import dataclasses
import sys
from pathlib import Path
from typing import TYPE_CHECKING, Any

import click

from welbric.cli.shared import (
    TABLE_FORMS,
    new_folder,
    one_form,
    put_rows,
    say,
    says_what_is_wrong,
    to_write,
)
from welbric.errors import InputError

if TYPE_CHECKING:
    from welbric.checking.table import CheckTable
    from welbric.reports.book import Beside, Depth

BOOKS = (".pdf", ".html", ".typ", ".xlsx", ".json")
DIFFERENT = 1


@click.command(short_help="The calculation book: the whole job, typeset.")
@click.argument("job", type=click.Path(path_type=Path))
@click.argument("marks", nargs=-1)
@click.option("--group", help="The members of this group.")
@click.option(
    "--to",
    required=True,
    type=click.Path(path_type=Path),
    help="Write it: .pdf, .html, .typ, .xlsx, .json; a name without ending: a folder of CSV.",
)
@click.option(
    "--depth",
    type=click.Choice(["summary", "checks", "full"]),
    default="checks",
    show_default=True,
    help="The table alone, every check of every member, or every step.",
)
@click.option(
    "--since",
    type=click.Path(path_type=Path),
    help="An earlier job, or its results (.json): mark what has changed since.",
)
@click.option(
    "--against",
    type=click.Path(path_type=Path),
    help="Results (.json) that have been issued: say on every page which stand no more.",
)
@says_what_is_wrong
def book(
    job: Path,
    marks: tuple[str, ...],
    group: str | None,
    to: Path,
    depth: Any,
    since: Path | None,
    against: Path | None,
) -> None:
    """Write JOB as a book that a checker can follow, of all members or of MARKS.

    Its cover has what the job's [book] table says: author, checker, client, date, revision, status,
    logo.
    """
    from welbric.checking.check import check
    from welbric.documents.writing import save_bytes, save_text
    from welbric.files.jobs import load_job
    from welbric.reports.book import book_bytes, part_of

    inputs = [one for one in (job, since, against) if one is not None]
    ending = to_write(to, BOOKS, *inputs) if to.suffix else ""
    chosen: Depth = depth
    whole = load_job(job)
    everything = check(whole)
    table = part_of(everything, marks, group)
    beside = _beside(everything, job, since, against)
    match ending:
        case "":
            from welbric.documents.workbook import csv_files
            from welbric.reports.book_sheets import book_sheets

            files = csv_files(book_sheets(table, beside))
            new_folder(to)
            for name, text in files.items():
                save_text(to / name, text, "utf-8-sig")
            say(f"Wrote {len(files)} files into {to}.")
            return
        case ".xlsx":
            from welbric.documents.workbook import workbook
            from welbric.reports.book_sheets import book_sheets

            content = workbook(book_sheets(table, beside), whole.name)
        case ".json":
            from welbric.documents.records import as_json
            from welbric.reports.book_sheets import book_data

            content = f"{as_json(book_data(table, chosen, beside))}\n".encode()
        case _:
            with _progress(len(table)) as bar:
                beside = dataclasses.replace(beside, done=lambda _: bar.update(1))
                content = book_bytes(table, ending, chosen, beside)
    save_bytes(to, content)
    say(f"Wrote {to}.")


def _beside(table: CheckTable, path: Path, since: Path | None, against: Path | None) -> Beside:
    """Return what the book takes from elsewhere."""
    from welbric.checking.fingerprints import stale
    from welbric.files.pictures import load_logo
    from welbric.files.results import load_side
    from welbric.reports.book import Beside
    from welbric.studies.changes import changes as changes_between
    from welbric.studies.changes import side_of

    job, found = table.job, None
    gone: tuple[str, ...] = ()
    if since is not None:
        found = changes_between(load_side(since, job.display), side_of(job, table))
    if against is not None:
        from welbric.files.results import load_results

        gone = tuple(stale(job, load_results(against)))
    logo = None
    if job.book.logo:
        try:
            logo = load_logo(path.parent / job.book.logo)
        except InputError as error:
            raise error.under("book", "logo", file=str(path)) from None
    named = (since.name if since is not None else "", against.name if against is not None else "")
    return Beside(found, named[0], gone, named[1], logo)


MANY = 20  # members from which on it is shown how far a book is


def _progress(count: int) -> Any:
    """Return a bar on the terminal, where there is one and it is worth it."""
    hidden = count < MANY or not sys.stderr.isatty()
    form = "%(label)s  %(bar)s  %(info)s"
    return click.progressbar(
        length=count, label="members", file=sys.stderr, show_eta=False, show_percent=False,
        show_pos=True, hidden=hidden, bar_template=form,
    )  # fmt: skip


@click.command(short_help="What is otherwise in a job than it was.")
@click.argument("old", type=click.Path(path_type=Path))
@click.argument("new", type=click.Path(path_type=Path))
@click.option("--json", "as_json", is_flag=True, help="For machines.")
@click.option("--csv", "as_csv", is_flag=True, help="A line for each value and each check.")
@click.option(
    "--to", type=click.Path(path_type=Path), help="Write it: .txt, .html, .csv, .xlsx or .json."
)
@says_what_is_wrong
def changes(old: Path, new: Path, as_json: bool, as_csv: bool, to: Path | None) -> None:
    """Compare NEW with OLD: what is said, what came of it, what steel it takes.

    Each is a job, or the results that `check --json` or a book in JSON wrote. The exit status is
    0 where nothing is otherwise, 1 where something is.
    """
    from welbric.files.results import load_side
    from welbric.studies.changes import changes as changes_between
    from welbric.studies.changes_shown import changes_document, changes_records

    one_form(as_json, as_csv)
    to_write(to, TABLE_FORMS, old, new)
    after = load_side(new)
    found = changes_between(load_side(old, after.show), after)
    document = changes_document(found)
    put_rows(changes_records(found), document, as_json, as_csv, to)
    sys.exit(0 if found.alike else DIFFERENT)
