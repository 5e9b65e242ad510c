"""What a standard's package covers, clause by clause, with the equations of its code."""

from __future__ import annotations

import pkgutil
import re
import tomllib
from dataclasses import dataclass
from importlib import import_module, resources

from welbric.standards import standard as code_of
from welbric.working import Formula, Glossary


@dataclass(frozen=True)
class Place:
    """Where an equation stands in the code.

    Attributes
    ----------
    equation, function, file : str
        Its number; the function; the file within the standard's package.
    """

    equation: str
    function: str
    file: str


@dataclass(frozen=True)
class Clause:
    """A clause of a standard.

    Attributes
    ----------
    number, title : str
    status : str
        ``"covered"``, ``"with a limit"`` or ``"outside"``.
    limit : str
    equations : tuple of str
        The numbers that the code's formulas bear.
    places : tuple of Place
        One a formula, in the order of the numbers.
    """

    number: str
    title: str
    status: str
    limit: str
    equations: tuple[str, ...]
    places: tuple[Place, ...]


def scope(standard: str) -> list[Clause]:
    """Return the clauses of a standard.

    Parameters
    ----------
    standard : str
        A key of `welbric.standards.STANDARDS`.

    Raises
    ------
    InputError
        If there is no such standard.
    LookupError
        If a formula bears a number that no clause claims, or one that is outside does.

    Examples
    --------
    >>> next(c.status for c in scope("AISC 360-22") if c.number == "F2")
    'covered'
    """
    code = code_of(standard)
    # An edition by the equations of another says where it differs.
    package, differs = code.package, code.differences
    for module in pkgutil.walk_packages(import_module(package).__path__, f"{package}."):
        import_module(module.name)
    glossary: Glossary = import_module(f"{package}.symbols").GLOSSARY
    text = resources.files(package).joinpath("scope.toml").read_text("utf-8")
    entries = tomllib.loads(text)["clause"]
    found: dict[str, list[Formula]] = {entry["number"]: [] for entry in entries}
    for formula in glossary.formulas:
        claiming = [entry for entry in entries if _claims(entry, formula.clause)]
        if len(claiming) != 1 or claiming[0]["status"] == "outside":
            raise LookupError(f"{formula!r} belongs to no clause that is covered")
        found[claiming[0]["number"]].append(formula)
    return [
        Clause(
            entry["number"],
            entry["title"],
            entry["status"],
            "; ".join(filter(None, [entry.get("limit", ""), differs.get(entry["number"], "")])),
            tuple(sorted({f.clause for f in found[entry["number"]]}, key=_order)),
            tuple(sorted(map(_place, found[entry["number"]]), key=lambda p: _order(p.equation))),
        )
        for entry in entries
    ]


def _place(formula: Formula) -> Place:
    module = formula.fn.__module__.rpartition(".")[2]
    return Place(formula.clause, formula.fn.__name__, f"{module}.py")


def _claims(entry: dict[str, str], clause: str) -> bool:
    heads = [*entry.get("claims", []), entry["number"]]
    return any(re.match(rf"{re.escape(head)}(?!\d)", clause) for head in heads)


def _order(number: str) -> list[object]:
    return [(0, int(part), "") if part.isdigit() else (1, 0, part)
            for part in re.findall(r"\d+|\D+", number)]  # fmt: skip


def as_markdown(clauses: list[Clause]) -> str:
    """Return the clauses as a table, and where in the code each of their equations stands."""
    lines = ["| clause | | status | | equations |", "| --- | --- | --- | --- | --- |"]
    for clause in clauses:
        equations = ", ".join(clause.equations)
        cells = (clause.number, clause.title, clause.status, clause.limit, equations)
        lines.append("| " + " | ".join(cells) + " |")
    lines += ["", "## Where each equation stands", "", "| clause | file | equation and function |"]
    lines.append("| --- | --- | --- |")
    for clause in clauses:
        for file in dict.fromkeys(place.file for place in clause.places):
            here = [f"{p.equation} `{p.function}`" for p in clause.places if p.file == file]
            lines.append(f"| {clause.number} | `{file}` | {', '.join(here)} |")
    return "\n".join(lines) + "\n"
