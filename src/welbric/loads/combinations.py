"""Load cases, and the combinations that a loading standard makes of those that are present."""

from __future__ import annotations

import functools
import itertools
import re
import tomllib
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from importlib import resources
from typing import Any

from welbric.errors import InputError

# Case name in a job -> its symbol in a recipe (the letters of ASCE 7).
CASES = {
    "dead": "D",
    "live": "L",
    "roof live": "Lr",
    "snow": "S",
    "wind": "W",
    "earthquake": "E",
    "temperature": "T",
}


def name_of(symbol: str) -> str:
    """Return the name of a load case."""
    return next(name for name, known in CASES.items() if known == symbol)


LOADING_STANDARDS = {
    "ASCE 7-22": "asce7_22.toml",
    "EN 1990": "en1990.toml",
    "NBCC 2020": "nbcc2020.toml",
    "AS/NZS 1170.0": "as_nzs1170_0.toml",
}
EXPRESSIONS = ("6.10", "6.10a/b")  # of EN 1990
CATEGORIES = ("A", "B", "C", "D", "E", "F", "G")  # of live loads, EN 1990 Table A1.1
NATIONAL = ("recommended", "UK")  # values of EN 1990
ALTITUDES = ("up to 1000 m", "above 1000 m")  # of snow, EN 1990 Table A1.1


@dataclass(frozen=True)
class Choices:
    """What EN 1990 leaves to be said.

    Attributes
    ----------
    expression : str
        Of `EXPRESSIONS`.
    category : str
        Of the live load; of `CATEGORIES`.
    altitude : str
        Of the site, for snow; of `ALTITUDES`.
    national : str
        Whose values; of `NATIONAL`.
    permanent, variable, reduction : float, optional
        Partial factors and xi in place of those.
    """

    expression: str = "6.10"
    category: str = "B"
    altitude: str = "up to 1000 m"
    national: str = "recommended"
    permanent: float | None = None
    variable: float | None = None
    reduction: float | None = None


_PSI = re.compile(r"([\d.]+)psi([012])([A-Z][a-z]?)")
_TERM = re.compile(r"(\d*\.?\d+)\s*([A-Z][a-z]?)")


@dataclass(frozen=True)
class OnSpans:
    """Where a load acts in a combination: whole on some spans, a share of it on the others.

    Attributes
    ----------
    spans : frozenset of int
        Counted from 1.
    elsewhere : float
        The share on the others.
    """

    spans: frozenset[int]
    elsewhere: float = 0.0


@dataclass(frozen=True)
class Combination:
    """Load factors by case symbol.

    Attributes
    ----------
    name : str
        The recipe, such as ``"1.2D + 1.6L + 0.3S"``.
    factors : mapping of str to float
    clause : str
        Where the loading standard has it.
    reversed : frozenset of str
        The reversible cases that act the other way, in this combination.
    patterns : mapping of str to OnSpans
        The cases that do not act whole on every span.
    leaning : (str, float), optional
        Along which axis of a frame, and in which sense, it leans out of plumb.
    alternatives : mapping of str to str
        Which of the loads of a case that never act together it has.
    bows : float
        Which way members of a frame bow that have to: 1 as they sag under it, -1 the other way.
    """

    name: str
    factors: Mapping[str, float]
    clause: str
    reversed: frozenset[str] = frozenset()
    patterns: Mapping[str, OnSpans] = field(default_factory=dict)
    leaning: tuple[str, float] | None = None
    alternatives: Mapping[str, str] = field(default_factory=dict)
    bows: float = 1.0


@functools.cache
def _recipes(standard: str) -> dict[str, Any]:
    file = LOADING_STANDARDS[standard]
    text = resources.files("welbric.loads").joinpath("data", file).read_text("utf-8")
    return tomllib.loads(text)


def recipe_name(
    factors: Mapping[str, float], turned: frozenset[str] | set[str] = frozenset()
) -> str:
    """Write factors as a recipe: ``{"D": 1.2, "L": 1.6}`` -> ``"1.2D + 1.6L"``.

    The cases that act the other way have a minus.
    """
    text = ""
    for case, factor in factors.items():
        minus = case in turned
        joint = (" − " if minus else " + ") if text else ("−" if minus else "")
        text += joint + ("" if factor == 1 else f"{factor:.4g}") + case
    return text


def strength(
    standard: str,
    method: str,
    cases: Iterable[str],
    reversible: Iterable[str] = (),
    companion_live: float = 1.0,
    sds: float = 0.0,
    choices: Choices = Choices(),
) -> list[Combination]:
    """Return the strength combinations of the cases that are present.

    Parameters
    ----------
    standard : str
        A key of `LOADING_STANDARDS`.
    method : str
        ``"LRFD"`` or ``"ASD"``.
    cases : iterable of str
        Case symbols that have loads.
    reversible : iterable of str
        Those of W, E and T that have loads which act in both senses: every sign of each is
        combined with every sign of the others, so that a recipe with n of them gives 2**n.
    companion_live : float
        Factor on L as a companion in LRFD, 1.0 or, where ASCE 7-22 2.3.1 exception 1 allows, 0.5.
    sds : float
        S_DS of the vertical earthquake effect 0.2 S_DS D (ASCE 7-22 12.4.2.2).
    choices : Choices
        What EN 1990 leaves to be said.

    Raises
    ------
    InputError
        If the standard has no combinations for the method.
    """
    known = _recipes(standard)["strength"]
    key = choices.expression if "psi" in _recipes(standard) and method == "LRFD" else method
    if key not in known:
        raise InputError(f"{standard} has no combinations for {method}")
    rows = _with_psi(standard, _with_actions(standard, known[key]), choices)
    return _generate(rows, set(cases), set(reversible), companion_live, sds)


def _with_actions(standard: str, rows: list[dict[str, str]]) -> list[dict[str, str]]:
    """Return recipes with each variable action that may lead, and those that may accompany it."""
    variable = _recipes(standard).get("variable")
    if variable is None:
        return rows
    found = []
    for row in rows:
        for lead in variable["actions"] if row["lead"] == "*" else [row["lead"]]:
            recipe = row["recipe"].replace("*", lead)
            found += [
                {**row, "lead": lead, "recipe": _accompanied(recipe, others)}
                for others in _accompanying(lead, variable["actions"], variable["apart"])
            ]
    return found


def _accompanying(
    lead: str, actions: Sequence[str], apart: Sequence[Sequence[str]]
) -> list[list[str]]:
    """Return the largest sets of actions that accompany a leading one, none apart from another."""
    sets = [[action for action in actions if action != lead]]
    for first, *others in apart:
        left_out = {first: [others]} | {one: [[first]] for one in others}
        sets = [
            [one for one in some if one not in without]
            for some in sets
            for without in left_out.get(lead, [[first], others])
        ]
    return [list(one) for one in dict.fromkeys(map(tuple, sets))]


def _accompanied(recipe: str, actions: Sequence[str]) -> str:
    """Return a recipe with its bracket once for each action that accompanies."""
    head, bracket, inner = recipe.partition("[")
    inner = inner.rstrip("]")
    brackets = [f"[{inner.replace('&', action)}]" for action in actions]
    return " ".join([head.rstrip(), *brackets]) if bracket and "&" in inner else recipe


def _with_psi(standard: str, rows: list[dict[str, str]], choices: Choices) -> list[dict[str, str]]:
    """Return recipes with the factors of their loads in place of psi0, psi1 and psi2."""
    table = _recipes(standard).get("psi")
    if table is None:
        return rows
    national = _recipes(standard)["national"][choices.national]
    table = table | national.get("psi", {})
    G, Q, xi = (
        national[name] if own is None else own
        for name, own in (
            ("G", choices.permanent), ("Q", choices.variable), ("xi", choices.reduction)
        )
    )  # fmt: skip
    values = {"G": f"{G:.6g}", "Q": f"{Q:.6g}", "xiG": f"{xi * G:.6g}"}

    def factor(match: re.Match[str]) -> str:
        of = table[match[3]]
        if isinstance(of, dict):
            of = of[choices.category if match[3] == "L" else choices.altitude]
        return f"{float(match[1]) * of[int(match[2])]:.6g}{match[3]}"

    return [{**row, "recipe": _PSI.sub(factor, row["recipe"].format_map(values))} for row in rows]


def service(
    standard: str,
    kind: str,
    cases: Iterable[str],
    choices: Choices = Choices(),
    reversible: Iterable[str] = (),
) -> list[Combination]:
    """Return the service combinations of a kind.

    Parameters
    ----------
    standard : str
    kind : str
        ``"live"``, ``"total"`` or ``"wind"``; ``"frequent"`` or ``"quasi_permanent"`` of EN 1990.
    cases : iterable of str
    choices : Choices
    reversible : iterable of str
        As `strength` takes them.

    Raises
    ------
    InputError
        If the standard has no combinations of that kind.
    """
    known = _recipes(standard)["service"]
    if kind not in known:
        raise InputError(f"{standard} has no {kind.replace('_', '-')} combinations")
    rows = _with_psi(standard, _with_actions(standard, known[kind]), choices)
    return _generate(rows, set(cases), set(reversible), 1.0, 0.0)


def _generate(
    rows: list[dict[str, str]],
    present: set[str],
    reversible: set[str],
    companion_live: float,
    sds: float,
) -> list[Combination]:
    found: dict[str, Combination] = {}
    for row in rows:
        if row["lead"] not in present:
            continue
        base = _terms(row["recipe"].partition("[")[0])
        companions = [_terms(text) for text in re.findall(r"\[(.*?)\]", row["recipe"])]
        for taken in itertools.product((True, False), repeat=len(companions)):
            factors = dict(base)
            for companion, is_taken in zip(companions, taken, strict=True):
                if is_taken:
                    factors |= {
                        c: f * companion_live if (c, f) == ("L", 1.0) else f
                        for c, f in companion.items()
                    }
            if "E" in factors:
                # Vertical effect 0.2 S_DS D: it adds to gravity, and relieves where D resists.
                vertical = 0.2 * sds * factors["E"]
                factors["D"] += vertical if factors["D"] >= 1 else -vertical
            factors = {case: f for case, f in factors.items() if case in present and f}
            for turned in senses(reversible & set(factors)):
                name = recipe_name(factors, turned)
                found.setdefault(name, Combination(name, factors, row["clause"], turned))
    return list(found.values())


def senses(reversible: Iterable[str]) -> list[frozenset[str]]:
    """Return every choice of cases to turn about, the empty one first: 2**n of n cases."""
    cases = sorted(reversible)
    sizes = range(len(cases) + 1)
    return [frozenset(turned) for n in sizes for turned in itertools.combinations(cases, n)]


def with_alternatives(
    found: Iterable[Combination], known: Mapping[str, Mapping[str, bool]]
) -> list[Combination]:
    """Return combinations with each choice among loads of a case that never act together.

    Parameters
    ----------
    found : iterable of Combination
    known : mapping of str to mapping
        By case: its alternatives, and whether any load is reversible that acts in each.
    """
    if not known:
        return list(found)
    more = []
    for one in found:
        cases = [case for case in known if case in one.factors]
        for chosen in itertools.product(*(known[case] for case in cases)):
            which = dict(zip(cases, chosen, strict=True))
            # Nothing of it acts the other way: it is the combination that is not turned about.
            if any(case in one.reversed and not known[case][name] for case, name in which.items()):
                continue
            more.append(replace(one, name=", ".join([one.name, *chosen]), alternatives=which))
    return more


LIVE = frozenset({"L", "Lr"})  # variable gravity loads that need not act on every span
PATTERNED = LIVE | {"S"}


def patterns(count: int) -> list[frozenset[int]]:
    """Return the spans to load for the largest effects of a continuous member.

    Every other span, for the moments in spans; and for each inner support the two spans beside it
    with every other one from there, for the moment and the reaction at the support, and the spans
    that this leaves, for their least values.
    """
    spans = range(1, count + 1)
    found = [frozenset(s for s in spans if s % 2 == odd) for odd in (1, 0)]
    for left in range(1, count):
        sides = {s for s in spans if s <= left and (left - s) % 2 == 0}
        found.append(frozenset(sides | {s for s in spans if s > left and (s - left) % 2 == 1}))
        found.append(frozenset(spans) - found[-1])
    everywhere = frozenset(spans)
    return [pattern for pattern in dict.fromkeys(found) if pattern and pattern != everywhere]


@dataclass(frozen=True)
class PartialSnow:
    """How a loading standard has snow on some spans of a continuous member.

    Attributes
    ----------
    spans : str
        ``"any"``: the same patterns as live loads; ``"end or two adjacent"``: an end span alone,
        every span but an end one, or two adjacent spans.
    elsewhere : float
        Share of the snow on the other spans.
    clause : str
    """

    spans: str
    elsewhere: float
    clause: str


def partial_snow(standard: str) -> PartialSnow | None:
    """Return a loading standard's rule of partial snow; None where it has none."""
    found = _recipes(standard).get("partial_snow")
    return None if found is None else PartialSnow(**found)


def snow_patterns(rule: PartialSnow, count: int) -> list[frozenset[int]]:
    """Return the spans that have all of the snow."""
    if rule.spans == "any":
        return patterns(count)
    every = frozenset(range(1, count + 1))
    found = [frozenset({1}), frozenset({count}), every - {1}, every - {count}]
    found += [frozenset({left, left + 1}) for left in range(1, count)]
    return [one for one in dict.fromkeys(found) if one and one != every]


def with_patterns(standard: str, found: Iterable[Combination], count: int) -> list[Combination]:
    """Return combinations with, beside each that has such loads, those loads on some spans only.

    Live loads act on some spans and not on the others; snow as the standard has it. Where a
    combination has both, each pattern of the one goes with each of the other.
    """
    rule = partial_snow(standard)
    whole = []
    for one in found:
        of_live: list[frozenset[int] | None] = [None]
        of_snow: list[frozenset[int] | None] = [None]
        if LIVE & set(one.factors):
            of_live += patterns(count)
        if rule is not None and "S" in one.factors:
            of_snow += snow_patterns(rule, count)
        for live, snow in itertools.product(of_live, of_snow):
            words: list[str] = []
            on_spans: dict[str, OnSpans] = {}
            if live is not None:
                words.append(f"live on {_spans(live)}")
                on_spans |= dict.fromkeys(LIVE, OnSpans(live))
            if snow is not None and rule is not None:
                words.append(f"snow on {_spans(snow)}, {rule.elsewhere:g} of it elsewhere")
                on_spans["S"] = OnSpans(snow, rule.elsewhere)
            name = f"{one.name} ({'; '.join(words)})" if words else one.name
            whole.append(replace(one, name=name, patterns=on_spans))
    return whole


def _spans(spans: frozenset[int]) -> str:
    return f"span{'s' if len(spans) > 1 else ''} {', '.join(str(s) for s in sorted(spans))}"


def _terms(text: str) -> dict[str, float]:
    return {case: float(factor) for factor, case in _TERM.findall(text)}


def parse_recipe(text: str) -> Combination:
    """Read a designer's own combination, such as ``"1.35D + 1.5L"`` or ``"D - 0.6W"``.

    Raises
    ------
    InputError
        If a term is not a factor and a case symbol.
    """
    tidy = text.replace("−", "-").replace("·", "").replace("*", "")
    terms = re.findall(r"([+-]?)\s*(\d*\.?\d*)\s*([A-Z][a-z]?)\s*", tidy)
    written = "".join(sign + factor + case for sign, factor, case in terms)
    symbols = list(CASES.values())
    if not terms or written != re.sub(r"\s", "", tidy):
        raise InputError(f"{text!r} is not a combination; write it like '1.2D + 1.6L + 0.3S'")
    unknown = [case for _, _, case in terms if case not in symbols]
    if unknown:
        raise InputError(f"{text!r}: no load case {unknown[0]!r}; known: {', '.join(symbols)}")
    factors: dict[str, float] = {}
    for sign, factor, case in terms:
        value = float(factor) if factor else 1.0
        factors[case] = factors.get(case, 0.0) + (-value if sign == "-" else value)
    return Combination(text.strip(), factors, "given")
