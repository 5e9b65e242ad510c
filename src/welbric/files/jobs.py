"""The job file: reading, writing back with its comments, and its JSON Schema."""

from __future__ import annotations

import tomllib
from collections.abc import Mapping
from importlib import resources
from pathlib import Path
from typing import TYPE_CHECKING, Any

from pydantic import ValidationError

from welbric.documents.writing import locked, save_text
from welbric.errors import InputError
from welbric.files.reading import LARGEST_FILE, read_table_text, read_text
from welbric.inputs.descriptions import problems
from welbric.inputs.generators import made_by
from welbric.inputs.job import Job
from welbric.members.resolve import resolve_all

if TYPE_CHECKING:
    from welbric.inputs.own_catalogues import OwnCatalogue
    from welbric.studies.frame_sizing import SizedFrame
    from welbric.studies.sizing import SizedJob

FORMAT_1 = (
    "format 1 is no longer read; write welbric = 2, put method, stability, effective_lengths and "
    "separate_planes into a [design] table, and companion_live, sds, expression, live_category, "
    "snow_altitude, national_values and partial_factors into a [loading] table beside "
    'standard = "...", which the loading standard is there; '
    "Cb stands in [member.design]; either_way is reversible now, ceilings utilisations"
)


def load_job(path: str | Path) -> Job:
    """Read a job file.

    Parameters
    ----------
    path : str or Path

    Returns
    -------
    Job

    Raises
    ------
    InputError
        With every problem found, each with its member and field.
    """
    return parse_job(read_text(path), str(path), Path(path).parent)


def expanded(path: str | Path) -> str:
    """Return the text of a job file with its generators written out as joints and members.

    Raises
    ------
    InputError
        If it is no job, or has nothing to write out.
    """
    import tomlkit

    from welbric.inputs.generators import GENERATORS

    if not set(GENERATORS) & set(tomllib.loads(read_text(path))):
        load_job(path)  # so that what is wrong is said as for any command
        raise InputError(f"{path}: has no {' and no '.join(GENERATORS)} to write out")
    return tomlkit.dumps(description_of(path))


def description_of(path: str | Path) -> dict[str, Any]:
    """Return what a job file says, with its generators written out as joints and members.

    Raises
    ------
    InputError
        If it is no job.
    """
    from welbric.inputs.generators import written_out

    load_job(path)  # so that what is wrong is said as for any command
    data = tomllib.loads(read_text(path))
    context = {"bare_units": data.get("bare_units", {}), "sections": {}}
    return written_out(data, context)


def parse_job(text: str, name: str = "job", folder: str | Path = ".") -> Job:
    """Read a job from the text of a job file.

    Parameters
    ----------
    text : str
    name : str
        Stands before each problem.
    folder : str or Path
        Where the catalogues that the job names are.
    """
    try:
        data = tomllib.loads(text)
    except tomllib.TOMLDecodeError as error:
        raise InputError(f"{name}: is not TOML: {_lower_first(str(error))}") from None
    except ValueError:
        raise InputError(f"{name}: has a number of thousands of digits") from None
    except RecursionError:
        raise InputError(f"{name}: is not a job: its values are nested too deeply") from None
    if not data:
        raise InputError(f"{name}: is empty; a job has a name, a standard and [[member]] tables")
    if data.get("welbric") == 1:
        raise InputError(f"{name}: welbric: {FORMAT_1}")
    if data.get("welbric") != 2:
        given = repr(data["welbric"]) if "welbric" in data else "nothing"
        raise InputError(
            f"{name}: welbric: the version of the format is missing or not known; "
            f"found {given}, accepted: welbric = 2"
        )
    units = data.get("bare_units")
    context: dict[str, Any] = {"bare_units": units if isinstance(units, dict) else {}}
    catalogues = own_catalogues(data.get("catalogue", []), name, Path(folder))
    context["sections"] = {k: s for one in catalogues for k, s in one.sections.items()}
    context["unusable"] = {k: words for one in catalogues for k, words in one.unusable.items()}
    try:
        job = Job.model_validate(data, context=context)
    except ValidationError as error:
        found = problems(error, Job, {"member": marks_of(data)})
        raise InputError(*found).under(file=name) from None
    try:
        resolve_all(job)
    except InputError as error:
        raise error.under(file=name) from None
    return job


def files_of(path: str | Path) -> list[Path]:
    """Return a file and, of a job file, the catalogues that it names, as far as can be read."""
    try:
        data = tomllib.loads(read_text(path)) if Path(path).suffix == ".toml" else {}
    except (InputError, ValueError, RecursionError):
        data = {}
    named = data.get("catalogue", [])
    entries = named if isinstance(named, list) else [named]
    files = [entry.get("file") if isinstance(entry, dict) else entry for entry in entries]
    beside = Path(path).parent
    return [Path(path), *(beside / file for file in files if isinstance(file, str))]


def own_catalogues(entries: Any, name: str, folder: Path) -> list[OwnCatalogue]:
    """Return the catalogues that a job names."""
    found: list[OwnCatalogue] = []
    for entry in entries if isinstance(entries, list) else [entries]:
        file, keep = entry, False
        if isinstance(entry, dict):
            file, keep = entry.get("file"), entry.get("keep_good_rows") is True
        if not isinstance(file, str):
            raise InputError(
                f'{name}: catalogue: give file names, such as ["yard.csv"], or '
                '{file = "yard.csv", keep_good_rows = true}'
            )
        found.append(load_catalogue(folder / file, keep))
    return found


def load_catalogue(path: str | Path, keep_good: bool = False) -> OwnCatalogue:
    """Read a catalogue of one's own, CSV or TOML.

    Parameters
    ----------
    path : str or Path
    keep_good : bool
        Whether the good rows may be used although others are bad.

    Raises
    ------
    InputError
        With every bad row's line and column, unless the good rows may be used.
    """
    from welbric.inputs.own_catalogues import read_catalogue

    toml = Path(path).suffix.casefold() == ".toml"
    text = read_text(path) if toml else read_table_text(path, LARGEST_FILE).text
    return read_catalogue(text, str(path), keep_good)


def _lower_first(text: str) -> str:
    return text[:1].lower() + text[1:]


def marks_of(data: dict[str, Any]) -> list[str]:
    """Return the marks of a job's members as they stand in the file, for messages."""
    members = data.get("member")
    tables = members if isinstance(members, list) else []
    marks = [table.get("mark") if isinstance(table, dict) else None for table in tables]
    return [mark[:40] if isinstance(mark, str) else "" for mark in marks]


def change_job(text: str, changes: dict[str, dict[str, Any]], folder: str | Path = ".") -> str:
    """Return the text of a job file with fields of members changed; comments and order stay.

    Parameters
    ----------
    text : str
        A job file.
    changes : dict of str to dict
        By mark: field -> new value, as it is written in a job file.
    folder : str or Path
        Where the files that the job names are looked for.

    Raises
    ------
    InputError
        If a mark is not in the job, or the changed job is not valid.
    """
    import tomlkit

    job = parse_job(text, folder=folder)
    document = tomlkit.parse(text)
    known = {str(table.get("mark", "")).strip(): table for table in document.get("member", [])}
    made: dict[tuple[str, int, str], dict[str, dict[str, Any]]] = {}
    origins: dict[str, tuple[str, int, str]] = {}
    for mark, fields in changes.items():
        mark = job.member(mark).mark
        if mark in known:
            known[mark].update(fields)
        else:
            origins = origins or made_by(document.unwrap())
            made.setdefault(origins[mark], {})[mark] = fields
    for origin, members in made.items():
        kind, number, part = origin
        alike = {mark for mark, one in origins.items() if one == origin}
        _change_made(document[kind][number], part, members, alike)
    changed = tomlkit.dumps(document)
    parse_job(changed, folder=folder)
    return changed


def made_variants(
    path: str | Path, mark: str, changes: Mapping[str, Mapping[str, Any]]
) -> dict[str, tuple[Job, dict[str, str]]] | None:
    """Return a job with a truss, portal or building said otherwise, by the words of each change.

    Parameters
    ----------
    path : str or Path
    mark : str
        Of a truss, a portal or a building; None is returned where there is none of this name.
    changes : mapping of str to mapping
        By words: the keys of its table and their new values, as a job file has them.

    Returns
    -------
    dict of str to (Job, dict of str to str)
        Each job, with the table that each member has which is made: ``"top"``, ``"columns"`` ...

    Raises
    ------
    InputError
        If a change does not fit.
    """
    import tomlkit

    from welbric.inputs.generators import GENERATORS

    text, folder = read_text(path), Path(path).parent
    parse_job(text, str(path), folder)
    data = tomllib.loads(text)
    places = [
        (kind, number)
        for kind in GENERATORS
        for number, table in enumerate(data.get(kind) or [])
        if table["mark"] == mark
    ]
    if not places:
        return None
    kind, number = places[0]
    found = {}
    for words, fields in changes.items():
        changed = tomllib.loads(text)
        table = changed[kind][number]
        for key, value in fields.items():
            inner = isinstance(table.get(key), dict) and isinstance(value, dict)
            table[key] = table[key] | value if inner else value
        try:
            job = parse_job(tomlkit.dumps(changed), folder=folder)
        except InputError as error:
            raise error.under(words) from None
        made = made_by(changed)
        found[words] = (
            job,
            {one: part for one, (of, at, part) in made.items() if (of, at) == (kind, number)},
        )
    return found


def _change_made(
    table: dict[str, Any], part: str, changes: dict[str, dict[str, Any]], alike: set[str]
) -> None:
    """Change what a generator makes: where all it says of is alike there, else one by one."""
    own, start = table.get("own", {}), len(f"{table['mark']}.")
    new = list(changes.values())
    said = {name for mark in alike for name in own.get(mark[start:], {})}
    if set(changes) == alike and all(one == new[0] for one in new) and not said & set(new[0]):
        table[part].update(new[0])
        return
    table.setdefault("own", {})
    for mark, fields in changes.items():
        table["own"].setdefault(mark[start:], {}).update(fields)


def accept_sizes(
    path: str | Path, sized: SizedJob | SizedFrame, marks: list[str] | None = None
) -> list[str]:
    """Write the chosen sections into a job file; its comments and order stay.

    Parameters
    ----------
    path : str or Path
        The file the job was read from.
    sized : SizedJob
    marks : list of str, optional
        Only these; every change where there are none.

    Returns
    -------
    list of str
        What changed, such as ``"FB1 W18X50 -> W16X31"``.

    Raises
    ------
    InputError
        If a mark was not sized or found nothing, or the file cannot be read or written.
    """
    changes = sized.changes(marks)
    if changes:
        with locked(path):
            save_text(path, change_job(read_text(path), changes, Path(path).parent))
    return [
        f"{mark} {sized.job.member(mark).section.name} -> {fields['section']}"
        for mark, fields in changes.items()
    ]


DEMOS = {"AISC 360-22": "saltmarsh.toml", "EN 1993-1-1": "saltmarsh_en.toml"}
FRAMES = {
    "AISC 360-22": ("saltmarsh_frame.toml", "saltmarsh_bridge.toml"),
    "EN 1993-1-1": ("saltmarsh_truss.toml", "saltmarsh_building.toml"),
}
MEMBERS = "saltmarsh_members.csv"  # the demo's schedule


def demo_text(name: str = "saltmarsh.toml") -> str:
    """Return the demo job file, or another file of the demo."""
    return resources.files("welbric.files").joinpath("data", name).read_text("utf-8")


STARTERS = {
    "US": {
        "steel": "A992", "beam": "W16X31", "span": "24 ft", "every": "6 ft", "dead": "0.4 kip/ft",
        "live": "0.8 kip/ft", "column": "W8X31", "height": "12 ft", "N_dead": "40 kip",
        "N_live": "60 kip", "wind": "0.1 kip/ft", "brace": "HSS4X4X1/4",
        "tube_steel": "A500 Gr C", "brace_length": "14 ft", "C": "30 kip", "T": "35 kip",
        "net": "2.8 in2",
    },
    "metric": {
        "steel": "S355", "beam": "IPE360", "span": "7 m", "every": "2 m", "dead": "6 kN/m",
        "live": "12 kN/m", "column": "HEA200", "height": "3.6 m", "N_dead": "180 kN",
        "N_live": "260 kN", "wind": "1.5 kN/m", "brace": "SHS100X100X6 EN10210",
        "tube_steel": "S355H EN 10210", "brace_length": "4.2 m", "C": "130 kN", "T": "150 kN",
        "net": "1800 mm2",
    },
}  # fmt: skip


CHOICES = {  # what the starting job says of a standard's choices
    "": '[design]\nmethod = "LRFD"\n',
    "EN 1993-1-1": '[design]\nannex = "recommended"\n\n'
    '# EN 1990 asks for the category of the live load.\n[loading]\nlive_category = "B"\n',
}


def starter_text(standard: str, units: str) -> str:
    """Return a commented job file to begin with: a beam, a column and a brace.

    Parameters
    ----------
    standard : str
    units : {"US", "metric"}
        Of the sections and of the quantities in it.
    """
    text = demo_text("starter.toml").replace("@standard", standard)
    text = text.replace("@choices", CHOICES.get(standard, CHOICES[""]))
    for name, value in sorted(STARTERS[units].items(), key=lambda pair: -len(pair[0])):
        text = text.replace(f"@{name}", value)
    return text.replace("@units", units)


def schema() -> dict[str, Any]:
    """Return the JSON Schema of the job file."""
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "Welbric job file, format 2",
        **{k: v for k, v in Job.model_json_schema(by_alias=True).items() if k != "title"},
    }
