"""EN 1993-1-1: which rule applies when. Twins, thresholds, and what must change nothing."""

from __future__ import annotations

import itertools
import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

import welbric as wb
from eurocode import S235, E, G, job, member, rows

BOX = {"shape": "welded box", "d": "1200 mm", "b": "600 mm", "tw": "6 mm", "tf": "12 mm"}


def forces(section, steel="S355", L=6.0, **more):
    """Return a member with forces that are the same all along, as its words have them."""
    fields = {k: more.pop(k) for k in list(more) if k in wb.Member.model_fields}
    one = {"name": "all"} | {k: f"{v} {'kN m' if 'm' in k[:1] or k == 'torsion' else 'kN'}"
                             for k, v in more.items()}  # fmt: skip
    return wb.Member(mark="M", section=section, steel=steel, span=f"{L} m", forces=[one], **fields)


def worst(one, **design):
    """Return the utilisation of a member; infinite where something is outside."""
    found = [row.utilisation for row in wb.check(job(one, **design))["M"].rows]
    return math.inf if any(map(math.isnan, found)) else max(found, default=0.0)


# Lengths


@pytest.mark.parametrize(("standard", "section", "steel", "id"), [
    ("EN 1993-1-1", "IPE300", "S355", "buckling-torsional"),
    ("AISC 360-22", "C12X20.7", "A992", "buckling-flexural-torsional"),
    ("EN 1993-1-1", "UPE200", "S355", "buckling-flexural-torsional"),
])  # fmt: skip
def test_what_holds_laterally_does_not_hold_against_twisting(standard, section, steel, id):
    """The length in torsion is that between places that hold twist, whatever minor_length says."""

    def capacity(**fields):
        given = [{"name": "a", "compression": "50 kN"}]
        one = wb.Member(mark="M", section=section, steel=steel, span="8 m", forces=given, **fields)
        result = wb.check(wb.Job(standard=standard, show="metric", member=[one]))["M"]
        found = next((row.capacity for row in result.rows if row.id == id), None)
        return found, result

    short = {"minor_length": "1 m"}
    by_ends, result = capacity(buckling=short)
    assert any("torsion: K = 1, unbraced length 8 m" in note for note in result.notes)
    said, _ = capacity(buckling=short | {"torsional_length": "8 m"})
    assert by_ends == pytest.approx(said, rel=1e-12)
    every = {"every": "1 m"}
    for restraint in ({"twist": every}, {"top": every, "bottom": every}):
        held, _ = capacity(buckling=short, restraint=restraint)
        if held is not None:
            assert held > 1.1 * by_ends
    one_flange, _ = capacity(buckling=short, restraint={"top": every})
    assert one_flange == by_ends
    # A brace that is said to hold nothing more changes nothing.
    longer, _ = capacity(buckling=short | {"minor_K": 1.0})
    assert longer == by_ends


def test_a_cantilever_twists_beyond_its_last_hold():
    """Held at a third by both flanges, two thirds are free: K = 2 of that, or the whole length."""
    at = {"at": ["2 m"]}
    one = forces("IPE300", restraint={"top": at, "bottom": at}, ends=("fixed", "free"),
                 compression=100)  # fmt: skip
    of = wb.check(job(one))["M"].case.buckling
    assert of.effective("torsion") == pytest.approx(2 * 4000)


def test_schedules_hold_twist_at_the_ends_too():
    cells = [["mark", "section", "steel", "length (m)", "minor_length (m)", "compression (kN)"],
             ["A", "IPE300", "S355", "8", "1", "1200"]]  # fmt: skip
    from welbric.inputs.schedules import read_schedule
    from welbric.studies.schedule_checks import check_schedule

    (verdict,) = check_schedule(read_schedule(list(enumerate(cells, 1)), "s.csv"),
                                standard="EN 1993-1-1").verdicts  # fmt: skip
    alone = rows(member("IPE300", 1200, L=8000, buckling={"minor_length": "1 m"}))
    assert verdict.utilisation == pytest.approx(alone["buckling-torsional"].utilisation)


# Free ends


def test_no_correction_of_moments_toward_a_free_end():
    tip = {"ends": ("free", "fixed")}
    by_flange = rows(member("IPE300", My=(0, -150), V=50, L=3000, **tip),
                     lateral="compressed flange")["bending-lateral"]  # fmt: skip
    assert by_flange.status == "outside"
    assert "6.3.2.4 is for a flange that is held at both ends" in by_flange.reason
    f = [rows(member("IPE300", My=(0, -m), V=50, L=2000, design={"Mcr": "500 kN m"}, **more),
              lateral="rolled or welded")["bending-lateral"].capacity
         for m, more in ((200, tip), (200, {}))]  # fmt: skip
    assert f[0] < f[1]  # f = 1 toward the free end; kc = 0.752 between held ones


def test_loads_on_a_flange_are_outside_by_the_compressed_flange():
    """6.3.2.4 has no load height: what pushes the member over is not covered by it."""

    def status(on, **design):
        load = {"case": "dead", "line": "5 kN/m", "on": on}
        one = wb.Member(mark="M", section="IPE300", steel="S355", span="6 m", load=[load])
        return wb.check(job(one, **design))["M"].status

    assert status("top", lateral="compressed flange") == "outside"
    assert status("shear centre", lateral="compressed flange") == "ok"
    assert status("top") == "ok"  # by eigenvalue, with the load where it acts


# Boxes and tubes


@pytest.mark.parametrize(("T", "V"), [(950, 100), (300, 0), (0, 400)])
def test_shear_of_torque_counts_in_shear_buckling(T, V):
    """By hand: half the shear and the shear flow in a web over what it buckles at."""
    found = rows(forces(BOX, torsion=T, shear_major=V))["shear-buckling"].utilisation
    h, t, fy = 1200 - 24, 6, 355.0
    lam = h / (86.4 * t * math.sqrt(235 / fy))
    flow = T * 1e6 / (2 * (1200 - 12) * (600 - 6)) * h
    assert found == pytest.approx(
        (V * 1e3 / 2 + flow) / (0.83 / lam * fy * h * t / math.sqrt(3)), rel=1e-9
    )


TUBES = [
    ({"shape": "welded box", "d": "600 mm", "b": "1200 mm", "tw": "12 mm", "tf": "8 mm"},
     {"shape": "welded box", "d": "1200 mm", "b": "600 mm", "tw": "8 mm", "tf": "12 mm"}),
    ({"shape": "rectangular tube", "d": "200 mm", "b": "400 mm", "t": "5 mm"},
     {"shape": "rectangular tube", "d": "400 mm", "b": "200 mm", "t": "5 mm"}),
]  # fmt: skip


@pytest.mark.parametrize("pair", TUBES)
@pytest.mark.parametrize(("V", "W", "T"), [(0, 900, 0), (100, 300, 50), (0, 0, 80), (200, 0, 20)])
def test_boxes_turned_by_a_right_angle(pair, V, W, T):
    """Shear, its buckling and torsion are the same beside them as along them."""
    lying, standing = (
        {row.id: row.utilisation for row in wb.check(job(one))["M"].rows}
        for one in (forces(pair[0], shear_major=V, shear_minor=W, torsion=T),
                    forces(pair[1], shear_major=W, shear_minor=V, torsion=T))
    )  # fmt: skip
    names = [("shear-buckling", "shear-buckling-minor"), ("torsion", "torsion")]
    if "t" in pair[0]:
        names.append(("shear-major", "shear-minor"))
    for a, b in names:
        assert lying.get(a, 0.0) == pytest.approx(standing.get(b, 0.0), rel=1e-9)
        assert lying.get(b, 0.0) == pytest.approx(standing.get(a, 0.0), rel=1e-9)


@pytest.mark.parametrize("standard", ["EN 1993-1-1", "AISC 360-22"])
@pytest.mark.parametrize("section", ["CHS168.3X5 EN10219", {"shape": "round bar", "d": "80 mm"}])
def test_round_sections_know_no_axes(standard, section):
    """A shear turned by any angle is the same; so are moments of a tube."""
    known = []
    for angle in (0.0, 30.0, 45.0, 90.0):
        c, s = math.cos(math.radians(angle)), math.sin(math.radians(angle))
        one = forces(section, steel=S235, shear_major=90 * c, shear_minor=90 * s)
        table = wb.check(wb.Job(standard=standard, member=[one], loading={"standard": "EN 1990"}))
        known.append(max((r.utilisation for r in table["M"].rows if "shear" in r.id), default=0.0))
    if not any(map(math.isnan, known)):
        assert known == pytest.approx([known[0]] * 4, rel=1e-9)


def test_slender_round_tubes_are_outside_in_shear_and_torsion():
    tube = {"shape": "round tube", "d": "2000 mm", "t": "5 mm"}
    found = rows(forces(tube, shear_major=10, torsion=10))
    assert {found[id].status for id in ("shear-major", "torsion")} == {"outside"}
    assert "EN 1993-1-6" in found["torsion"].reason


@pytest.mark.parametrize("N", [0.0, 150.0, -150.0])
def test_torsion_beside_direct_stresses(N):
    """Of a tube, by von Mises with the plastic moment: what torsion leaves of the yield stress."""
    s = wb.section("CHS219.1X8")
    force = {"compression": N} if N >= 0 else {"tension": -N}
    one = forces(s, steel=S235, L=0.5, moment_major=40, torsion=30, connection={
        "net_area": f"{s.A * 0.999} mm2", "shear_lag": 1.0}, **force)  # fmt: skip
    n, t = abs(N) * 1e3 / (s.A * 235), 30e6 / (2 * s.Wel_major * 235 / math.sqrt(3))
    left = 235 * math.sqrt(1 - t**2)
    U = rows(one)["section-forces"].utilisation
    M = s.Wpl_major * (1 - n**1.7) * 235
    assert math.hypot(40e6 / M, t) == pytest.approx(U, rel=1e-6)
    # At a ratio of 1 it is the moment that the reduced stress allows.
    assert (U <= 1) == (s.Wpl_major * (1 - n**1.7) * left * (1 + 1e-9) >= 40e6)
    pulled = rows(forces(s, steel=S235, L=0.5, tension=900, torsion=50, connection={
        "net_area": f"{s.A * 0.999} mm2", "shear_lag": 1.0}))["section-forces"]  # fmt: skip
    t = 50e6 / (2 * s.Wel_major * 235 / math.sqrt(3))
    assert pulled.utilisation == pytest.approx(math.hypot(900e3 / (s.A * 235), t), rel=1e-6)


# The shape of moments


@pytest.mark.parametrize("interaction", ["Annex B", "Annex A"])
@pytest.mark.parametrize("axis", ["major", "minor"])
def test_a_member_held_in_between_is_no_better_than_its_half(axis, interaction):
    """Reverse curvature over a member whose middle is held is single curvature of each half."""
    M = {"My" if axis == "major" else "Mz": (-60, 60)}
    half = {"My" if axis == "major" else "Mz": (0, 60)}
    lengths = {f"{axis}_length": "2 m", "torsional_length": "2 m"}
    if axis == "major":
        lengths["minor_length"] = "2 m"
    held = {"restraint": {f: {"every": "2 m"} for f in ("top", "bottom")}}
    whole = rows(member("HEB240", 1500, V=0.001, L=4000, buckling=lengths, **M, **held),
                 interaction=interaction)["compression-bending"]  # fmt: skip
    more = {"buckling": {"major_length": "4 m"}} if axis == "minor" else {}
    one = rows(member("HEB240", 1500, V=0.001, L=2000, **half, **more), interaction=interaction)
    assert whole.utilisation == pytest.approx(one["compression-bending"].utilisation, rel=0.02)
    assert whole.utilisation >= one["compression-bending"].utilisation * (1 - 1e-9)


def test_a_length_that_does_not_divide_the_span_takes_no_shape():
    known = rows(member("HEB240", 1500, Mz=(-60, 60), V=0.001, L=4000,
                        buckling={"minor_length": "3 m"}))  # fmt: skip
    uniform = rows(member("HEB240", 1500, Mz=(60, 60), V=0.001, L=4000,
                          buckling={"minor_length": "3 m"}))  # fmt: skip
    assert known["compression-bending"].utilisation == pytest.approx(
        uniform["compression-bending"].utilisation
    )


def test_a_factor_above_one_is_sway():
    """A buckling length factor above 1 takes 0.9 of Table B.3, and Annex A does not cover it."""
    from eurocode import steps

    for axis, M, symbol in (("major", "My", "C_my"), ("minor", "Mz", "C_mz")):
        found = [steps(member("HEB240", 500, V=0.001, buckling={f"{axis}_K": K}, **{M: (-50, 50)}),
                       "compression-bending")[symbol] for K in (1.0, 1.0 + 1e-6)]  # fmt: skip
        assert found == [0.4, 0.9]
    sways = rows(member("HEB240", 1000, My=(-100, 100), V=0.001, buckling={"major_K": 2.0}),
                 interaction="Annex A")["compression-bending"]  # fmt: skip
    assert sways.status == "outside"


def loaded(loads, N=800, **more):
    loads = [{"case": "dead", **load} for load in loads] + [
        {"case": "dead", "compression": f"{N} kN"}
    ]
    held = {"top": "continuous", "bottom": "continuous"}
    return wb.Member(mark="M", section="HEB200", steel="S355", span="6 m", self_weight=False,
                     load=loads, restraint=held, **more)  # fmt: skip


SHAPES = {  # loads, C_m of Table B.3, and the factor of N/Ncr in C_m,0 of Table A.2
    "uniform": ([{"line": "6 kN/m"}], 0.95, 0.03),
    "middle": ([{"point": "18 kN", "at": ["3 m"]}], 0.90, -0.18),
    "near the ends": ([{"point": "27 kN", "at": ["1 m", "5 m"]}], 1.0, None),
    "thirds": ([{"point": "13.5 kN", "at": ["2 m", "4 m"]}], 0.95, None),
}


@pytest.mark.parametrize("name", SHAPES)
def test_loads_between_the_ends_have_their_own_rows(name):
    loads, C_m, of_row = SHAPES[name]
    from eurocode import steps

    found = steps(loaded(loads), "compression-bending")
    assert found["C_my"] == pytest.approx(C_m)
    s = wb.section("HEB200")
    n = 1.35 * 800e3 / (math.pi**2 * E * s.I_major / 6000**2)
    by_a = steps(loaded(loads), "compression-bending", interaction="Annex A")["C_my"]
    if of_row is None:  # how far the loads deflect it, by integration
        x = np.linspace(0, 6000, 20_001)
        moment = np.zeros_like(x)
        for load in loads:
            for at in load["at"]:
                a = float(at.split()[0]) * 1000
                moment += np.where(x < a, x * (6000 - a), (6000 - x) * a)
        slope = np.concatenate([[0], np.cumsum((moment[1:] + moment[:-1]) / 2)]) * (x[1] - x[0])
        sag = np.concatenate([[0], np.cumsum((slope[1:] + slope[:-1]) / 2)]) * (x[1] - x[0])
        bow = x / 6000 * sag[-1] - sag
        of_row = math.pi**2 * bow.max() / (6000**2 * moment.max()) - 1
    assert 1 - 1e-4 < by_a / (1 + of_row * n) < 1.003


def test_members_held_all_along_do_not_twist():
    """Table B.1 where both flanges are continuously restrained: as of a hollow section."""
    from eurocode import steps

    held = {"restraint": {"top": "continuous", "bottom": "continuous"}}
    found = steps(member("IPE300", 400, My=(60, 60), V=0.001, **held), "compression-bending")
    assert found["k_zy"] == pytest.approx(0.6 * found["k_yy"])
    for less in ({}, {"restraint": {"top": "continuous"}}):
        free = steps(member("IPE300", 400, My=(60, 60), V=0.001, **less), "compression-bending")
        assert free["k_zy"] > 0.9


# Continuity: what hardly acts changes hardly anything


SECTIONS = ["IPE600", "HEB200", "UPE200", "RHS400X200X8 EN10219", "CHS219.1X8 EN10219",
            {"shape": "welded I", "d": "900 mm", "bf": "300 mm", "tw": "8 mm", "tf": "20 mm"},
            {"shape": "unequal I", "d": "500 mm", "bf_top": "250 mm", "tf_top": "20 mm",
             "bf_bottom": "150 mm", "tf_bottom": "16 mm", "tw": "12 mm"},
            {"shape": "tee", "d": "150 mm", "bf": "160 mm", "tw": "15 mm", "tf": "15 mm"},
            ]  # fmt: skip
# Where the standard has another rule as soon as a force acts: the ratio may rise there.
JUMPS = {
    "6.3.4 reduces in the plane and out of it, about z elastic": ("channel", "unequal I", "tee"),
    "class 4 in compression alone, flange-induced buckling": ("welded I", "rectangular tube"),
}


@pytest.mark.parametrize("section", SECTIONS, ids=str)
@pytest.mark.parametrize("trace", ["compression", "tension", "moment_major", "moment_minor",
                                   "shear_major", "shear_minor"])  # fmt: skip
def test_a_trace_of_a_force_changes_hardly_anything(section, trace):
    """1 N, or 1 N m, beside each pair of other forces."""
    s = wb.section(section) if isinstance(section, str) else member(section).section
    fy, A = 235.0, s.A
    sizes = {"compression": 0.3 * A * fy / 1e3, "moment_major": 0.3 * s.Wel_major * fy / 1e6,
             "moment_minor": 0.2 * s.Wel_minor * fy / 1e6}  # fmt: skip
    hold = {"connection": {"net_area": f"{0.999 * A} mm2", "shear_lag": 1.0}}
    for name, size in sizes.items():
        for other in sizes:
            if trace in (name, other) or (trace == "tension" and "compression" in (name, other)):
                continue
            acting = {name: size} | {other: sizes[other]}
            plain = worst(forces(section, steel=S235, L=2.0, **hold, **acting))
            beside = worst(forces(section, steel=S235, L=2.0, **hold, **acting, **{trace: 1e-3}))
            if s.shape in itertools.chain(*JUMPS.values()):
                assert beside >= plain * (1 - 1e-3)
                continue
            assert beside == pytest.approx(plain, rel=2e-3), acting


@settings(max_examples=60)
@given(
    section=st.sampled_from(["IPE300", "HEB200", "RHS200X100X8 EN10219", "CHS168.3X8 EN10219",
                             "UPE200"]),
    N=st.floats(0, 1), My=st.floats(0, 1), Mz=st.floats(0, 1), more=st.sampled_from(
        ["compression", "moment_major", "moment_minor", "torsion", "shear_major"]),
)  # fmt: skip
def test_more_of_a_force_is_never_better(section, N, My, Mz, more):
    s = wb.section(section)
    acting = {"compression": 0.5 * N * s.A * 0.235, "torsion": 0.0, "shear_major": 0.0,
              "moment_major": 0.6 * My * s.Wel_major * 235e-6,
              "moment_minor": 0.6 * Mz * s.Wel_minor * 235e-6}  # fmt: skip
    if more == "torsion" and section[0] not in "RC":
        return
    unit = {"compression": s.A * 0.235, "moment_major": s.Wel_major * 235e-6,
            "moment_minor": s.Wel_minor * 235e-6, "torsion": s.J / s.d * 135e-6,
            "shear_major": s.A * 0.03}[more]  # fmt: skip
    found = [worst(forces(section, steel=S235, L=3.0, **acting | {more: acting[more] + k * unit}))
             for k in (0.0, 0.1, 0.3, 1.0, 3.0)]  # fmt: skip
    assert all(math.isfinite(one) for one in found)
    for less, next_one in itertools.pairwise(found):
        assert next_one >= less * (1 - 0.03)


@pytest.mark.parametrize("section", ["IPE300", "RHS200X100X8 EN10219", "CHS168.3X8 EN10219"])
@pytest.mark.parametrize("interaction", ["Annex A", "Annex B", "general method"])
def test_ratios_beyond_every_limit_are_finite(section, interaction):
    """Beyond its squash load a member has that ratio, and with a moment more than its buckling."""
    s = wb.section(section)
    N = 4.0 * s.A * 0.355
    for more in ({}, {"moment_major": 5}, {"moment_major": 5, "moment_minor": 5}):
        found = {row.id: row for row in wb.check(job(forces(
            section, steel=S235 | {"Fy": "355 MPa"}, L=8.0, compression=N, **more),
            interaction=interaction))["M"].rows}  # fmt: skip
        assert all(math.isfinite(row.utilisation) for row in found.values())
        least = max(row.utilisation for id, row in found.items() if id.startswith("buckling"))
        if more:
            assert found["compression-bending"].utilisation >= least * (1 - 1e-9)
    N_c = found["compression-yielding"].capacity
    assert found["compression-yielding"].utilisation == pytest.approx(N * 1e3 / N_c)


# Holes, concentrated forces, steels, partial values


def test_holes_in_the_flange_of_an_unequal_i_that_is_in_tension():
    """6.16 for the flange in tension, and no more of the modulus than the rest really has."""
    sizes = {"shape": "unequal I", "d": "500 mm", "bf_top": "250 mm", "tf_top": "20 mm",
             "bf_bottom": "150 mm", "tf_bottom": "16 mm", "tw": "12 mm"}  # fmt: skip
    holes = {"flange_holes": {"count": 2, "diameter": "40 mm"}}
    for sense, b, t in ((1, 150, 16), (-1, 250, 20)):
        plain, holed = (
            rows(member(sizes, My=(200 * sense, 200 * sense), L=100, steel=S235, **more))[
                "bending-major"
            ].capacity
            for more in ({}, holes)
        )
        A_f = b * t
        counts = min(A_f, 0.9 * (A_f - 2 * 40 * t) * 360 / 1.25 / 235)
        assert holed == pytest.approx(plain - (A_f - counts) * (500 - 18) * 235, rel=1e-9)


def test_a_concentrated_force_beside_bending_and_an_axial_force():
    """EN 1993-1-5, 7.2 by hand, with eta_1 of 4.14."""
    point = {"case": "dead", "point": "60 kN", "at": ["3 m"], "bearing": "100 mm"}
    found = {}
    for N in (0, 400):
        loads = [point] + ([{"case": "dead", "compression": f"{N} kN"}] if N else [])
        one = wb.Member(mark="M", section="IPE300", steel="S235", span="6 m", self_weight=False,
                        load=loads)  # fmt: skip
        found[N] = {row.id: row.utilisation for row in wb.check(job(one))["M"].rows}
    s = wb.section("IPE300")
    more = 0.8 / 1.4 * 1.35 * 400e3 / (s.A * 235)
    assert found[400]["web-force-bending"] == pytest.approx(
        found[0]["web-force-bending"] + more, rel=1e-6
    )


@pytest.mark.parametrize(
    ("Fy", "status"), [(460, "ok"), (690, "ok"), (700, "ok"), (960, "outside")]
)
def test_steels_above_s460(Fy, status):
    steel = {"Fy": f"{Fy} MPa", "Fu": f"{Fy + 80} MPa"}
    result = wb.check(job(member("HEA200", 100, My=(5, 5), V=0.001, steel=steel)))["M"]
    assert result.status == status
    assert any("EN 1993-1-12" in note for note in result.notes) == (460 < Fy <= 700)
    if status == "outside":
        assert "S700" in result.governing.reason


def test_the_curves_of_s460_go_by_the_grade():
    """S460M is named by its thinnest band: thicker sections keep its curves (Table 6.2)."""
    s = wb.section("HEB400")  # 24 mm: 440 MPa
    chi = rows(member(s, 100, L=6000, steel="S460M"))["buckling-minor"].capacity
    lam = math.sqrt(s.A * 440 / (math.pi**2 * E * s.I_minor / 6000**2))
    value = 0.5 * (1 + 0.13 * (lam - 0.2) + lam**2)  # curve a0; b of other grades
    assert chi == pytest.approx(s.A * 440 / (value + math.sqrt(value**2 - lam**2)), rel=1e-6)


def test_eta_is_a_national_value():
    girder = {"shape": "welded I", "d": "400 mm", "bf": "200 mm", "tw": "10 mm", "tf": "20 mm"}
    plain = 360 * 10 * 235 / math.sqrt(3)
    for annex, eta in (("recommended", 1.2), ("UK", 1.0), ("DE", 1.0)):
        found = rows(member(girder, V=50, steel=S235), annex=annex)["shear-major"]
        assert found.capacity == pytest.approx(eta * plain, rel=1e-9)
    strong = rows(member(girder, V=50, steel={"Fy": "500 MPa", "Fu": "600 MPa"}))["shear-major"]
    assert strong.capacity == pytest.approx(plain * 500 / 235, rel=1e-9)


def test_an_unequal_i_with_like_flanges_is_a_welded_one():
    like = {"shape": "unequal I", "d": "500 mm", "bf_top": "200 mm", "tf_top": "16 mm",
            "bf_bottom": "200 mm", "tf_bottom": "16 mm", "tw": "10 mm"}  # fmt: skip
    plain = {"shape": "welded I", "d": "500 mm", "bf": "200 mm", "tw": "10 mm", "tf": "16 mm"}
    for standard in ("EN 1993-1-1", "AISC 360-22"):
        a, b = (
            wb.check(wb.Job(standard=standard, loading={"standard": "EN 1990"}, member=[
                forces(one, compression=200, moment_major=90, moment_minor=5)]))["M"]
            for one in (like, plain)
        )  # fmt: skip
        assert [row.utilisation for row in a.rows] == [row.utilisation for row in b.rows]


@pytest.mark.parametrize(
    ("fields", "words"),
    [
        ({"My": (50, 50), "design": {"Mcr": "85 N m"}}, "is the unit right"),
        ({"My": (50, 50), "design": {"Mcr": "85 kN m"}}, None),
        ({"N": 50, "buckling": {"minor_length": "4 mm"}}, "less than the depth of the section"),
        ({"My": (50, -50), "V": 0.0}, "changes as beside a shear of 25"),
        ({"My": (50, -50), "V": 25.0}, None),
    ],
)
def test_given_values_that_are_far_from_the_own(fields, words):
    notes = wb.check(job(member("IPE300", **fields)))["M"].notes
    found = [note for note in notes if "unit right" in note or "less than" in note
             or "as beside" in note]  # fmt: skip
    assert bool(found) == (words is not None)
    assert words is None or words in found[0]


def test_a_mixed_country_is_said():
    load = [{"case": "dead", "line": "5 kN/m"}]
    one = wb.Member(mark="M", section="IPE300", steel="S355", span="6 m", load=load)
    words = "the combinations of loads by the recommended values"
    assert any(words in note for note in wb.check(job(one, annex="UK"))["M"].notes)
    assert not any(words in note for note in wb.check(job(one))["M"].notes)


def test_choices_of_a_member_and_of_a_job():
    """f, how a tube is made and Cm as the designer has them, and what is said of each."""
    from eurocode import steps

    one = member("IPE300", My=(90, 0), V=22.5, L=4000)
    found = [steps(one, "bending-lateral", lateral=way) for way in
             ("rolled or welded", "rolled or welded without f")]  # fmt: skip
    assert found[0]["M_b_Rd"] == pytest.approx(found[1]["M_b_Rd"] / found[0]["f"], rel=1e-9)
    assert "f" not in found[1]
    tube = {"shape": "rectangular tube", "d": "100 mm", "b": "100 mm", "t": "6 mm"}
    hot, cold, plain = (
        rows(member(tube, 100, L=4000, steel=S235, **more))["buckling-major"].capacity
        for more in ({"design": {"made": "hot finished"}}, {"design": {"made": "cold formed"}}, {})
    )
    assert hot > 1.1 * cold == pytest.approx(1.1 * plain)
    given = member("IPE300", 300, My=(40, 40), V=0.001, design={"Cmy": 0.6, "CmLT": 1.0})
    assert steps(given, "compression-bending")["C_my"] == 0.6
    notes = wb.check(job(given))["M"].notes
    assert any("Cmy = 0.6 is given, less than the 1.00 of its own moments" in n for n in notes)
    assert not any("CmLT = 1 is given" in n for n in notes)
    by_a = wb.check(job(given, interaction="Annex A"))["M"].notes
    assert any("Table B.3 is not asked here" in n for n in by_a)


# Slender boxes and what a moment of Annex A makes of them


def test_a_deep_tube_by_annex_a_is_no_less_than_by_its_own_torsion():
    """a_LT of a tube that is deeper than wide: lambda_0 of uniform moment decides (Table A.1)."""
    from eurocode import steps

    s = member({"shape": "rectangular tube", "d": "300 mm", "b": "100 mm", "t": "8 mm"}).section
    one = member({"shape": "rectangular tube", "d": "300 mm", "b": "100 mm", "t": "8 mm"}, 40,
                 My=(190, -95), V=35.6, L=8000)  # fmt: skip
    found = steps(one, "compression-bending", interaction="Annex A")
    N_z = math.pi**2 * E * s.I_minor / 8000**2
    M_0 = math.sqrt(N_z * (G * s.J + math.pi**2 * E * s.Cw / 8000**2))
    lam = math.sqrt(s.Wpl_major * 355 / M_0)
    assert found["lambda_0"] == pytest.approx(lam, rel=1e-6)
    n_y = 40e3 / (math.pi**2 * E * s.I_major / 8000**2)
    C_0 = 0.79 - 0.21 * 0.5 + 0.36 * (-0.5 - 0.33) * n_y
    a_LT = 1 - s.J / s.I_major
    e_y = 190e6 / 40e3 * s.A / s.Wel_major
    root = math.sqrt(e_y) * a_LT
    assert found["C_my"] == pytest.approx(C_0 + (1 - C_0) * root / (1 + root), rel=1e-6)
