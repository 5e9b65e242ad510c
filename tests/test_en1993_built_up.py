"""EN 1993-1-1, 6.4: laced and battened members by hand, and their stiffness by whole frames."""

from __future__ import annotations

import math

import numpy as np
import pytest

import welbric as wb
from eurocode import E, G, rows, steps
from eurocode import job as job_of
from welbric.standards.en1993.clauses import c6_4

CHANNELS = "2 PFC200x90x30 back to back, 250 mm apart"
LACED = {"section": "L50X50X5", "spacing": "800 mm"}
BATTENED = {"spacing": "900 mm", "width": "250 mm", "thickness": "10 mm"}
FY = 275.0


def column(section=CHANNELS, N=600.0, M=0.0, height=8.0, **more):
    way = "compression" if N >= 0 else "tension"
    load = [{"case": "dead", way: f"{abs(N)} kN"}]
    if M:
        moments = [f"{M} kN m", "0 kN m"]
        load.append({"case": "dead", "axis": "minor", "end_moments": moments})
    fixed = {"mark": "M", "role": "column", "steel": {"Fy": "275 MPa", "Fu": "410 MPa"},
             "height": f"{height} m", "self_weight": False, "load": load}  # fmt: skip
    return wb.Member(section=section, **(fixed | more))


def curve(alpha, slender):
    phi = 0.5 * (1 + alpha * (slender - 0.2) + slender**2)
    return min(1.0, 1 / (phi + math.sqrt(phi**2 - slender**2)))


def strut(s, L, a, alpha):
    """Return what a channel carries, about y over L, about z and twisting over a."""
    N_L, N_y, N_z = (
        math.pi**2 * E * inertia / length**2
        for inertia, length in ((s.I_major, L), (s.I_major, a), (s.I_minor, a))
    )
    N_T = (G * s.J + math.pi**2 * E * s.Cw / a**2) / s.r_polar**2
    b = 1 - ((s.shear_x - s.x) / s.r_polar) ** 2
    both = (N_y + N_T - math.sqrt((N_y + N_T) ** 2 - 4 * b * N_y * N_T)) / (2 * b)
    least = min(N_L, N_z, both)
    return curve(alpha, math.sqrt(s.A * FY / least)) * s.A * FY


@pytest.mark.parametrize(("N", "M"), [(300.0, 0.0), (250.0, 25.0), (0.0, 30.0)])
@pytest.mark.parametrize("posts", [False, True])
def test_a_laced_column_by_hand(N, M, posts):
    """The chord's own properties are those of one channel from the catalogue, computed."""
    lacing = LACED | ({"posts": "L40X40X4"} if posts else {})
    one = column(N=N, M=M, lacing=lacing)
    s, d = wb.section("PFC200x90x30"), wb.section("L50X50X5")
    s = wb.table_of("channel", ["C"], **{k: [getattr(s, k)] for k in ("d", "bf", "tw", "tf", "r")})[
        0
    ]
    a, L, N, M = 800.0, 8000.0, 1.35e3 * N, 1.35e6 * M
    h0 = 250 + 2 * s.x
    length = math.hypot(h0, a if posts else a / 2)
    S_v = 2 * E * d.A * a * h0**2 / length**3 / (1 if posts else 2)
    if posts:
        S_v /= 1 + d.A * h0**3 / (wb.section("L40X40X4").A * length**3)
    N_cr = math.pi**2 * E * 0.5 * h0**2 * s.A / L**2
    M_II = (N * L / 500 + M) / (1 - N / N_cr - N / S_v)
    N_ch = N / 2 + M_II / h0
    V = max(math.pi * M_II / L, M / L + math.pi * (M_II - M) / L)
    found = rows(one)
    U = found["built-up-chords"].utilisation
    assert pytest.approx(N_ch / strut(s, L, a, 0.49), rel=2e-3) == U
    lambda_v = length * math.sqrt(FY / E) / math.pi / d.r_minor
    chi = curve(0.34, max(lambda_v, 0.35 + 0.7 * lambda_v))
    U = V * length / (2 * h0) / (chi * d.A * FY)
    if posts:
        p = wb.section("L40X40X4")
        lambda_v = h0 * math.sqrt(FY / E) / math.pi / p.r_minor
        chi = curve(0.34, max(lambda_v, 0.35 + 0.7 * lambda_v))
        U = max(U, V / 2 / (chi * p.A * FY))
    assert found["built-up-lacing"].utilisation == pytest.approx(U, rel=2e-3)
    assert "built-up-battens" not in found
    assert "buckling-minor" not in found
    told = steps(one, "built-up-chords")
    assert told["N_cr_T"] > 0
    assert told["S_v"] == pytest.approx(S_v, rel=1e-3)


@pytest.mark.parametrize("height", [6.3, 9.0, 27.0])
def test_a_battened_column_by_hand(height):
    """Of two I-shapes; the efficiency factor is 1, and falls from a slenderness of 75 on."""
    one = column("2 HEA220 side by side, 60 mm apart", N=200.0, height=height, battens=BATTENED,
                 buckling={"major_length": "3 m"})  # fmt: skip
    sizes = {k: [getattr(wb.section("HEA220"), k)] for k in ("d", "bf", "tw", "tf", "r")}
    s = wb.table_of("rolled I", ["H"], **sizes)[0]
    a, L, N, h0 = 900.0, height * 1e3, 200 * 1.35e3, 280.0
    I_1 = 0.5 * h0**2 * s.A + 2 * s.I_minor
    mu = min(max(2 - L / math.sqrt(I_1 / (2 * s.A)) / 75, 0), 1)
    assert (mu == 1) == (height < 10)
    I_eff = 0.5 * h0**2 * s.A + 2 * mu * s.I_minor
    I_b = 10 * 250**3 / 12
    S_v = 24 * E * s.I_minor / (a**2 * (1 + 2 * s.I_minor / (2 * I_b) * h0 / a))
    S_v = min(S_v, 2 * math.pi**2 * E * s.I_minor / a**2)
    M_II = N * L / 500 / (1 - N * L**2 / (math.pi**2 * E * I_eff) - N / S_v)
    V = math.pi * M_II / L
    slender = [
        (0.34, math.sqrt(s.A * FY * 3000**2 / (math.pi**2 * E * s.I_major))),
        (0.49, math.sqrt(s.A * FY * a**2 / (math.pi**2 * E * s.I_minor))),
        (0.49, math.sqrt(s.A * FY * s.r_polar**2 / (G * s.J + math.pi**2 * E * s.Cw / a**2))),
    ]
    N_b = min(curve(*one) for one in slender) * s.A * FY
    U = (N / 2 + M_II * h0 * s.A / (2 * I_eff)) / N_b + V * a / 4 / (s.Wel_minor * FY)
    found = rows(one)
    assert found["built-up-chords"].utilisation == pytest.approx(U, rel=1e-5)
    W = 10 * 250**2 / 6
    C1 = math.sqrt(35 / (1 + 9 / 4 + 9 / 4))
    M_cr = C1 * math.pi / 60 * math.sqrt(E * 250 * 1e3 / 12 * G * 250 * 1e3 / 3)
    chi = curve(0.76, math.sqrt(W * FY / M_cr))
    M_b, V_b = V * a / 4, V * a / (2 * h0)
    U = max(V_b / (2500 * FY / math.sqrt(3)), M_b / (chi * W * FY), M_b / (W * FY))
    assert found["built-up-battens"].utilisation == pytest.approx(U, rel=1e-5)


def built(kind, panels=10, a=600.0, h0=300.0):
    """Return a frame: the upper half of such a column, of bars, under a load on both chords."""
    bar, thin, batten = (
        {"shape": "round bar", "name": "60", "d": "60 mm"},
        {"shape": "round bar", "name": "10", "d": "10 mm"},
        {"shape": "flat bar", "name": "batten", "d": "100 mm", "b": "10 mm"},
    )
    frame = wb.Frame("Half a column", standard="EN 1993-1-1", combinations=["1.0D"],
                     defaults={"self_weight": False, "steel": "S355"},
                     frame={"imperfections": False})  # fmt: skip
    foot = "fixed" if kind == "battens" else "pinned"
    left = [i * a for i in range(panels + 1)]
    right = [0.0, *(z + a / 2 for z in left[:-1]), left[-1]] if kind == "zigzag" else left
    for side, x, places in (("L", 0, left), ("R", h0, right)):
        for i, z in enumerate(places):
            held = {"support": foot} if i == 0 else {}
            frame.joint(f"{side}{i}", f"{x} mm", f"{z} mm", **held)
        through = [f"{side}{i}" for i in range(len(places))]
        frame.member(f"C{side}", *through, section=bar, role="column")
        frame.load(through[-1], "dead", z="-200 kN")
    pins, top = {"ends": ["pinned", "pinned"]}, ("L10", "R11" if kind == "zigzag" else "R10")
    frame.member("T", *top, section=batten, **({} if kind == "battens" else pins))
    ends = {
        "zigzag": [(f"L{j}", f"R{i + 1}") for i in range(panels) for j in (i, i + 1)],
        "posts": [(f"L{i}", f"R{i + 1}") for i in range(panels)]
        + [(f"L{i}", f"R{i}") for i in range(1, panels)],
        "battens": [(f"L{i}", f"R{i}") for i in range(1, panels)],
    }[kind]
    for k, (one, other) in enumerate(ends):
        more = {"section": batten} if kind == "battens" else {"section": thin} | pins
        frame.member(f"W{k}", one, other, **more)
    return frame


@pytest.mark.parametrize("kind", ["zigzag", "posts", "battens"])
def test_the_shear_stiffness_is_that_of_the_frame(kind):
    """1/Ncr + 1/Sv against the frame's critical load by eigenvalue, which is a little higher."""
    share = wb.check(built(kind).job)["CL"].forces.share[1]
    a, h0, H = 600.0, 300.0, 6000.0
    A, A_d, I_ch = math.pi * 30**2, math.pi * 5**2, math.pi * 30**4 / 4
    if kind == "battens":
        I_eff = c6_4.inertia_battened.fn(h0, A, 1.0, I_ch)
        S_v = c6_4.stiffness_of_battens.fn(E, I_ch, a, 1, 10 * 100**3 / 12, h0)
    else:
        I_eff = c6_4.inertia_laced.fn(h0, A)
        length = {"zigzag": c6_4.diagonal_of_zigzag, "posts": c6_4.diagonal_beside_posts}[kind]
        d = length.fn(h0, a)
        S_v = c6_4.stiffness_of_zigzag.fn(1, E, A_d, a, h0, d)
        if kind == "posts":
            S_v = c6_4.stiffness_beside_posts.fn(1, E, A_d, a, h0, d, A_d)
    expected = 400e3 * (4 * H**2 / (math.pi**2 * E * I_eff) + 1 / S_v)
    assert 0.98 * expected <= share <= expected


def test_beyond_the_critical_force_a_member_is_over():
    found = rows(column(N=9000.0, lacing=LACED))
    assert found["built-up-chords"].utilisation == math.inf
    assert found["built-up-lacing"].utilisation == math.inf


def test_tension_and_bending_of_chords():
    one = column(N=-200.0, M=20.0, lacing=LACED)
    s = wb.section(CHANNELS)
    A = s.A / 2
    h0 = steps(one, "built-up-chords")["h_0"]
    U = (1.35 * 100e3 + 1.35 * 20e6 / h0) / (A * FY)
    pressed = (1.35 * 20e6 / h0) / (steps(one, "built-up-chords")["N_b_Rd"])
    assert rows(one)["built-up-chords"].utilisation == pytest.approx(max(U, pressed), rel=1e-6)


@pytest.mark.parametrize(
    ("more", "id", "words"),
    [
        ({"lacing": LACED | {"spacing": "3 m"}}, "built-up-chords", "fewer than three modules"),
        ({}, "buckling-minor", "without lacing, battens or connectors"),
        ({"connectors": {"spacing": "2 m"}}, "buckling-major", "more than 15 times"),
        ({"lacing": LACED, "ends": ["fixed", "free"]}, "built-up-chords", "held laterally"),
        ({"lacing": LACED, "load": [{"case": "dead", "line": "2 kN/m"}]}, "bending-major",
         "about the y axis is not covered"),
        ({"section": "2 UPN200 toe to toe", "connectors": {"spacing": "300 mm"}},
         "buckling-minor", "not back to back"),
        ({"M": 5.0}, "built-up-chords", "without lacing or battens is not covered"),
        ({"lacing": LACED, "deflection": {"total": "L/300"}, "M": 5.0}, "deflection-total-minor",
         "move in shear"),
    ],
)  # fmt: skip
def test_what_is_outside_says_why(more, id, words):
    (found,) = [row for key, row in rows(column(**more)).items() if key == id]
    assert math.isnan(found.utilisation)
    assert words in found.reason


def test_closely_spaced_channels_are_one_member():
    one = column("2 UPN120 back to back, 10 mm apart", height=3.0, connectors={"spacing": "230 mm"})
    s, found = wb.section("2 UPN120 back to back, 10 mm apart"), rows(one)
    slender = 3000 / math.pi * math.sqrt(s.A * FY / (E * s.I_minor))
    U = 1.35 * 600e3 / (curve(0.49, slender) * s.A * FY)
    assert found["buckling-minor"].utilisation == pytest.approx(U, rel=1e-6)


@pytest.mark.parametrize(
    ("more", "words"),
    [
        ({"section": "IPE300", "lacing": LACED}, "lacing: goes with two channels or two I-shapes"),
        ({"lacing": LACED | {"spacing": "9 m"}}, "spacing: farther apart than the member is long"),
        ({"lacing": LACED | {"spacing": "0 m"}}, "spacing: is greater than zero"),
        ({"lacing": LACED | {"section": "IPE80"}}, "IPE80 is a rolled I; accepted: angle"),
        ({"lacing": LACED, "battens": BATTENED}, "give one of lacing, battens and connectors"),
        ({"battens": BATTENED | {"planes": 3}}, "planes"),
        (
            {"battens": BATTENED | {"thickness": "300 mm"}, "steel": "S275"},
            "battens, thickness: S275 has no strengths for a thickness of 300 mm",
        ),
    ],
)
def test_wrong_webbing_is_said(more, words):
    with pytest.raises(wb.InputError, match=words):
        wb.check(job_of(column(**more)))


def test_a_standard_without_them_says_so():
    member = column(lacing=LACED)
    found = {row.id: row for row in wb.check(wb.Job(members=[member]))["M"].rows}
    assert "not covered by AISC 360-22" in found["built-up"].reason


def test_webbing_has_the_strength_of_its_own_thickness():
    """A batten of 20 mm has 265 MPa beside chords of 275, and a chord that is pulled its moment."""
    thick = BATTENED | {"thickness": "20 mm", "width": "150 mm"}
    told = steps(column(battens=thick, steel="S275"), "built-up-battens")
    assert told["M_c_Rd"] == pytest.approx(265 * 75e3)
    pulled = column(N=-300.0, M=15.0, battens=thick, buckling={"major_length": "2 m"})
    told, found = steps(pulled, "built-up-chords"), rows(pulled)["built-up-chords"].utilisation
    A = wb.section(CHANNELS).A / 2
    N_t = 1.35 * 300e3 / 2 + 1.35 * 15e6 * told["h_0"] * A / (2 * told["I_eff"])
    both = N_t / (A * FY) + told["M_ch_Ed"] / told["M_c_Rd"]
    assert found == pytest.approx(both, rel=1e-6)


def test_many_at_once_are_each_alone():
    members = [
        column(N=300 + 50 * i, lacing=LACED).model_copy(update={"mark": f"M{i}"}) for i in range(4)
    ]
    members += [members[0].model_copy(update={"mark": "S", "section": wb.section(CHANNELS)})]
    table = wb.check(job_of(*members))
    for one in members:
        alone = wb.check(job_of(one))[one.mark]
        assert np.allclose(
            [row.utilisation for row in table[one.mark].rows],
            [row.utilisation for row in alone.rows],
        )


def test_pairs_are_chosen_among_pairs_of_the_family():
    """With what makes them one: each candidate is the member with that section, checked alone."""
    one = column("2 UPN160 back to back, 180 mm apart", N=250.0, height=6.0, lacing=LACED)
    sized = wb.size(job_of(one), ["M"])["M"]
    names = [candidate.section.name for candidate in sized.candidates]
    assert names[0] == "2 UPN80 back to back, 180 mm apart"
    assert sized.chosen.section.name == "2 UPN140 back to back, 180 mm apart"
    for name in names[2:6]:
        alone = wb.check(job_of(one.model_copy(update={"section": wb.section(name)})))["M"]
        (found,) = [c for c in sized.candidates if c.section.name == name]
        assert found.utilisation == pytest.approx(alone.utilisation, rel=1e-6)


def test_what_changes_nothing_is_said():
    held = column(lacing=LACED, ends_minor=["fixed", "fixed"], buckling={"torsional_length": "4 m"})
    found, plain = (wb.check(job_of(one))["M"] for one in (held, column(lacing=LACED)))
    assert found.utilisation == plain.utilisation
    assert any("K = 0.5 changes nothing of its chords" in one for one in found.warnings)
    assert any("torsional_length" in one and "nothing uses it" in one for one in found.warnings)
    assert not plain.warnings
