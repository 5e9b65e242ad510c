"""What Welbric knows: sections, reconciliation, scope, schema."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

import click

from welbric.cli.shared import (
    FIGURES,
    one_form,
    print_json,
    put,
    say,
    says_what_is_wrong,
    to_write,
)
from welbric.errors import InputError

if TYPE_CHECKING:
    from welbric.sections.table import Section


@click.command(short_help="The catalogues, or what is wanted of them.")
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
@says_what_is_wrong
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
    side), a section built of others ("W18X46 with a 180 x 15 mm plate on the bottom flange"), or a
    wish:

        welbric sections "W or HEA, depth at most 360 mm, mass under 60 kg/m, sorted by mass"
    """
    from welbric.documents.records import as_csv as write_csv
    from welbric.reports import documents, tables
    from welbric.units import DISPLAY

    one_form(as_json, as_csv)
    to_write(to, FIGURES, *([catalogue] if catalogue is not None else []))
    show = DISPLAY[units]
    own = {}
    if catalogue is not None:
        from welbric.files.jobs import load_catalogue

        own = load_catalogue(catalogue).sections
    found = _sections_wanted(wanted, own)
    if to is not None:
        from welbric.reports.section_figure import save_section

        if len(found) != 1:
            raise InputError(f"--to draws one section; {len(found)} are wanted")
        save_section(found[0], show, to)
        say(f"Wrote {to}.")
    elif as_json:
        print_json(documents.section_records(found, show))
    elif as_csv:
        say(write_csv(documents.section_records(found, show)), nl=False)
    elif len(found) == 1 or len(wanted) > 1:
        put(tables.section_sheet(found, show))
    else:
        put(tables.section_list(found, show))


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


@click.command("reconcile", short_help="How the catalogues reconcile with their dimensions.")
@click.argument("file", required=False, type=click.Path(path_type=Path))
@click.option("--json", "as_json", is_flag=True, help="For machines.")
@says_what_is_wrong
def reconcile(file: Path | None, as_json: bool) -> None:
    """Show how every catalogue row reconciles with its dimensions, and which are left out.

    With FILE, a CSV or TOML catalogue of your own; exit status 2 if a row of it is bad.
    """
    from welbric.sections.reconcile import report, summary

    if file is None:
        families, wrong = report(), []
    else:
        from welbric.files.jobs import load_catalogue

        own = load_catalogue(file, keep_good=True)
        families, wrong = (
            [summary(own.name, "own", own.differences, len(own.sections))],
            own.problems,
        )
    if as_json:
        from welbric.reports.documents import reconciliation_document

        print_json(reconciliation_document(families))
    else:
        from welbric.reports.tables import reconciliation

        put(reconciliation(families))
    if wrong:
        raise InputError(*wrong)


@click.command(short_help="What of a standard is covered.")
@click.argument("standard", default="AISC 360-22")
@click.option("--markdown", is_flag=True, help="As a table of Markdown.")
@click.option("--json", "as_json", is_flag=True, help="For machines.")
@says_what_is_wrong
def scope(standard: str, markdown: bool, as_json: bool) -> None:
    """Show what of STANDARD is covered, clause by clause, and by which equations."""
    from dataclasses import asdict

    from welbric.standards.scope import as_markdown
    from welbric.standards.scope import scope as clauses_of

    found = clauses_of(standard)
    if as_json:
        print_json([asdict(clause) for clause in found])
    elif markdown:
        click.echo(as_markdown(found), nl=False)
    else:
        from welbric.reports.tables import scope_table

        put(scope_table(standard, found))


@click.command(short_help="The JSON Schema of the job file, or of results.")
@click.option("--of", type=click.Choice(["job", "results"]), default="job", show_default=True)
@says_what_is_wrong
def schema(of: str) -> None:
    """Print the JSON Schema of the job file, or of the results that are written as JSON."""
    if of == "results":
        from welbric.checking.results_file import results_schema

        print_json(results_schema())
        return
    from welbric.files.jobs import schema as job_schema

    print_json(job_schema())
