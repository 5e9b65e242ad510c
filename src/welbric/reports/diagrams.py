"""What the diagrams of a member show: stations, values by combination, the governing one."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np

from welbric.checking.deflections import deflection_shape, service_combinations
from welbric.checking.results import MemberResult
from welbric.effects.forces import Loaded, member_forces
from welbric.effects.load_cases import one_combination
from welbric.inputs.job import Job

DRAWN = ("N", "V_major", "M_major", "V_minor", "M_minor", "T")
DIAGRAMS = (
    ("axial force", "force"),
    ("shear", "force"),
    ("moment", "moment"),
    ("minor-axis\nshear", "force"),
    ("minor-axis\nmoment", "moment"),
    ("torsional\nmoment", "moment"),
)


def panels_of(
    job: Job, result: MemberResult, under: str | None = None, stations: int = 121
) -> list[dict[str, Any]]:
    """Return what each diagram shows: title, stations, values by combination, the governing one."""
    forces, member, cases = result.forces, result.member, result.cases
    alone = None
    if under is not None:
        alone = one_combination(member, cases, forces.combinations, under)
        alone = None if alone in forces.combinations else alone
    if alone is not None and cases is not None:  # of the first order: it is never there alone
        forces = member_forces(Loaded(replace(cases, links=None), [alone], result.segments))
    if not forces.combinations:
        return []
    if cases is None:
        x = forces.x[0]
        quantities = [getattr(forces, name) for name in DRAWN]
    else:
        dense = np.linspace(0.0, member.length, stations)
        inner = (forces.diagrams or {})["N"].breaks[1:-1]
        x = np.sort(np.concatenate([np.unique(np.append(forces.x, dense)), inner]))
        right = np.zeros(len(x), dtype=bool)
        right[1:] = x[1:] == x[:-1]  # of two stations at one place the second is its right side
        quantities = [(forces.diagrams or {})[name].at(x, right) for name in DRAWN]
    names = [c.name for c in forces.combinations]
    row = result.governing
    wanted = under if under in names else row.combination if row else None
    c = names.index(wanted) if wanted in names else None
    largest_moment = max(1.0, *(float(np.abs(values).max()) for values in quantities))
    found: list[dict[str, Any]] = []
    for (title, kind), values in zip(DIAGRAMS, quantities, strict=True):
        largest = np.abs(values).max(axis=1)
        if largest.max() <= 1e-6 * largest_moment and (found or title != "shear"):
            continue  # a figure has one panel at least
        chosen = int(largest.argmax()) if c is None else c
        found.append(_panel(title, kind, x, values, chosen, names[chosen]))
    if cases is None:
        return found
    service = [
        s for kind in ("total", "live") for s in service_combinations(job, member, cases, kind)
    ]
    service = service if alone is None else [alone]
    for axis, title in (("major", "deflection"), ("minor", "minor-axis\ndeflection")):
        if not service:
            break
        x, values = deflection_shape(member, cases, service, axis, min(stations, 101))
        largest = np.abs(values).max(axis=1)
        chosen = int(largest.argmax())
        if largest.max() > 1e-6 * member.length:
            name = service[chosen].name + (" (service)" if alone is None else "")
            found.append(_panel(title, "dimension", x, values, chosen, name))
    return found


def _panel(title: str, kind: str, x: Any, values: Any, governing: int, name: str) -> dict[str, Any]:
    return {
        "title": title,
        "kind": kind,
        "x": x,
        "values": values,
        "governing": governing,
        "name": name,
    }


def extremes(line: Any, span: float) -> list[int]:
    """Return the largest and the smallest place of a line, where they say something."""
    found = []
    both = (int(line.argmax()), int(line.argmin()))
    for index in sorted(both, key=lambda i: -abs(line[i])):
        if abs(line[index]) > 0.02 * span and index not in found:
            found.append(index)
    if len(found) == 2 and abs(line[found[0]] - line[found[1]]) < 0.02 * span:
        found = found[:1]
    return found
