"""Members to EN 1993-1-1 for tests, and what their workings say."""

from __future__ import annotations

import welbric as wb

E, G = 210_000.0, 81_000.0
S235 = {"Fy": "235 MPa", "Fu": "360 MPa"}  # whatever the thickness


def job(*members, annex="recommended", lateral="general", interaction="Annex B"):
    return wb.Job(
        standard="EN 1993-1-1",
        design={"annex": annex, "lateral_buckling": lateral, "interaction": interaction},
        loading={"standard": "EN 1990", "live_category": "B"},
        members=list(members),
    )


def member(section, N=0.0, My=(0.0, 0.0), Mz=(0.0, 0.0), V=0.0, L=4000.0, steel="S355", **more):
    """Return a member with forces in kN and kN m; a positive N compresses."""
    forces = {"name": "all", "moment_major": [f"{m} kN m" for m in My],
              "moment_minor": [f"{m} kN m" for m in Mz], "shear_major": f"{V} kN",
              "shear_minor": "0.001 kN"}  # fmt: skip
    forces |= {"compression" if N >= 0 else "tension": f"{abs(N)} kN"}
    return wb.Member(
        mark="M", section=section, steel=steel, span=f"{L} mm", forces=[forces], **more
    )


def rows(one, **design):
    return {row.id: row for row in wb.check(job(one, **design))["M"].rows}


def steps(one, id, **design):
    """Return what the working says up to the end of a check: the last result of each symbol."""
    found = {}
    for part in wb.check(job(one, **design)).explain("M").parts:
        for entry in part.entries:
            if hasattr(entry, "formula"):
                found[entry.formula.symbol] = entry.result
            elif hasattr(entry, "symbol"):
                found[entry.symbol] = entry.value
        if part.row.id == id:
            return found
    raise KeyError(id)
