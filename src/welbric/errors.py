"""What Welbric says when an input is wrong."""

from __future__ import annotations

import difflib
import re
from collections.abc import Iterable, Sequence

# What is not seen in a text but steers what shows it: controls of a terminal but tab and line
# feed, lone surrogates, marks that turn the direction of text around, and breaks of other kinds.
UNSEEN = (
    "\x00-\x08\x0b-\x1f\x7f-\x9f\ud800-\udfff\u061c\u200e\u200f\u2028-\u202e\u2066-\u2069\ufeff"
)
_UNSEEN = re.compile(f"[{UNSEEN}]")


def seen(text: str) -> str:
    """Return a text with a mark in the place of each character that would steer what shows it."""
    return text if text.isascii() and text.isprintable() else _UNSEEN.sub("\ufffd", text)


class Problem(str):
    """One thing wrong with an input, in one line: where, what was given, what is accepted.

    Attributes
    ----------
    text : str
        What is wrong.
    path : tuple of str
        Where, from the whole to the part: ``("member 2 (FB1)", "load 1")``.
    file : str
        Empty where it is not of a file.
    """

    text: str
    path: tuple[str, ...]
    file: str

    def __new__(cls, text: str, *path: str, file: str = "") -> Problem:
        """Return the line with its parts."""
        where = ", ".join(path)
        line = ": ".join(part for part in (file, where, text) if part)
        found = super().__new__(cls, seen(line))
        found.text, found.path, found.file = getattr(text, "text", text), path, file
        return found

    def under(self, *path: str, file: str = "") -> Problem:
        """Return it as a part of something larger."""
        return Problem(self.text, *path, *self.path, file=file or self.file)


class InputError(ValueError):
    """One or more things wrong with an input, each said in one line.

    Attributes
    ----------
    problems : list of Problem
    """

    def __init__(self, *problems: str) -> None:
        self.problems = [one if isinstance(one, Problem) else Problem(one) for one in problems]
        super().__init__("\n".join(problems))

    def under(self, *path: str, file: str = "") -> InputError:
        """Return the same of something larger."""
        return InputError(*(problem.under(*path, file=file) for problem in self.problems))


FOLDED = 4  # problems alike from which on they are said once


def folded_alike(problems: Sequence[Problem]) -> list[str]:
    """Return problems, those with one text said once, with the places of the others."""
    alike: dict[tuple[str, str], list[Problem]] = {}
    for problem in problems:
        alike.setdefault((problem.text, problem.path[-1] if problem.path else ""), []).append(
            problem
        )
    found: list[str] = []
    for same in alike.values():
        if len(same) < FOLDED:
            found += same
            continue
        places = [one.path[0] if len(one.path) > 1 else one.file.split(": ")[-1] for one in same]
        named = [place for place in dict.fromkeys(places[1:]) if place != places[0]]
        more = f"{len(same) - 1} more like it"
        listed = ", ".join(named[:5]) + (", ..." if len(named) > 5 else "")
        found.append(f"{same[0]} (and {more}{': ' + listed if named else ''})")
    return found


def wrong(text: str, *path: str, file: str = "") -> InputError:
    """Return the error of one problem, to be raised."""
    return InputError(Problem(text, *path, file=file))


def nearest(word: str, known: Iterable[str], most: int = 3) -> list[str]:
    """Return the known words that look most like `word`, best first."""
    by_folded = {k.casefold(): k for k in known}
    found = difflib.get_close_matches(word.casefold(), by_folded, n=most, cutoff=0.6)
    return [by_folded[f] for f in found]


def did_you_mean(word: str, known: Iterable[str]) -> str:
    """Return '; did you mean X, Y or Z?', or nothing where no known word is near."""
    near = nearest(word, known)
    if not near:
        return ""
    listed = near[0] if len(near) == 1 else ", ".join(near[:-1]) + " or " + near[-1]
    return f"; did you mean {listed}?"
