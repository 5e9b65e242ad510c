"""EN 1993-1-1, 6.3.3 against bowed members to the second order; where the standard jumps."""

from __future__ import annotations

import math

import numpy as np
import pytest
from scipy.optimize import brentq

import welbric as wb
from eurocode import S235, E, job, member, rows

FY = 235.0
ALPHA = {"IPE300": 0.21, "HEB200": 0.34, "UB457X191X67": 0.21}  # about the y axis
HELD = {"restraint": {"top": "continuous", "bottom": "continuous"},
        "buckling": {"minor_length": "100 mm", "torsional_length": "100 mm"}}  # fmt: skip


def elastic(s, L, N, M, ratio, alpha):
    """Return the largest stress over the yield strength of a column that bows (5.3, elastic).

    The bow is that which the buckling curve stands for, either way; the end moments go from M to
    ratio times M; in closed form.
    """
    critical = math.pi**2 * E * s.I_major / L**2
    if critical <= N:
        return math.inf
    slender = math.sqrt(s.A * FY / critical)
    bow = max(alpha * (slender - 0.2), 0.0) * s.Wel_major / s.A
    x, k = np.linspace(0, 1, 401), L * math.sqrt(N / (E * s.I_major))
    moments = M * (np.sin(k * (1 - x)) + ratio * np.sin(k * x)) / math.sin(k)
    own = N * bow / (1 - N / critical) * np.sin(math.pi * x)
    worst = max(np.abs(moments + own).max(), np.abs(moments - own).max())
    return N / (s.A * FY) + worst / (s.Wel_major * FY)


@pytest.mark.parametrize(("annex", "least", "most"), [("Annex A", 0.995, 1.11),
                                                      ("Annex B", 0.96, 1.27)])  # fmt: skip
def test_interaction_against_a_bowed_member_to_the_second_order(annex, least, most):
    """In class 3, in the plane: what elastic theory uses up, the standard does by 0.96 and more."""
    members = []
    for name, alpha in ALPHA.items():
        s = wb.section(name)
        for slender in (0.4, 0.8, 1.2, 1.8):
            L = slender * math.pi * math.sqrt(E * s.I_major / (s.A * FY))
            phi = 0.5 * (1 + alpha * (slender - 0.2) + slender**2)
            chi = 1 / (phi + math.sqrt(phi**2 - slender**2))
            for ratio in (1.0, 0.5, 0.0, -0.5, -1.0):
                for share in (0.2, 0.5, 0.8):
                    N, M = share * chi * s.A * FY, (1 - share) * s.Wel_major * FY
                    f = brentq(
                        lambda f, of=(s, L, N, M, ratio, alpha): (
                            elastic(*of[:2], f * of[2], f * of[3], *of[4:]) - 1
                        ),
                        1e-3,
                        3.0,
                    )
                    moments = (f * M / 1e6, ratio * f * M / 1e6)
                    one = member(name, N=f * N / 1e3, My=moments, L=L, steel=S235, V=0.001,
                                 design={"section_class": 3}, **HELD)  # fmt: skip
                    members.append(one.model_copy(update={"mark": f"M{len(members)}"}))
    table = wb.check(job(*members, interaction=annex))
    ids = ("compression-bending", "section-forces", "bending-major", "buckling-major")
    found = [
        max(row.utilisation for row in table[one.mark].rows if row.id in ids) for one in members
    ]
    assert least <= min(found)
    assert max(found) <= most


def welded(c_t, flange=8.0, t=10.0):
    """Return an I whose web has a flat width of so many thicknesses, between stout flanges."""
    b = 2 * 20.0 * flange + t
    return {"shape": "welded I", "name": "W", "d": f"{c_t * t + 40} mm", "bf": f"{b} mm",
            "tw": f"{t} mm", "tf": "20 mm"}  # fmt: skip


@pytest.mark.parametrize(
    ("limit", "id", "loss"),
    [
        # Compression, class 3 to 4: of the web rho = (0.739 - 0.22) / 0.739^2 is left.
        (42.0, "compression-yielding", "web"),
        # Bending, class 2 to 3: the elastic modulus for the plastic one.
        (83.0, "bending-major", "modulus"),
        # Class 1 to 2 changes nothing.
        (72.0, "bending-major", "nothing"),
        (33.0, "compression-yielding", "nothing"),
    ],
)
def test_where_resistances_jump(limit, id, loss):
    forces = {"N": 100.0} if id.startswith("compression") else {"My": (10.0, 10.0)}
    below, above = (
        member(welded(limit * (1 + by)), steel=S235, L=1000.0, **forces) for by in (-1e-6, 1e-6)
    )
    s = below.section
    slender = 42 / (28.4 * 2)
    left = {
        "web": 1 - (1 - (slender - 0.22) / slender**2) * 42 * 100 / s.A,
        "modulus": s.Wel_major / s.Wpl_major,
        "nothing": 1.0,
    }[loss]
    capacities = [rows(one)[id].capacity for one in (below, above)]
    assert capacities[1] / capacities[0] == pytest.approx(left, rel=1e-5)
