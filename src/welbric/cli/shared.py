"""What the commands share: how they print, and how they say what is wrong."""

from __future__ import annotations

import functools
import sys
from collections.abc import Callable
from typing import TYPE_CHECKING, Any

import click

from welbric.errors import InputError

if TYPE_CHECKING:
    from rich.console import Console

    from welbric.documents.blocks import Document

OVER_OR_OUTSIDE, WRONG_INPUT = 1, 2
WIDTH = 100  # of what is printed where there is no terminal to ask


def says_what_is_wrong(command: Callable[..., Any]) -> Callable[..., Any]:
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


def console() -> Console:
    """Return where to print: as wide as the terminal, plain where there is none."""
    from rich.console import Console

    console = Console(highlight=False, soft_wrap=False)
    if not console.is_terminal:
        console = Console(highlight=False, width=WIDTH, color_system=None)
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


def put_rows(rows: list[dict[str, Any]], document: Document, as_json: bool, as_csv: bool) -> None:
    """Print records for machines, or the document of the same."""
    if as_json:
        print_json(rows)
    elif as_csv:
        from welbric.documents.records import as_csv as write_csv

        click.echo(write_csv(rows), nl=False)
    else:
        put(document)


def print_json(what: Any) -> None:
    """Print plain data as JSON."""
    import json

    click.echo(json.dumps(what, indent=2, ensure_ascii=False, allow_nan=False))
