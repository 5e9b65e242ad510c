"""H2 at the corners of angles and outlines, each with the sense of its stresses.

A stress that adds counts with the whole of its ratio, as the modulus of the corner itself cancels
out of it. One that relieves counts only for its share of the axis's largest stress, only where it
acts together with what it relieves, and never where it comes from the axial force, whose available
strength is that of the member. Moments about the y axis count in both senses.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

import numpy as np

from welbric.standards.aisc360.clauses import h1_h2
from welbric.standards.aisc360.symbols import GLOSSARY
from welbric.standards.case import MemberCase
from welbric.working import given, note

NOTHING = 1e-6  # of the axis's largest stress: the corner lies on the axis
SENSES = {1.0: "compression", -1.0: "tension"}


def places(case: MemberCase) -> dict[str, tuple[Any, Any]]:
    """Return the coordinates of the corners, by name; none where they are not known."""
    s = case.section
    if case.shape != "angle":
        return {f"corner at x = {x:.4g} mm, y = {y:.4g} mm": (x, y) for x, y in case.corners}
    zero = 0.0 * s.d
    return {
        "heel": (zero, zero),
        "toe of the upright leg, outside": (zero, s.d),
        "toe of the upright leg, inside": (s.t, s.d),
        "toe of the level leg, outside": (s.b, zero),
        "toe of the level leg, inside": (s.b, s.t),
    }


def corners(case: MemberCase) -> dict[str, tuple[Any, Any]]:
    """Return each corner's stress per unit moment about the principal axes.

    As a share of the largest of any corner, positive where a positive moment presses it.
    """
    s = case.section
    cos, sin = np.cos(s.angle), np.sin(s.angle)
    found = {}
    for name, (x, y) in places(case).items():
        x, y = x - s.x, y - s.y
        found[name] = (y * cos - x * sin, x * cos + y * sin)
    far_v, far_u = (
        np.max([np.abs(one[axis]) for one in found.values()], axis=0) for axis in (0, 1)
    )
    return {name: (_share(v / far_v), _share(u / far_u)) for name, (v, u) in found.items()}


def _share(value: Any) -> Any:
    return np.where(np.abs(value) < NOTHING, 0.0, value)


def resolved(case: MemberCase) -> Iterator[tuple[Any, Any]]:
    """Yield moments about the principal axes: with the y moment as it is, and reversed."""
    cos, sin = np.cos(case.section.angle), np.sin(case.section.angle)
    Mx, My = case.effects.M_major, case.effects.M_minor
    for sense in (1.0, -1.0) if np.any(My) else (1.0,):
        yield Mx * cos - sense * My * sin, Mx * sin + sense * My * cos


def interaction(
    case: MemberCase,
    compressed: bool,
    Pr: Any,
    Pc: Any,
    Mcx: Any,
    Mcy: Any,
    Bx: Any,
    By: Any,
) -> Any:
    """Return the ratio of H2-1 at the worst corner.

    Parameters
    ----------
    case : MemberCase
        Of a single angle or an outline.
    compressed : bool
        Whether the axial force is compression.
    Pr, Pc, Mcx, Mcy : float or array
        Axial force and available strengths.
    Bx, By : float or array
        Multipliers of the moments for their second-order effects.
    """
    segments = range(case.segments.first.shape[2])
    found = [_of_segment(case, compressed, g, Pr, Pc, Mcx, Mcy, Bx, By) for g in segments]
    worst = {key: np.stack([one[key] for one in found], axis=-1) for key in found[0]}
    if np.ndim(Pr) or np.ndim(Mcx):
        del worst["corner"], worst["sense"]
        return h1_h2.stresses_at_corner(Pc=Pc, Mcx=Mcx, Mcy=Mcy, **worst)
    one = {key: value.item() for key, value in worst.items()}
    corner, sense = list(corners(case))[one.pop("corner")], SENSES[one.pop("sense")]
    left_out = "; the axial force relieves it, which is left out" if one["Pr"] == 0 < Pr else ""
    note(f"The worst corner is the {corner}, in {sense}{left_out}.")
    adds = {1.0: "adds", 0.0: "no stress there"}
    for key in ("n_w", "n_z"):
        given(GLOSSARY, key, one[key], adds.get(one[key], "relieves: its share of the largest"))
    for key, axis in (("Mrx", "major"), ("Mry", "minor")):
        given(GLOSSARY, key, one[key], f"about the {axis} principal axis, together with the other")
    return h1_h2.stresses_at_corner(Pc=Pc, Mcx=Mcx, Mcy=Mcy, **one)


def _of_segment(case: MemberCase, compressed: bool, g: int, *strengths: Any) -> dict[str, Any]:
    """Return what goes into H2-1 at the worst corner of a segment, arrays of (section, C)."""

    def of_this(value: Any) -> Any:
        value = np.asarray(value)
        if value.ndim == 0:
            return value.reshape(1, 1)
        return value[..., min(g, value.shape[-1] - 1)]

    inside = case.segments.inside(np.shape(case.effects.N)[-1])[:, :, g]  # (section, C or 1, X)
    Pr, Pc, Mcx, Mcy, Bx, By = map(of_this, strengths)
    worst: dict[str, Any] = {}
    for w, z in resolved(case):
        w, z = w * Bx[..., None], z * By[..., None]
        for number, (c_w, c_z) in enumerate(corners(case).values()):
            for sense in SENSES:
                axial = Pr if (sense > 0) == compressed else 0.0 * Pr
                for one in _candidates(sense, c_w, w, c_z, z, inside, Mcx, Mcy):
                    one |= {"Pr": axial, "corner": number, "sense": sense}
                    one["U"] = h1_h2.stresses_at_corner.fn(
                        Pr=axial, Pc=Pc, n_w=one["n_w"], Mrx=one["Mrx"], Mcx=Mcx,
                        n_z=one["n_z"], Mry=one["Mry"], Mcy=Mcy,
                    )  # fmt: skip
                    worse = one["U"] > worst["U"] if worst else np.asarray(True)
                    worst = {k: np.where(worse, v, worst.get(k, v)) for k, v in one.items()}
    del worst["U"]
    return worst


def _candidates(
    sense: float, c_w: Any, w: Any, c_z: Any, z: Any, inside: Any, Mcx: Any, Mcy: Any
) -> Iterator[dict[str, Any]]:
    """Yield moments at a corner that may be the worst: at one place, and both at their largest."""
    here_w, here_z = np.where(inside, w, 0.0), np.where(inside, z, 0.0)
    n_w, n_z = _counts(sense, c_w, here_w), _counts(sense, c_z, here_z)
    w_here, z_here = np.abs(here_w), np.abs(here_z)
    both = n_w * w_here / Mcx[..., None] + n_z * z_here / Mcy[..., None]
    at = np.argmax(np.where(inside, both, -np.inf), axis=-1)[..., None]
    names = ("n_w", "Mrx", "n_z", "Mry")
    picked = [
        np.take_along_axis(np.broadcast_to(v, both.shape), at, axis=-1)[..., 0]
        for v in (n_w, w_here, n_z, z_here)
    ]
    yield dict(zip(names, picked, strict=True))
    # The buckling lengths in compression need not be the segments: the largest of the member.
    most_w = np.where(n_w > 0, w_here, 0.0).max(axis=-1)
    most_z = np.where(_counts(sense, c_z, z) > 0, np.abs(z), 0.0).max(axis=-1)
    acting = 1.0 * ((most_w > 0) & (most_z > 0))
    yield {"n_w": acting, "Mrx": most_w, "n_z": acting, "Mry": most_z}


def _counts(sense: float, share: Any, moment: Any) -> Any:
    """Return how a moment counts at a corner: 1 where it adds, less its share where it relieves."""
    share = np.asarray(share)
    share = share if share.ndim else share.reshape(1, 1, 1)
    along = sense * share * np.sign(moment)
    return np.where(along > 0, 1.0, along)
