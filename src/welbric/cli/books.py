"""The command that writes the calculation book."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING, Any

import click

from welbric.cli.shared import say, says_what_is_wrong, to_write

if TYPE_CHECKING:
    from welbric.reports.book import Depth

BOOKS = (".pdf", ".html", ".typ")


@click.command(short_help="The calculation book: the whole job, typeset.")
@click.argument("job", type=click.Path(path_type=Path))
@click.argument("marks", nargs=-1)
@click.option(
    "--to", required=True, type=click.Path(path_type=Path), help="Write it: .pdf, .html or .typ."
)
@click.option(
    "--depth",
    type=click.Choice(["summary", "checks", "full"]),
    default="checks",
    show_default=True,
    help="The table alone, every check of every member, or every step.",
)
@says_what_is_wrong
def book(job: Path, marks: tuple[str, ...], to: Path, depth: Any) -> None:
    """Write JOB as a book that a checker can follow, of all members or of MARKS.

    Its cover has what the job's [book] table says: author, checker, client, date, revision, status.
    """
    from welbric.documents.writing import save_bytes
    from welbric.files.jobs import load_job
    from welbric.reports.book import book_bytes

    ending = to_write(to, BOOKS, job)
    chosen: Depth = depth
    save_bytes(to, book_bytes(load_job(job), ending, chosen, marks))
    say(f"Wrote {to}.")
