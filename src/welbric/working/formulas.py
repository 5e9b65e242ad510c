"""A formula is written once: it runs over arrays, and it can show its own working.

`Glossary.formula` turns a pure function with one return expression into a `Formula`. Called with
arrays it only computes. Called with single numbers inside ``with Working() as working:`` it also
records itself, and `welbric.working.typeset` prints the record from the function's own source. So
what is printed is the code that ran.

`either` and `first_of` are the branches: `numpy.where` on arrays; on single numbers only the
branch that applies runs, and the condition that chose it is recorded.

Nothing here knows about steel.
"""

from __future__ import annotations

import contextlib
import functools
import inspect
from collections.abc import Callable, Iterator, Mapping
from contextvars import ContextVar, Token
from dataclasses import dataclass, field
from typing import Any

import numpy as np

_current: ContextVar[Working | None] = ContextVar("working", default=None)


@dataclass(frozen=True)
class Symbol:
    """A symbol of a standard: the kind of quantity (a key of `units.KINDS`) and its meaning."""

    kind: str
    meaning: str


class Formula:
    """One equation of a standard, as a callable that can record itself.

    Attributes
    ----------
    clause : str
        The equation's or clause's number in its standard.
    symbol : str or None
        What it computes; None for a condition.
    parameters : tuple of str
        The symbols it takes, in order.
    """

    def __init__(
        self, fn: Callable[..., Any], clause: str, symbol: str | None, glossary: Glossary
    ) -> None:
        self.fn = fn
        self.clause = clause
        self.symbol = symbol
        self.glossary = glossary
        self.parameters = tuple(inspect.signature(fn).parameters)
        self.title = (fn.__doc__ or "").strip().split("\n")[0].rstrip(".")
        functools.update_wrapper(self, fn)
        unknown = {*self.parameters, *([symbol] if symbol else [])} - set(glossary.symbols)
        if unknown:
            raise LookupError(f"{fn.__name__}: symbols not declared: {sorted(unknown)}")

    def __call__(self, *args: Any, **kwargs: Any) -> Any:
        """Compute; and record, where a working is being written."""
        working = _current.get()
        if working is None:
            return self.fn(*args, **kwargs)
        arguments = dict(zip(self.parameters, args, strict=False)) | kwargs
        result = self.fn(**arguments)
        working.add(Step(self, arguments, result))
        return result

    def __repr__(self) -> str:
        return f"<{self.glossary.standard} {self.clause}: {self.title}>"


@dataclass
class Glossary:
    """The symbols of one standard, and the equations written with them."""

    standard: str
    symbols: Mapping[str, Symbol]
    formulas: list[Formula] = field(default_factory=list)

    def formula(self, clause: str, symbol: str) -> Callable[[Callable[..., Any]], Formula]:
        """Make a formula of a function whose parameters are symbols of this glossary."""
        return lambda fn: self._keep(Formula(fn, clause, symbol, self))

    def condition(self, clause: str) -> Callable[[Callable[..., Any]], Formula]:
        """Make a condition, for `either` and `first_of`, of a function that compares symbols."""
        return lambda fn: self._keep(Formula(fn, clause, None, self))

    def _keep(self, formula: Formula) -> Formula:
        self.formulas.append(formula)
        return formula


@dataclass(frozen=True)
class Step:
    """A formula that ran on single numbers, or a condition that was asked."""

    formula: Formula
    arguments: Mapping[str, Any]
    result: Any

    def key(self) -> tuple[object, ...]:
        """Return what makes two steps the same."""
        return (id(self.formula), *map(float, self.arguments.values()))


@dataclass(frozen=True)
class Heading:
    """A title in the working, with the clause it is about."""

    title: str
    clause: str = ""


@dataclass(frozen=True)
class Given:
    """A value that the working starts from, and where it comes from."""

    glossary: Glossary
    symbol: str
    value: float
    source: str


@dataclass(frozen=True)
class Note:
    """A remark in the working."""

    text: str


Entry = Step | Heading | Given | Note


class Working:
    """The steps of a calculation on single numbers, in the order they ran.

    A step that repeats one before it, with the same numbers, is not written again.

    Examples
    --------
    >>> with Working() as working:
    ...     pass
    >>> working.entries
    []
    """

    def __init__(self) -> None:
        self.entries: list[Entry] = []
        self.latest: Entry | None = None
        self._seen: set[object] = set()
        self._tokens: list[Token[Working | None]] = []

    def __enter__(self) -> Working:
        self._tokens.append(_current.set(self))
        return self

    def __exit__(self, *_: object) -> None:
        _current.reset(self._tokens.pop())

    def add(self, entry: Entry) -> None:
        """Record an entry, unless it says what an earlier one said."""
        key: object = None
        if isinstance(entry, Step):
            key = entry.key()
        elif isinstance(entry, Given):
            key = (entry.symbol, entry.value, entry.source)
        self.latest = entry
        if key is not None and key in self._seen:
            return
        self._seen.add(key)
        self.entries.append(entry)

    def steps(self) -> Iterator[Step]:
        """Yield the formulas that ran, without the conditions."""
        for entry in self.entries:
            if isinstance(entry, Step) and entry.formula.symbol:
                yield entry


@contextlib.contextmanager
def unrecorded() -> Iterator[None]:
    """Keep what runs inside out of the working: a look over arrays for what is worked out then."""
    token = _current.set(None)
    try:
        yield
    finally:
        _current.reset(token)


def heading(title: str, clause: str = "") -> None:
    """Begin a part of the working; does nothing where none is written."""
    if (working := _current.get()) is not None:
        working.add(Heading(title, clause))


def note(text: str) -> None:
    """Put a remark into the working; does nothing where none is written."""
    if (working := _current.get()) is not None:
        working.add(Note(text))


def given(glossary: Glossary, symbol: str, value: Any, source: str) -> Any:
    """Record where a value comes from, and return it."""
    if (working := _current.get()) is not None:
        working.add(Given(glossary, symbol, float(value), source))
    return value


@functools.cache
def _parameters(fn: Callable[..., Any]) -> tuple[str, ...]:
    # Kept by function: branches are defined in modules, not made anew at each call.
    return fn.parameters if isinstance(fn, Formula) else tuple(inspect.signature(fn).parameters)


def apply(fn: Callable[..., Any], symbols: Mapping[str, Any]) -> Any:
    """Call a function with those of the symbols that it names as parameters."""
    return fn(*[symbols[name] for name in _parameters(fn)])


def either(
    condition: Formula, if_true: Callable[..., Any], if_false: Callable[..., Any], **symbols: Any
) -> Any:
    """Choose between two formulas: `numpy.where` on arrays, one branch on single numbers.

    Parameters
    ----------
    condition : Formula
        Made by `Glossary.condition`.
    if_true, if_false : callable
        Formulas, or functions made of formulas, of any of the symbols.
    **symbols
        The values, by symbol; each function takes those it names.
    """
    return first_of((condition, if_true), otherwise=if_false, **symbols)


def first_of(
    *cases: tuple[Formula, Callable[..., Any]], otherwise: Callable[..., Any], **symbols: Any
) -> Any:
    """Take the first case whose condition holds, element by element; see `either`."""
    answers = [
        condition.fn(*[symbols[name] for name in condition.parameters]) for condition, _ in cases
    ]
    if not any(isinstance(answer, np.ndarray) and answer.ndim for answer in answers):
        working = _current.get()
        for (condition, branch), answer in zip(cases, answers, strict=True):
            if working is not None:
                asked = {name: symbols[name] for name in condition.parameters}
                working.add(Step(condition, asked, bool(answer)))
            if answer:
                return apply(branch, symbols)
        return apply(otherwise, symbols)
    if np.all(answers[0]):
        result = apply(cases[0][1], symbols)
        return result if np.ndim(result) else np.full(np.shape(answers[0]), result)
    result = apply(otherwise, symbols)
    for (_, branch), answer in zip(reversed(cases), reversed(answers), strict=True):
        if np.any(answer):
            result = np.where(answer, apply(branch, symbols), result)
    return result


def holds(condition: Formula, **symbols: Any) -> Any:
    """Ask a condition, and record the answer where single numbers are worked out."""
    result = condition.fn(**symbols)
    if (working := _current.get()) is not None:
        working.add(Step(condition, symbols, bool(result)))
    return result
