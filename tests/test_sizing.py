"""Sizing against checking every candidate one by one; reserves just below and just above."""

import shutil
from itertools import combinations

import numpy as np
import pytest
from click.testing import CliRunner
from hypothesis import given, settings
from hypothesis import strategies as st

import welbric as wb
from welbric.cli import main
from welbric.files.jobs import change_job, demo_text
from welbric.inputs.rates import read_objective
from welbric.reports.sizing_figure import draw_sizing, efficient
from welbric.studies.few_sections import assign
from welbric.studies.objectives import measure, scores
from welbric.studies.screening import looks


def beam(section="W16X45", **fields):
    usual = {
        "mark": "B", "section": section, "span": "24 ft", "deflection": {"live": 360},
        "load": [{"case": "dead", "line": "0.4 kip/ft"}, {"case": "live", "line": "0.9 kip/ft"}],
    } | fields  # fmt: skip
    return wb.Member(**usual)


LISTS = {
    "W16": [n for n in wb.catalogue().names if n.startswith("W16X")],
    "several": ["W12X26", "HSS10X6X1/4", "C15X40", "W10X45", "HSS12X6X3/8", "W14X43"],
}


@pytest.mark.parametrize("names", LISTS.values(), ids=LISTS)
@pytest.mark.parametrize("least", ["mass", "depth"])
@pytest.mark.parametrize("largest", [1.0, 0.8])
def test_the_choice_by_brute_force(names, least, largest):
    job = wb.Job(members=[beam()])
    found = wb.size(job, ["B"], names, largest, least, every=True)["B"]
    ratios = {n: wb.check(wb.Job(members=[beam(n)]))["B"] for n in names}
    for candidate in found.candidates:
        alone = ratios[candidate.section.name]
        assert candidate.utilisation == pytest.approx(alone.utilisation, rel=1e-12, nan_ok=True)
    passing = [
        wb.section(n) for n, r in ratios.items()
        if r.status == "ok" and r.utilisation <= largest + 1e-9
    ]  # fmt: skip
    order = {"mass": lambda s: s.mass, "depth": lambda s: s.I_x / s.Wel_top}[least]
    if not passing:
        assert found.chosen is None
        return
    assert order(found.chosen.section) == pytest.approx(min(map(order, passing)))
    short = wb.size(job, ["B"], names, largest, least)["B"]
    assert short.chosen.section == found.chosen.section


def test_without_a_wish_it_stays_in_its_family_and_shape():
    job = wb.Job(members=[beam("HSS8X8X1/4")])
    sized = wb.size(job, ["B"], every=True)["B"]
    assert {c.section.shape for c in sized.candidates} == {"rectangular tube"}
    assert all(c.section.name.startswith("HSS") for c in sized.candidates)


def test_what_cannot_be_is_outside_with_its_reason():
    member = beam("W14X43", steel="S460N", connection={"net_area": "8 in2", "shear_lag": 1.0})
    names = ["W14X730", "W14X22", "W14X43"]
    sized = wb.size(wb.Job(members=[member]), ["B"], names, every=True)["B"]
    why = {c.section.name: (c.status, c.why()) for c in sized.candidates}
    assert why["W14X730"][0] == why["W14X22"][0] == "outside"
    assert "no strengths for a thickness" in why["W14X730"][1]
    assert "not greater than the gross area" in why["W14X22"][1]


def test_a_frame_and_a_text():
    sized = wb.size(wb.Job(members=[beam()]), ["B"], LISTS["W16"], every=True)
    frame = sized.to_frame()
    assert len(frame) == len(LISTS["W16"])
    assert frame["chosen"].sum() == 1
    assert f"-> {sized['B'].chosen.section.name}" in str(sized)


def test_the_command_writes_only_what_is_accepted(tmp_path):
    path = tmp_path / "job.toml"
    path.write_text(demo_text(), "utf-8")
    run = CliRunner().invoke
    looked = run(main, ["size", str(path)])
    assert looked.exit_code == 0
    assert "FB2: W16X45 at 1.05 ->" in looked.output
    assert path.read_text("utf-8") == demo_text()
    accepted = run(main, ["size", str(path), "--accept", "FB2"])
    assert "Wrote" in accepted.output
    chosen = wb.size(wb.parse_job(demo_text()), ["FB2"])["FB2"].chosen.section.name
    assert path.read_text("utf-8") == change_job(demo_text(), {"FB2": {"section": chosen}})
    assert wb.check(wb.load_job(path))["FB2"].status == "ok"
    again = run(main, ["size", str(path), "--accept", "FB2"])
    assert "nothing changes" in again.output
    shutil.copy(path, tmp_path / "same.toml")


def test_the_figure_names_the_choice_and_covers_no_name(tmp_path):
    from matplotlib.text import Annotation

    job = wb.parse_job(demo_text())
    sized = wb.size(job, ["FB2"], every=True)
    figure = draw_sizing(sized, "FB2")
    (ax,) = figure.axes
    names = [child for child in ax.get_children() if isinstance(child, Annotation)]
    assert sized["FB2"].chosen.section.name in [name.get_text() for name in names]
    boxes = [name.get_window_extent(figure.canvas.get_renderer()) for name in names]
    assert not any(a.overlaps(b) for i, a in enumerate(boxes) for b in boxes[:i])
    front = efficient(sized["FB2"].candidates)
    assert [c.section.mass for c in front] == sorted(c.section.mass for c in front)
    path = tmp_path / "job.toml"
    path.write_text(demo_text(), "utf-8")
    to = tmp_path / "front.png"
    assert CliRunner().invoke(main, ["size", str(path), "ST1", "--to", str(to)]).exit_code == 0
    assert to.read_bytes().startswith(b"\x89PNG")


@pytest.mark.parametrize(
    ("arguments", "words"),
    [
        (["FB2", "ST1", "--to", "x.png"], "--to draws one member"),
        (["FB9"], "no member 'FB9'"),
        (["FB2", "--among", "W, depth at most 1 in"], "no section of the catalogue fits"),
        (["FB2", "--utilisation", "1.4"], "not between 0 and 1"),
        (["C3"], "several sections cannot be sized"),
        (["FB2", "--accept", "RB1"], "RB1 was not sized"),
    ],
)
def test_wrong_questions(tmp_path, arguments, words):
    path = tmp_path / "job.toml"
    path.write_text(demo_text(), "utf-8")
    result = CliRunner().invoke(main, ["size", str(path), *arguments])
    assert result.exit_code == 2
    assert words in result.output


def test_a_wish_is_read_with_the_job():
    with pytest.raises(wb.InputError, match="no family and no limit"):
        beam(choose="wide ones")
    with pytest.raises(wb.InputError, match="no section 'W16X999'"):
        beam(choose=["W16X999"])
    job = wb.Job(members=[beam(choose={"among": ["W16X26", "W16X57"], "utilisation": 0.9})])
    assert wb.size(job)["B"].chosen.section.name == "W16X57"


def test_a_group_by_exhaustive_search():
    names = [n for n in wb.catalogue().names if n.startswith(("W8X", "W10X"))]
    choose = {"among": names, "group": "posts"}

    def post(mark, kN, height, **more):
        load = [{"case": "dead", "compression": f"{kN} kN"}]
        return wb.Member(
            mark=mark, role="column", section="W8X31", height=height, load=load, **more
        )

    marks = (("A", 300, "5 m"), ("B", 900, "3 m"), ("C", 500, "6 m"))
    members = [post(*of, choose=choose) for of in marks]
    sized = wb.size(wb.Job(members=members), ["B"])
    assert {one.member.mark for one in sized} == {"A", "B", "C"}
    chosen = {one.chosen.section.name for one in sized}
    passing = []
    for name in names:
        all_of = wb.Job(members=[post(*of).model_copy(update={"section": wb.section(name)})
                                 for of in marks])  # fmt: skip
        if wb.check(all_of).ok:
            passing.append(wb.section(name))
    assert chosen == {min(passing, key=lambda s: (s.mass, s.I_x)).name}
    assert set(sized.changes()) <= {"A", "B", "C"}
    with pytest.raises(wb.InputError, match="B shares its section with A, C"):
        sized.changes(["B"])
    apart = [post("A", 300, "5 m", choose={"among": ["W8X31"], "group": "g"}),
             post("B", 300, "5 m", choose={"among": ["W10X33"], "group": "g"})]  # fmt: skip
    with pytest.raises(wb.InputError, match="no section is in the lists of all"):
        wb.size(wb.Job(members=apart))


def status(member):
    return wb.check(wb.Job(members=[member]))["B"].status


def test_the_load_left_is_one_over_the_ratio():
    """Without own weight and compression every ratio is linear in the loads."""
    member = beam(self_weight=False, restraint={"top": {"every": "6 ft"}})
    job = wb.Job(members=[member])
    found = wb.reserve(job, "B")
    assert found.value == pytest.approx(1 / wb.check(job)["B"].utilisation, rel=1e-5)
    live = wb.reserve(job, "B", case="live")
    assert live.value >= found.value * (1 - 1e-5)  # equal where the live deflection decides

    def with_live(x):
        load = [
            {"case": "dead", "line": "0.4 kip/ft"},
            {"case": "live", "line": f"{0.9 * x} kip/ft"},
        ]
        return beam(self_weight=False, restraint={"top": {"every": "6 ft"}}, load=load)

    assert status(with_live(live.value * (1 - 1e-5))) == "ok"
    assert status(with_live(live.value * (1 + 1e-5))) == "over"


def test_the_spacing_and_the_span_left():
    fields = {"section": "W16X31", "restraint": {"top": {"every": "3 ft"}}}
    job = wb.Job(members=[beam(**fields)])
    spacing = wb.reserve(job, "B", "spacing").value
    for factor, verdict in ((1 - 1e-5, "ok"), (1 + 1e-5, "over")):
        restraint = {"top": {"every": f"{spacing * factor} mm"}}
        assert status(beam(**fields | {"restraint": restraint})) == verdict
    span = wb.reserve(job, "B", "span").value
    for factor, verdict in ((1 - 1e-5, "ok"), (1 + 1e-5, "over")):
        assert status(beam(**fields | {"span": f"{span * factor} mm"})) == verdict


@pytest.mark.parametrize(
    ("arguments", "code", "words"),
    [
        (["FG1"], 0, "FG1: the factor on all loads but own weight may be up to 1.0"),
        (["RB1", "--spacing"], 0, "RB1: the spacing of the restraints"),
        (["ST1", "--span"], 0, "ST1: the span may be up to"),
        (["C1", "--span"], 0, "C1: the span may be up to"),
        (["FB2", "--case", "dead"], 0, "FB2: the factor on the dead loads may be up to 0."),
        (["ST1", "--span", "--json"], 0, '"question": "span"'),
        (["FG1", "--span"], 2, "names a place"),
        (["FB2", "--spacing"], 0, "the top flange, in compression and not restrained"),
        (["FB2", "--case", "lvie"], 2, "did you mean live"),
        (["FB2", "--case", "snow"], 2, "has no snow"),
        (["FB2", "--case", "live", "--span"], 2, "a case goes with the load"),
        (["FB2", "--spacing", "--span"], 2, "at a time"),
    ],
)
def test_reserves_of_the_demo(tmp_path, arguments, code, words):
    path = tmp_path / "job.toml"
    path.write_text(demo_text(), "utf-8")
    result = CliRunner().invoke(main, ["reserve", str(path), *arguments])
    assert (result.exit_code, words in result.output) == (code, True), result.output


# Objectives, and few different sections


PRICES = {
    "per_tonne": 2000, "families": {"HSS": 3000}, "least_per_piece": 400,
    "long_pieces": [{"over": "6 m", "factor": 1.5}, {"over": "10 m", "factor": 2}],
}  # fmt: skip
RATES = {"prices": PRICES, "carbon": {"per_kg": 1.2, "families": {"HSS": 2.0}}}


@pytest.mark.parametrize(
    ("span", "name", "cost"),
    [
        ("5 m", "W12X26", 2.0 * 5), ("8 m", "W12X26", 2.0 * 1.5 * 8),
        ("11 m", "HSS12X6X3/8", 3.0 * 2 * 11), ("1 m", "W12X26", None),
    ],
)  # fmt: skip
def test_prices_by_hand(span, name, cost):
    member = beam(name, span=span)
    job = wb.Job(members=[member], **RATES)
    section = wb.section(name)
    found = measure("cost", job, member, section)
    assert found == pytest.approx(400 if cost is None else max(400, cost * section.mass * 1000))
    per_kg = 2.0 if name.startswith("HSS") else 1.2
    mass = section.mass * member.length
    assert measure("carbon", job, member, section) == pytest.approx(per_kg * mass)


@pytest.mark.parametrize("objective", ["cost", "carbon", "0.7 cost + 0.3 depth", "mass + 2 depth"])
def test_any_objective_by_brute_force(objective):
    job = wb.Job(members=[beam()], **RATES)
    names = LISTS["several"] + LISTS["W16"]
    found = wb.size(job, ["B"], names, objective=objective, every=True)["B"]
    passing = [c for c in found.candidates if c.status == "ok"]
    terms = read_objective(objective)
    least = {t: min(measure(t, job, job.members[0], wb.section(n)) for n in names) for t in terms}

    def score(candidate):
        return sum(w * measure(t, job, job.members[0], candidate.section) / least[t]
                   for t, w in terms.items())  # fmt: skip

    assert score(found.chosen) == pytest.approx(min(map(score, passing)))


@pytest.mark.parametrize("text", ["weight", "0 mass", "mass + mass", "mass, depth", "-1 cost", ""])
def test_wrong_objectives_are_named(text):
    with pytest.raises(wb.InputError, match="objective|weight is greater"):
        wb.size(wb.Job(members=[beam()]), ["B"], objective=text)
    with pytest.raises(wb.InputError, match="least"):
        beam(choose={"least": text})


def test_cost_needs_prices():
    with pytest.raises(wb.InputError, match="the job has no prices"):
        wb.size(wb.Job(members=[beam()]), ["B"], objective="cost")


@given(st.integers(0, 10_000), st.integers(1, 4))
@settings(max_examples=60, deadline=None)
def test_few_sections_against_exhaustive_search(seed, most):
    rng = np.random.default_rng(seed)
    table = rng.uniform(1, 10, (5, 7))
    table[rng.uniform(size=table.shape) < 0.4] = np.nan
    best = np.inf
    for count in range(1, most + 1):
        for used in combinations(range(7), count):
            some = np.where(np.isnan(table[:, used]), np.inf, table[:, used]).min(axis=1)
            best = min(best, some.sum())
    if not np.isfinite(best):
        with pytest.raises(wb.InputError, match="different sections passes"):
            assign(table, most)
        return
    found = assign(table, most)
    assert found.total == pytest.approx(best)
    assert found.proved
    assert len(set(found.chosen)) <= most
    assert sum(table[i, j] for i, j in enumerate(found.chosen)) == pytest.approx(best)


def three_beams():
    loads = ("0.4 kip/ft", "0.9 kip/ft", "1.8 kip/ft")
    return wb.Job(members=[
        beam(mark=f"B{i}", load=[{"case": "live", "line": line}], choose="W, depth at most 15 in")
        for i, line in enumerate(loads)
    ])  # fmt: skip


@pytest.mark.parametrize("different", [1, 2, 3])
def test_a_job_with_few_sections_by_exhaustive_search(different):
    job = three_beams()
    sized = wb.size(job, different=different)
    every = wb.size(job, every=True)
    fits = [{c.section.name: c.section.mass * one.member.length for c in one.candidates
             if c.status == "ok"} for one in every]  # fmt: skip
    names = sorted(set().union(*fits), key=lambda n: wb.section(n).mass)[:70]
    best = min(
        sum(min((f[n] for n in used if n in f), default=np.inf) for f in fits)
        for used in combinations(names, different)
    )
    assert sized.total == pytest.approx(best)
    assert len({one.chosen.section.name for one in sized}) <= different
    assert sized.bound == pytest.approx(best)
    assert all(one.chosen.status == "ok" for one in sized)
    assert "No other choice is better" in " ".join(str(sized).split())
    assert sized.rounds[-1] == {one.member.mark: one.chosen.section.name for one in sized}


def test_unlike_objectives_do_not_add_up():
    members = [beam(mark="A", choose={"least": "mass"}), beam(mark="B", choose={"least": "depth"})]
    with pytest.raises(wb.InputError, match="one objective for all"):
        wb.size(wb.Job(members=members), different=1)


@pytest.mark.parametrize(
    "fields",
    [
        {}, {"span": None, "spans": ["20 ft", "24 ft"]}, {"ends": ["fixed", "pinned"]},
        {"role": "cantilever"}, {"deflection": {}}, {"restraint": {"top": {"every": "6 ft"}}},
        {"load": [{"case": "live", "compression": "80 kip"},
                  {"case": "live", "line": "0.5 kip/ft"}]},
        {"load": [{"case": "live", "line": "0.3 kip/ft", "axis": "minor"}]},
        {"load": [],
         "forces": [{"name": "f", "moment_major": "90 kip ft", "shear_major": "9 kip"}]},
    ],
    ids=str,
)  # fmt: skip
def test_looks_at_once_are_the_plain_checks(fields):
    member = beam(**({"deflection": {}} | fields if "forces" in fields else fields))
    job = wb.Job(members=[member])
    for among in ("W, depth at most 13 in", "C or MC", "HSS, depth at most 6 in"):
        sections = wb.wished(among)[::4]
        found = looks(job, member, sections)
        assert found
        for section in sections:
            if section.name not in found:
                continue
            plain = wb.check(wb.Job(members=[member.model_copy(update={"section": section})]))["B"]
            look = found[section.name]
            if plain.status == "outside" or np.isnan(look.utilisation):
                assert np.isnan(look.utilisation) or plain.utilisation != plain.utilisation
            else:
                assert look.utilisation == pytest.approx(plain.utilisation, rel=2e-3)


# What suffices


def heavy(**fields):
    return beam(load=[{"case": "live", "line": "1.6 kip/ft"}], deflection={}, **fields)


@pytest.mark.parametrize(
    ("member", "question", "options", "at"),
    [
        (heavy(restraint={"top": "continuous"}), "yield stress", {},
         lambda x: heavy(restraint={"top": "continuous"},
                         steel={"Fy": f"{x!r} MPa", "Fu": "65 ksi"})),
        (heavy(), "plate", {"on": "both", "width": 150.0},
         lambda x: heavy(section=f"W16X45 with a 150 x {x!r} mm plate on both flanges")),
        (heavy(), "plate", {"on": "top", "width": 250.0},
         lambda x: heavy(section=f"W16X45 with a 250 x {x!r} mm plate on the top flange")),
    ],
    ids=["yield stress", "plates", "top plate"],
)  # fmt: skip
def test_the_least_that_suffices_just_below_and_just_above(member, question, options, at):
    found = wb.reserve(wb.Job(members=[member]), "B", question, **options)
    assert 0 < found.value < found.searched[1]
    statuses = [wb.check(wb.Job(members=[at(found.value * f)]))["B"].status
                for f in (1 - 1e-5, 1 + 1e-5)]  # fmt: skip
    assert statuses[0] != "ok"
    assert statuses[1] == "ok"


def test_the_longest_buckling_length_just_below_and_just_above():
    def column(length=None):
        return beam("W10X49", role="column", span=None, height="24 ft",
                    buckling={"minor_length": length or "6 ft"}, deflection={},
                    load=[{"case": "dead", "compression": "200 kip"}])  # fmt: skip

    found = wb.reserve(wb.Job(members=[column()]), "B", "buckling length")
    within, beyond = (wb.check(wb.Job(members=[column(f"{found.value * f!r} mm")]))["B"].status
                      for f in (1 - 1e-5, 1 + 1e-5))  # fmt: skip
    assert (within, beyond) == ("ok", "over")


@pytest.mark.parametrize(
    ("args", "words"),
    [
        (("FB2", "--plate", "both", "--yield"), "one of yield stress, plate at a time"),
        (("FB2", "--width", "6 in"), "goes with --plate"),
        (("P1", "--plate", "both"), "one I-shape"),
        (("C3", "--yield"), "several sections"),
        (("FB2", "--plate", "top", "--width", "-1 in"), "greater than zero"),
    ],
)
def test_questions_that_do_not_fit(tmp_path, args, words):
    path = tmp_path / "job.toml"
    path.write_text(demo_text())
    result = CliRunner().invoke(main, ["reserve", str(path), *args])
    assert result.exit_code == 2
    assert words in result.output


def test_what_suffices_in_words(tmp_path):
    path = tmp_path / "job.toml"
    path.write_text(demo_text())
    for args, words in (
        (("C1", "--yield"), "the yield stress must be at least"),
        (("FB2", "--yield"), "no yield stress up to 65 ksi suffices"),
        (("C2", "--plate", "both"), "need not be more than 0 in"),
        (("C2", "--buckling"), "may be up to"),
    ):
        assert words in CliRunner().invoke(main, ["reserve", str(path), *args]).output


def test_what_is_kept_stays():
    held = {"restraint": {"top": "continuous"}}
    members = [
        beam(mark="A", choose={"among": "W", "group": "g"}, **held),
        beam(mark="B", choose={"among": "W", "group": "g"}, **held),
        beam(mark="C", choose={"among": "W"}, **held),
    ]
    job = wb.Job(members=members)
    sized = wb.size(job, keep=["A"])
    assert [one.chosen.section.name for one in sized][:2] == ["W16X45", "W16X45"]
    assert sized["C"].changes
    assert not sized["A"].changes
    few = wb.size(job, keep=["A"], different=1)
    assert {one.chosen.section.name for one in few} == {"W16X45"}
    other = job.model_copy(update={"members": [members[0], beam("W14X43", mark="B", choose={
        "group": "g"})]})  # fmt: skip
    with pytest.raises(wb.InputError, match="cannot all be kept"):
        wb.size(other, keep=["A", "B"])


def test_utilisations_of_roles_give_way_to_the_members_own():
    members = [
        beam(mark="A", choose="W"),
        beam(mark="B", choose={"among": "W", "utilisation": 1.0}),
        beam(mark="C", role="girder", choose="W"),
    ]
    sized = wb.size(wb.Job(members=members, utilisations={"beam": 0.6}))
    assert [one.chosen.limit for one in sized] == [0.6, 1.0, 1.0]
    assert sized["A"].chosen.utilisation <= 0.6 < sized["B"].chosen.utilisation


def test_a_list_may_name_the_jobs_own_sections_and_words():
    text = """
welbric = 2
[[section]]
name = "yard beam"
shape = "welded I"
d = "400 mm"
bf = "180 mm"
tw = "8 mm"
tf = "12 mm"
[[member]]
mark = "B"
section = "W16X45"
span = "24 ft"
choose = ["yard beam", "W8X10", "W12X19 with a 4 in x 1/2 in plate on both flanges"]
  [[member.load]]
  case = "live"
  line = "0.5 kip/ft"
"""
    sized = wb.size(wb.parse_job(text), every=True)["B"]
    names = {c.section.name for c in sized.candidates}
    assert {"yard beam", "W8X10"} < names
    assert len(names) == 3
    assert sized.chosen is not None


def test_alternatives_know_the_rest_of_the_job():
    members = [beam(mark="A", choose="W, depth at most 17 in"), beam("W14X61", mark="B"),
               beam("W10X100", mark="C")]  # fmt: skip
    one = wb.size(wb.Job(members=members), every=True)["A"]
    words = dict(one.alternatives())
    assert words["lightest used elsewhere"].section.name == "W14X61"
    stiff = next(c for name, c in words.items() if "stiffest" in name).section
    passing = [c.section for c in one.candidates if c.status == "ok"]
    assert stiff.I_x / stiff.mass == max(s.I_x / s.mass for s in passing)
    level = next(c for name, c in words.items() if "as deep" in name)
    assert min(abs(level.depth - d) for d in one.elsewhere.values()) <= 3.0


@pytest.mark.parametrize("sort", ["mass", "depth", "utilisation"])
def test_candidates_can_be_sorted(tmp_path, sort):
    path = tmp_path / "job.toml"
    path.write_text(demo_text())
    args = ["size", str(path), "FB2", "--among", "W, depth at most 14 in", "--all", "--sort", sort]
    lines = [line.removeprefix("->").split() for line in
             CliRunner().invoke(main, args).output.splitlines()]  # fmt: skip
    column = {"mass": 1, "depth": 2, "utilisation": 3}[sort]
    rows = [line for line in lines if len(line) > 5 and line[4] in ("ok", "OVER")]
    values = [float(line[column].lstrip(">")) for line in rows]
    assert len(values) > 50
    assert values == sorted(values)


def test_every_candidate_has_all_its_checks(tmp_path):
    job = wb.Job(members=[beam()])
    among = "W, depth at most 12.5 in"
    frame = wb.size(job, ["B"], among, every=True).to_frame().set_index("section")
    for name in ("W8X10", "W10X22", "W12X50", "W10X88"):
        plain = wb.check(wb.Job(members=[beam(name)]))["B"]
        for row in plain.rows:
            found = frame.loc[name, f"utilisation: {row.name}"]
            assert found == pytest.approx(row.utilisation, rel=2e-3), (name, row.name)
    path = tmp_path / "job.toml"
    path.write_text(demo_text())
    args = ["size", str(path), "FB2", "--among", among, "--all", "--csv"]
    table = CliRunner().invoke(main, args).output.splitlines()
    assert len(table) == len(wb.wished(among)) + 1
    assert "utilisation: deflection, live" in table[0]


def test_results_show_themselves_in_a_line():
    member = wb.Member(
        mark="B1", section="W16X31", span="20 ft", load=[{"case": "live", "line": "1 kip/ft"}]
    )
    sized = wb.size(wb.Job(members=[member]), ["B1"], "W")
    assert repr(sized["B1"]).startswith("<B1: W16X31 -> W")
    assert repr(sized["B1"].before).startswith("<B1, W16X31: o")
    assert len(repr(sized)) < 100


def test_no_spacing_that_fails_is_stepped_over():
    """One force at three quarters: a restraint that passes the middle leaves a length that fails.

    The ranges that are said to fail are compared with a fine scan.
    """

    def spaced(x):
        return wb.Member(
            mark="B", section="W18X50", steel="A992", span="44 ft", self_weight=False,
            restraint={"top": {"every": f"{x!r} ft"}},
            loads=[{"case": "live", "point": "14.5 kip", "at": "33 ft"}],
        )  # fmt: skip

    found = wb.reserve(wb.Job(members=[spaced(3.0)]), "B", "spacing")
    failing = [(a / 304.8, b / 304.8) for a, b in found.failing]
    assert found.value / 304.8 == pytest.approx(failing[0][0])
    assert found.passes_again
    for x in np.arange(18.05, 44, 0.5):
        over = any(a < x < b for a, b in failing)
        assert status(spaced(float(x))) == ("over" if over else "ok"), x


@pytest.mark.parametrize(
    ("restraint", "words"),
    [
        (
            {"top": "continuous", "bottom": {"every": "5 ft"}},
            "the top flange stays continuously",
        ),
        ({"top": "continuous"}, "continuously restrained, is held at this spacing instead"),
        ({"top": {"at": ["9 ft"]}}, "has a spacing in place of the places"),
    ],
)
def test_what_a_spacing_takes_the_place_of_is_said(restraint, words, monkeypatch):
    monkeypatch.setattr("welbric.studies.reserves.STEPS", 3)
    monkeypatch.setattr("welbric.studies.reserves.FINEST", 1)
    found = wb.reserve(wb.Job(members=[beam(restraint=restraint)]), "B", "spacing")
    assert words in found.said


def test_rates_of_families():
    """A family's letters stand for its sections of every standard, however they are written."""
    prices = {"per_tonne": 1000, "families": {"hss": 3000, "SHS EN10210": 2500, "shs": 2000}}
    for name, rate in (("HSS6X6X1/4 A1085", 3), ("HSS6X6X1/4", 3), ("SHS100X100X5 EN10210", 2.5),
                       ("SHS100X100X5", 2), ("W8X31", 1)):  # fmt: skip
        steel = "S355J2H" if name.startswith("SHS") else "A992" if name[0] == "W" else "A500"
        steel = "A1085" if "A1085" in name else steel
        member = beam(name, steel=steel)
        job = wb.Job(members=[member], prices=prices)
        cost = scores("cost", job, [member], [member.section])[0]
        assert cost == pytest.approx(rate * member.section.mass * member.length)
    for key in ("HHS", "W18", "EN10210"):
        with pytest.raises(wb.InputError, match=f"families: no family '{key}'"):
            wb.Job(members=[beam()], prices={"per_tonne": 1000, "families": {key: 1}})
    with pytest.raises(wb.InputError, match="HSS stands twice"):
        wb.Job(members=[beam()], carbon={"per_kg": 1, "families": {"HSS": 1, "hss": 2}})


OWN = """
welbric = 2
bare_units = { length = "ft" }
[[section]]
name = "PG1"
shape = "welded I"
d = "500 mm"
bf = "200 mm"
tf = "16 mm"
tw = "8 mm"
[[member]]
mark = "B"
section = "W18X50"
steel = "A572 Gr 50"
span = 20
choose = "PG1 or W24X55"
[[member.load]]
case = "live"
line = "1 kip/ft"
"""


def test_a_jobs_own_words_hold_wherever_it_is_asked(tmp_path):
    """Its sections and its units of bare numbers, in changes, in wishes and beside curves."""
    job = wb.parse_job(OWN)
    found = wb.compare(job, "B", ['section = "pg1"; span = 15']).variants[1].result.member
    assert (found.section.name, found.length) == ("PG1", pytest.approx(15 * 304.8))
    for among in (None, "PG1, W24X55", ["PG1", "W24X55"]):
        names = {
            c.section.name for c in wb.size(job, ["B"], among=among, every=True)["B"].candidates
        }
        assert names == {"PG1", "W24X55"}
    path = tmp_path / "job.toml"
    path.write_text(OWN)
    assert CliRunner().invoke(main, ["curve", str(path), "B", "--beside", "PG1"]).exit_code == 0
    with pytest.raises(wb.InputError, match="B: none of its candidates passes"):
        wb.size(job, ["B"], among="W6X9 or W6X12", different=1)
