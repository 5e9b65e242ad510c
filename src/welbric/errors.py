"""What Welbric says when an input is wrong."""

from __future__ import annotations

import difflib
from collections.abc import Iterable


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
        found = super().__new__(cls, ": ".join(part for part in (file, where, text) if part))
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
