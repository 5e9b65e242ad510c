"""What Welbric says when an input is wrong."""

from __future__ import annotations

import difflib
from collections.abc import Iterable


class InputError(ValueError):
    """One or more things wrong with an input, each said in one line.

    Attributes
    ----------
    problems : list of str
        One line each: where, what was given, what is accepted.
    """

    def __init__(self, *problems: str) -> None:
        self.problems = list(problems)
        super().__init__("\n".join(problems))


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
