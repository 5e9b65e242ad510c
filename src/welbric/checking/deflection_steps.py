"""The way from the deflection of each load case to the one that is compared with its limit."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, Any

import numpy as np

from welbric.checking import serviceability as s
from welbric.inputs.deflection_limits import DeflectionLimit
from welbric.loads.combinations import Combination, name_of
from welbric.working import given, heading, note

if TYPE_CHECKING:
    from welbric.members.load_cases import CaseKey, LoadCases


@dataclass(frozen=True)
class DeflectionSteps:
    """A deflection and where it comes from; called, it computes its utilisation in steps.

    Attributes
    ----------
    cases : LoadCases
    combination : Combination
    axis : str
    place, length : float, mm
        Where it is, and how long the member is.
    camber : float, mm
    chord : float, mm
        Of the straight line that it is measured from.
    resolved : bool
        Whether the section's principal axes are turned, so that both axes deflect together.
    deflection : float, mm
        The magnitude that all this gives.
    limit : DeflectionLimit
    span : float, mm
    """

    cases: LoadCases
    combination: Combination
    axis: str
    place: float
    length: float
    camber: float
    chord: float
    resolved: bool
    deflection: float
    limit: DeflectionLimit
    span: float

    def __call__(self) -> float:
        """Return the utilisation."""
        if self.resolved:
            note(
                "The principal axes are turned: the deflections about both are resolved, and those "
                "of both loads added as if they had the worse sense."
            )
        elif self.cases.frame is not None and not self.cases.frame.superposes:
            self._as_a_whole()
        else:
            self._superposed()
        if self.limit.at_most is not None:
            return float(s.deflection_utilisation(self.deflection, self.limit.at_most))
        return s.deflection_ratio(self.deflection, self.span, float(self.limit.over or np.inf))

    def _as_a_whole(self) -> None:
        """Write down the deflection of a frame with members that carry one way only."""
        found = self.cases.service_deflections([self.combination])[self.axis]
        here = float(found.at(np.array([self.place]), np.array([False]))[0, 0])
        note("Members of the frame carry one way only: it is analysed under the whole combination.")
        heading("Against the limit")
        self._compared(given(s.GLOSSARY, "delta_sum", here, self.combination.name))

    def _superposed(self) -> None:
        """Write down the cases, each with its largest moment and its deflection here."""
        solved = getattr(self.cases, self.axis)
        total: Any = None
        for number, key in enumerate(self.cases.keys):
            gamma = key.factor(self.combination)
            unit = np.eye(len(self.cases.keys))[[number]]
            deflection, moment = (d.combine(unit) for d in (solved.deflection, solved.moment))
            if not gamma or deflection.is_nothing:
                continue
            here = float(deflection.at(np.array([self.place]), np.array([False]))[0, 0])
            heading(_title(key))
            places = np.unique(np.concatenate([moment.breaks, moment.extreme_places()]))
            sides = np.zeros(len(places), dtype=bool)
            M = np.concatenate([moment.at(places, sides)[0], moment.at(places, ~sides)[0]])
            given(s.GLOSSARY, "M_case", M[np.abs(M).argmax()], "unfactored, largest")
            given(s.GLOSSARY, "delta_case", here, "unfactored, at this place")
            given(s.GLOSSARY, "gamma", gamma, self.combination.name)
            total = s.first_case(gamma, here) if total is None else s.with_case(total, gamma, here)
        heading("Against the limit")
        self._compared(0.0 if total is None else total)

    def _compared(self, total: Any) -> None:
        """Write down what is compared with the limit."""
        if self.camber:
            total = s.less_camber(total, self.camber, self.place, self.length)
        if self.chord:
            total = s.from_chord(total, self.chord)
        s.magnitude(total)


def _title(key: CaseKey) -> str:
    words = f"{name_of(key.case)} alone"
    if key.span is not None:
        words += f", on span {key.span}"
    words += f", {key.alternative}" if key.alternative else ""
    return words + (", reversible" if key.reversible else "")
