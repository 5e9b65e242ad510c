"""What the commands share: how they print, and how they say what is wrong."""

from __future__ import annotations

import errno
import functools
import os
import sys
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import TYPE_CHECKING, Any

import click

from welbric.errors import InputError, folded_alike, seen

if TYPE_CHECKING:
    from rich.console import Console

    from welbric.documents.blocks import Document

OVER_OR_OUTSIDE, WRONG_INPUT = 1, 2
NARROWEST = 40
WIDTH = 100  # of what is printed where there is no terminal to ask


def says_what_is_wrong(command: Callable[..., Any]) -> Callable[..., Any]:
    """Print an input's problems one to a line and leave with status 2."""

    @functools.wraps(command)
    def run(*args: Any, **kwargs: Any) -> Any:
        try:
            result = command(*args, **kwargs)
            sys.stdout.flush()
            return result
        except InputError as error:
            for problem in folded_alike(error.problems):
                say(f"welbric: {problem}", err=True)
        except MemoryError:
            say("welbric: the memory of this machine does not suffice", err=True)
        except OSError as error:
            if error.errno == errno.EPIPE:  # whoever reads has enough
                raise
            say(f"welbric: what was found cannot be printed: {error.strerror}", err=True)
            # What is still to be printed would complain once more at the end.
            os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        sys.exit(WRONG_INPUT)

    return run


def say(text: str, err: bool = False, nl: bool = True) -> None:
    """Print a text, without what would steer the terminal."""
    click.echo(seen(text), err=err, nl=nl)


def asked_width() -> int:
    """Return the width that COLUMNS asks for, or the usual one where there is no terminal."""
    asked = os.environ.get("COLUMNS", "")
    return max(int(asked), NARROWEST) if asked.isdecimal() and len(asked) < 5 else WIDTH


def console() -> Console:
    """Return where to print: as wide as the terminal, plain where there is none."""
    from rich.console import Console

    console = Console(highlight=False, soft_wrap=False)
    if not console.is_terminal:
        console = Console(highlight=False, width=asked_width(), color_system=None)
    return console


def put(document: Document) -> None:
    """Print a document of paragraphs and tables."""
    from welbric.documents.terminal import rendered

    console().print(rendered(document))


def one_form(as_json: bool, as_csv: bool) -> None:
    """Refuse two forms of one output.

    Raises
    ------
    InputError
        If both are asked for.
    """
    if as_json and as_csv:
        raise InputError("--json and --csv: give one of them")


FIGURES = (".png", ".svg", ".pdf")
TABLE_FORMS = (".txt", ".html", ".csv", ".xlsx", ".json")


def to_write(to: Path | None, endings: Sequence[str], *inputs: Path) -> str:
    """Return the ending of the file to be written, before anything is computed for it.

    Parameters
    ----------
    to : Path or None
    endings : sequence of str
        Those accepted.
    *inputs : Path
        The files read, which are not written over; a job's catalogues come with it.
    """
    if to is None:
        return ""
    from welbric.documents.writing import ending_of
    from welbric.files.jobs import files_of

    return ending_of(to, endings, [file for one in inputs for file in files_of(one)])


def put_rows(
    rows: Sequence[dict[str, Any]],
    document: Document,
    as_json: bool,
    as_csv: bool,
    to: Path | None = None,
    data: Any = None,
) -> None:
    """Print records for machines, or the document of the same; or write them into a file.

    Parameters
    ----------
    rows : sequence of dict
    document : Document
    as_json, as_csv : bool
    to : Path, optional
        Its ending says the form; what else is asked for is printed nevertheless.
    data : object, optional
        What JSON has in the place of the rows.
    """
    from welbric.documents.records import as_csv as write_csv

    data = rows if data is None else data
    if as_json:
        print_json(data)
    elif as_csv:
        say(write_csv(rows), nl=False)
    elif to is None:
        put(document)
    if to is None:
        return
    from welbric.documents.writing import save_bytes, save_text

    match to.suffix.casefold():
        case ".csv":
            save_text(to, write_csv(rows))
        case ".xlsx":
            from welbric.documents.workbook import as_xlsx

            save_bytes(to, as_xlsx(rows))
        case ".json":
            from welbric.documents.records import as_json as write_json

            save_text(to, write_json(data) + "\n")
        case ".html":
            from welbric.documents.html import page

            save_text(to, page(document))
        case _:
            from welbric.documents.terminal import as_text

            save_text(to, as_text(document, asked_width()))
    say(f"Wrote {to}.", err=as_json or as_csv)


def print_json(what: Any) -> None:
    """Print plain data as JSON."""
    from welbric.documents.records import as_json

    click.echo(as_json(what))


def new_folder(path: Path) -> None:
    """Make a folder that files are written into, which is not there yet, or empty."""
    if path.exists() and (not path.is_dir() or any(path.iterdir())):
        raise InputError(f"{path}: is there already; a folder of CSV is written anew, so give "
                         "another name")  # fmt: skip
    try:
        path.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise InputError(f"{path}: cannot be made: {error.strerror}") from None
