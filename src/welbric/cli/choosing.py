"""Commands that look for something: size, reserve, compare, curve."""

from __future__ import annotations

import sys
from collections.abc import Sequence
from pathlib import Path
from typing import TYPE_CHECKING, Any, NoReturn

import click

from welbric.cli.shared import (
    FIGURES,
    OVER_OR_OUTSIDE,
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
    from welbric.inputs.job import Job
    from welbric.studies.frame_proposal import Round


@click.command(short_help="The best section for members.")
@click.argument("job", type=click.Path(path_type=Path))
@click.argument("marks", nargs=-1)
@click.option("--among", help="In words: 'W, depth at most 18 in'. Default: as the member says.")
@click.option("--utilisation", type=float, help="Largest utilisation.  [default: 1]")
@click.option("--least", help="mass, depth, cost, carbon, or a mix: '0.7 cost + 0.3 depth'.")
@click.option("--keep", help="Marks (commas between) whose sections stay as they are.")
@click.option("--different", type=int, help="The most different sections for all of them.")
@click.option("--all", "every", is_flag=True, help="Every candidate, not only those near.")
@click.option(
    "--sort", type=click.Choice(["mass", "depth", "utilisation"]), help="The candidates by this."
)
@click.option(
    "--to",
    type=click.Path(path_type=Path),
    help="Draw every candidate of one member; a frame before and after.",
)
@click.option("--accept", help="Write these marks (commas between), or 'all', into JOB.")
@click.option("--csv", "as_csv", is_flag=True, help="Every candidate with all its checks, as CSV.")
@click.option("--json", "as_json", is_flag=True, help="For machines.")
@says_what_is_wrong
def size(
    job: Path,
    marks: tuple[str, ...],
    among: str | None,
    utilisation: float | None,
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
    from welbric.files.jobs import accept_sizes, load_job
    from welbric.studies.sizing import size as size_job

    one_form(as_json, as_csv)
    to_write(to, FIGURES, job)
    kept = [mark.strip() for mark in (keep or "").split(",") if mark.strip()]
    whole = load_job(job)
    wanted = [whole.member(mark) for mark in marks] or [m for m in whole.members if m.choose]
    if any(member.frame is not None for member in wanted):
        given = {"--all": every, "--sort": sort}
        if refused := [name for name, value in given.items() if value]:
            raise InputError(f"{refused[0]} does not go with the members of a frame")
        _size_frame(job, whole, marks, among, utilisation, least, kept, different, to, accept,
                    as_csv, as_json)  # fmt: skip
    sized = size_job(
        whole, marks, among, utilisation, least, every or to is not None, different, kept
    )
    if to is not None:
        from welbric.reports.sizing_figure import save_sizing

        if len(sized.sizings) != 1:
            raise InputError(f"--to draws one member; {len(sized.sizings)} were sized")
        save_sizing(sized, sized.sizings[0].member.mark, to)
        say(f"Wrote {to}.", err=as_json)
    if as_csv:
        from welbric.documents.records import as_csv as write_csv
        from welbric.studies.sizing import candidate_table

        say(write_csv(candidate_table(sized)), nl=False)
    elif as_json:
        from welbric.studies.sizing import candidate_records

        print_json(candidate_records(sized))
    else:
        put(sized.document(every, sort or ""))
    if accept is not None:
        listed = None if accept == "all" else [mark.strip() for mark in accept.split(",")]
        changed = accept_sizes(job, sized, listed)
        say(f"Wrote {job}: {', '.join(changed) or 'nothing changes'}.", err=as_json or as_csv)
    sys.exit(0 if sized.complete else OVER_OR_OUTSIDE)


def _size_frame(
    path: Path,
    job: Job,
    marks: Sequence[str],
    among: str | None,
    utilisation: float | None,
    least: str | None,
    kept: Sequence[str],
    different: int | None,
    to: Path | None,
    accept: str | None,
    as_csv: bool,
    as_json: bool,
) -> NoReturn:
    """Size the members of a frame, print what comes of it, and leave."""
    from welbric.files.jobs import accept_sizes
    from welbric.studies.frame_groups import size_in_frame

    def tell(one: Round) -> None:
        if sys.stderr.isatty():
            click.echo(f"\r\x1b[Kanalysed: worst {one.utilisation:.2f}", err=True, nl=False)

    sized = size_in_frame(job, marks, among, utilisation, least, kept, tell, different)
    if sys.stderr.isatty():
        click.echo("\r\x1b[K", err=True, nl=False)
    if to is not None:
        from welbric.reports.frame_sizing_figure import save_frame_sizing

        save_frame_sizing(sized, to)
        say(f"Wrote {to}.", err=as_json or as_csv)
    put_rows(sized.records(), sized.document(), as_json, as_csv)
    if accept is not None:
        listed = None if accept == "all" else [mark.strip() for mark in accept.split(",")]
        changed = accept_sizes(path, sized, listed)
        say(f"Wrote {path}: {', '.join(changed) or 'nothing changes'}.", err=as_json or as_csv)
    sys.exit(0 if sized.complete and not sized.others else OVER_OR_OUTSIDE)


@click.command(short_help="How much more a member carries, or what would do.")
@click.argument("job", type=click.Path(path_type=Path))
@click.argument("mark", required=False)
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
@says_what_is_wrong
def reserve(
    job: Path,
    mark: str | None,
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

    Or the least that suffices: a yield stress, a cover plate. Of a member of a frame the loads of
    the whole frame grow; without MARK, until the first of its members is used up.
    """
    from welbric.checking.shown import other_stages
    from welbric.documents.blocks import paragraph
    from welbric.files.jobs import load_job
    from welbric.reports.documents import reserve_document
    from welbric.studies.frame_reserves import frame_reserve
    from welbric.studies.reserve_words import reserve_words
    from welbric.studies.reserves import reserve as reserve_of
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
    if mark is None or (questions == ["load"] and whole.member(mark).frame is not None):
        if questions != ["load"]:
            raise InputError(f"name the member whose {questions[0]} it is")
        found = frame_reserve(whole, mark, case)
    else:
        found = reserve_of(whole, mark, questions[0], case, plate or "both", wide)
    if as_json:
        print_json(reserve_document(mark or "", found, whole.display))
    else:
        beside = [] if mark is None else other_stages(whole, mark)
        put([paragraph(reserve_words(mark or "the frame", found, case, whole.display)), *beside])


@click.command(short_help="A member as it is and with changes.")
@click.argument("job", type=click.Path(path_type=Path))
@click.argument("mark")
@click.option(
    "--change",
    "changes",
    multiple=True,
    help="Keys of the member, such as 'section = \"W18X55\"; design.Cb = 1.2'; may be repeated.",
)
@click.option(
    "--under",
    multiple=True,
    help='Keys of the job, such as \'standard = "EN 1993-1-1"; loading.live_category = "B"\'.',
)
@click.option("--json", "as_json", is_flag=True, help="For machines.")
@says_what_is_wrong
def compare(
    job: Path, mark: str, changes: tuple[str, ...], under: tuple[str, ...], as_json: bool
) -> None:
    """Check member MARK of JOB as it is, with each change and under other standards.

    MARK may be a truss, a portal or a building: its keys then, such as 'depth = "1.5 m"'.
    """
    from welbric.files.jobs import load_job, made_variants
    from welbric.studies.variants import AS_IT_IS, read_change
    from welbric.studies.variants import compare as compare_changes

    whole = load_job(job)
    named: dict[str, dict[str, Any]] = {AS_IT_IS: {}} | {
        text: read_change(text) for text in changes
    }
    made = made_variants(job, mark, named)
    if made is not None:
        if under or not changes:
            raise InputError(f"{mark}: say at least one --change of it; --under is of members")
        _compare_made(mark, made, whole, as_json)
        return
    found = compare_changes(whole, mark, changes, under)
    if as_json:
        from welbric.documents.records import finite
        from welbric.studies.comparisons_shown import comparison_records

        print_json(finite(comparison_records(found)))
    else:
        from welbric.checking.shown import other_stages
        from welbric.studies.comparisons_shown import comparison_document

        put([*comparison_document(found, whole.display), *other_stages(whole, mark)])


def _compare_made(
    mark: str, jobs: dict[str, tuple[Job, dict[str, str]]], whole: Job, as_json: bool
) -> None:
    """Print what comes of a truss, a portal or a building said otherwise."""
    from welbric.documents.records import finite
    from welbric.studies.made_variants import compare_made, made_document, made_records

    found = compare_made(jobs)
    if as_json:
        print_json(finite(made_records(found)))
    else:
        put(made_document(mark, found, whole.display))


@click.command(short_help="The strength of a section over a length.")
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
@says_what_is_wrong
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
    from welbric.files.jobs import load_job
    from welbric.sections.built import section_in_words
    from welbric.sections.catalogues import folded
    from welbric.studies.curves import curves_of_member
    from welbric.units import parse

    one_form(as_json, as_csv)
    to_write(to, FIGURES, job)
    whole = load_job(job)
    own = whole.own_sections
    others = [own.get(folded(name)) or section_in_words(name) for name in beside]
    longest = None if upto is None else parse(upto, "length")
    found = curves_of_member(whole, mark, of, others, longest)
    if to is not None:
        from welbric.reports.curve_figure import save_curves

        save_curves(found, whole.display, to)
        say(f"Wrote {to}.", err=as_csv or as_json)
    if as_json:
        from welbric.documents.records import finite

        print_json(finite(found.records(whole.display)))
    elif as_csv:
        from welbric.documents.records import as_csv as write_csv

        say(write_csv(found.records(whole.display)), nl=False)
    else:
        from welbric.studies.comparisons_shown import curves_document

        put(curves_document(found, whole.display))
