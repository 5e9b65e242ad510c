from __future__ import annotations

import re
import tomllib

import jsonschema
import pytest

import welbric as wb
from welbric.files.jobs import LARGEST_FILE, change_job, demo_text, load_job, schema
from welbric.units import KINDS, parse

HEAD = 'welbric = 2\nname = "test"\n'
BEAM = """
[[member]]
mark = "B1"
section = "W18X50"
span = "20 ft"
  [[member.load]]
  case = "live"
  line = "1 kip/ft"
"""


def job(beam=BEAM, head=HEAD):
    return wb.parse_job(head + beam, "job.toml")


@pytest.mark.parametrize(
    ("was", "now", "words"),
    [
        ('"20 ft"', '"0 ft"', "member 1 (B1), span: a length is greater than zero"),
        ('"20 ft"', '"-20 ft"', "a length is greater than zero"),
        ('"20 ft"', '"20000 ft"', "longer than 1 km; is the unit right?"),
        ('"20 ft"', '"20 kN"', "span: '20 kN' is a force; a length is needed"),
        ('"20 ft"', "20", "span: '20' has no unit"),
        ('"20 ft"', "nan", "has no unit"),
        ('"20 ft"', '"nan ft"', "is not a length"),
        ('"20 ft"', '"1e400 ft"', "not a finite number"),
        ('"20 ft"', '["20 ft"]', "is not a length"),
        ('span = "20 ft"', "", "span: give a span, or the spans"),
        ('span = "20 ft"', 'spam = "20 ft"', "unknown key 'spam'; did you mean span"),
        ('span = "20 ft"', 'span = "20 ft"\nends = ["free", "free"]', "a mechanism"),
        ('span = "20 ft"', 'span = "20 ft"\nends = ["pinned", "free"]', "a mechanism"),
        ('span = "20 ft"', 'span = "20 ft"\nends = ["pined", "fixed"]', "did you mean pinned"),
        ('span = "20 ft"', 'span = "20 ft"\nsteel = "A993"', "no steel 'A993'; did you mean A992"),
        ('span = "20 ft"', 'span = "20 ft"\nsteel = 992', "steel: 992"),
        ('span = "20 ft"', 'span = "20 ft"\nrole = "beem"', "did you mean beam"),
        ('span = "20 ft"', 'span = "20 ft"\ndesign.Cb = 0', "greater than zero"),
        ('span = "20 ft"', 'span = "20 ft"\ndesign.Cb = inf', "design, Cb: inf"),
        ('span = "20 ft"', 'span = "20 ft"\nCb = 1', "Cb: stands in the design table"),
        ('span = "20 ft"', 'span = "20 ft"\ndesign.Cbb = 1', "did you mean Cb? (AISC 360-22)"),
        ('span = "20 ft"', 'span = "20 ft"\ndesign = 1', "design: 1: give a table"),
        ('"W18X50"', '"W18X51"', "no section 'W18X51' in the catalogue; the nearest are W18X50"),
        ('"W18X50"', "1850", "section: 1850"),
        ('"W18X50"', '{shape = "rolled I", d = "9 in"}', "section, bf: is missing"),
        ('"W18X50"', '{shape = "welded J"}', "section, shape: no shape 'welded J'"),
        (
            '"W18X50"',
            '{shape = "rolled I", d = "9 in", bf = "5 in", tw = "1 in", tf = "5 in"}',
            "section: two flanges and their fillets must be less deep than d",
        ),
        ('mark = "B1"', "", "mark: is missing"),
        ('"B1"', '"B\\n1"', "a mark is a short text on one line"),
        ('"B1"', '""', "mark: ''"),
        ('"live"', '"life"', "load 1, case: 'life' is no load case; did you mean live?"),
        ('"1 kip/ft"', '"1 kip"', "load 1, line: '1 kip' is a force; a line load is needed"),
        ('line = "1 kip/ft"', "", "give exactly one of line"),
        ('line = "1 kip/ft"', 'line = "1 kip/ft"\nat = "3 ft"', "'at' does not go with 'line'"),
        ('line = "1 kip/ft"', 'point = "9 kip"', "needs the place it acts at"),
        (
            'line = "1 kip/ft"',
            'point = "9 kip"\nat = "21 ft"',
            "load 1: 6.401 m (21 ft) is off the member",
        ),
        ('line = "1 kip/ft"', 'point = "9 kip"\nat = "-1 ft"', "is off the member"),
        ('line = "1 kip/ft"', 'line = "1 kip/ft"\nstart = "9 ft"\nend = "8 ft"', "is not beyond"),
        ('line = "1 kip/ft"', 'area = "50 psf"', "needs the spacing"),
        (
            'line = "1 kip/ft"',
            'line = "1 kip/ft"\nreversible = true',
            "reversible goes with wind, earthquake and temperature only",
        ),
        (
            'line = "1 kip/ft"',
            'compression = "9 kip"\naxis = "minor"',
            "'axis' does not go with 'compression'",
        ),
        ('line = "1 kip/ft"', 'compression = "-9 kip"', "use the other word, not a minus"),
        (
            'span = "20 ft"',
            'span = "20 ft"\nrestraint = {top = {at = ["25 ft"]}}',
            "off the member",
        ),
        ('span = "20 ft"', 'span = "20 ft"\nrestraint = {top = {every = "0 ft"}}', "than zero"),
        ('span = "20 ft"', 'span = "20 ft"\nrestraint = {top = "continous"}', "mean continuous"),
        ('span = "20 ft"', 'span = "20 ft"\nrestraint = {tip = "loads"}', "did you mean top?"),
        (
            'span = "20 ft"',
            'span = "20 ft"\nconnection = {net_area = "99 in2", shear_lag = 0.8}',
            "not greater than the gross area",
        ),
    ],
)
def test_wrong_members_get_clear_words(was, now, words):
    with pytest.raises(wb.InputError) as error:
        job(BEAM.replace(was, now))
    assert any(words in problem for problem in error.value.problems), error.value.problems
    assert all(problem.startswith("job.toml: member 1") for problem in error.value.problems)


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("", "is empty"),
        (HEAD, "the job has no members"),
        (BEAM, "welbric: the version of the format is missing"),
        (HEAD.replace("2", "7") + BEAM, "found 7, accepted: welbric = 2"),
        (HEAD + BEAM + BEAM, "the mark 'B1' is used by members 1 and 2"),
        (HEAD + 'loadign = "EN 1990"\n' + BEAM, "unknown key 'loadign'; did you mean loading"),
        (HEAD + '[design]\nmethod = "LFRD"\n' + BEAM, "accepted: LRFD, ASD"),
        (HEAD + 'standard = "AISC 360-99"\n' + BEAM, "is not covered; known: AISC 360-22"),
        (
            HEAD + '[design]\nmethod = "ASD"\n[loading]\ncompanion_live = 0.5\n' + BEAM,
            "loading, companion_live: goes with LRFD",
        ),
        (HEAD + 'method = "ASD"\n' + BEAM, "method: stands in the [design] table"),
        (HEAD + "sds = 0.4\n" + BEAM, "sds: stands in the [loading] table"),
        (HEAD + '[design]\nannex = "UK"\n' + BEAM, "design: unknown key 'annex'"),
        (HEAD + '[design]\nannex = "UK"\n' + BEAM, "notional_loads (AISC 360-22)"),
        (HEAD + 'loading = "ASCE 8"\n' + BEAM, "loading: 'ASCE 8' is not covered; known: ASCE"),
        (HEAD.replace("2", "1") + BEAM, "format 1 is no longer read; write welbric = 2"),
        (HEAD + 'combinations = ["1.2Q"]\n' + BEAM, "no load case 'Q'"),
        (HEAD + 'bare_units = {length = "kip"}\n' + BEAM, "bare_units: '1 kip' is a force"),
        ("welbric = 2\nname = [", "is not TOML"),
        (HEAD + "member = 3", "member"),
        ("a = " + "[" * 5000, "is not"),
    ],
)
def test_wrong_jobs_get_clear_words(text, words):
    with pytest.raises(wb.InputError) as error:
        wb.parse_job(text, "job.toml")
    assert words in str(error.value)


def test_every_problem_is_said_at_once():
    wrong = BEAM.replace("W18X50", "W18X5000").replace("20 ft", "20 kN").replace("live", "love")
    with pytest.raises(wb.InputError) as error:
        job(wrong)
    assert len(error.value.problems) == 3


def test_files_that_are_no_job_files(tmp_path):
    binary, big = tmp_path / "b.toml", tmp_path / "big.toml"
    binary.write_bytes(bytes(range(256)))
    big.write_text("# " + "x" * (10 * 1024 * 1024))
    for path, words in [
        (tmp_path, "is a folder"),
        (tmp_path / "none.toml", "there is no such file"),
        (binary, "is not a text file"),
        (big, f"may have up to {LARGEST_FILE / 1e6:.1f} MB"),
    ]:
        with pytest.raises(wb.InputError, match=re.escape(words)):
            load_job(path)


def test_bare_numbers_take_the_jobs_units():
    head = HEAD + 'bare_units = {length = "ft", line_load = "kip/ft"}\n'
    bare = job(BEAM.replace('"20 ft"', "20").replace('"1 kip/ft"', "1"), head)
    assert bare.members[0].length == job().members[0].length
    assert bare.members[0].loads == job().members[0].loads


def test_changes_keep_comments_and_order():
    text = demo_text()
    changed = change_job(text, {"FB2": {"section": "W16X50"}})
    before, after = text.splitlines(), changed.splitlines()
    differing = [(a, b) for a, b in zip(before, after, strict=True) if a != b]
    assert differing == [('section = "W16X45"', 'section = "W16X50"')]
    with pytest.raises(wb.InputError, match="no section"):
        change_job(text, {"FB2": {"section": "W16X5"}})


def test_the_schema_accepts_the_demo_and_refuses_a_misspelling():
    document = schema()
    jsonschema.Draft202012Validator.check_schema(document)
    demo = tomllib.loads(demo_text())
    jsonschema.validate(demo, document)
    demo["member"][0]["spam"] = "1 ft"
    with pytest.raises(jsonschema.ValidationError):
        jsonschema.validate(demo, document)


def in_millimetres(value):
    """Return a job's data with every quantity written again in N and mm."""
    if isinstance(value, dict):
        return {k: in_millimetres(v) for k, v in value.items()}
    if isinstance(value, list):
        return [in_millimetres(v) for v in value]
    units = {"length": "mm", "force": "N", "line_load": "N/mm", "area_load": "MPa",
             "moment": "N*mm", "area": "mm2", "angle": "rad"}  # fmt: skip
    for kind, unit in units.items():
        if isinstance(value, str) and re.match(r"-?[\d.]", value) and kind in KINDS:
            try:
                return f"{parse(value, kind)!r} {unit}"
            except wb.InputError:
                continue
    return value


def test_the_same_job_in_metric_units_gives_the_same_ratios(demo_table):
    data = in_millimetres(tomllib.loads(demo_text()))
    metric = wb.check(wb.Job(**{**data, "show": "metric"}))
    for a, b in zip(demo_table, metric, strict=True):
        assert [r.name for r in a.rows] == [r.name for r in b.rows]
        for first, second in zip(a.rows, b.rows, strict=True):
            assert first.utilisation == pytest.approx(second.utilisation, rel=1e-9)


SHARED = """
welbric = 2
[defaults]
steel = "A992"
deflection = { live = 360 }
restraint = { top = "continuous" }
[[member]]
mark = "B1"
section = "W16X31"
span = "20 ft"
  [[member.load]]
  case = "live"
  line = "1 kip/ft"
[[member]]
mark = "B2"
section = "HSS6X6X1/4"
steel = "A500"
restraint = {}
span = "20 ft"
forces = [{ name = "F", compression = "9 kip" }]
"""


def test_members_share_the_defaults_of_a_job():
    """What a member says itself holds; what it takes is said; a limit of deflection needs loads."""
    whole = wb.parse_job(SHARED)
    one, two = wb.check(whole)
    assert "from the job's defaults: steel, deflection, restraint" in one.notes
    assert [s.continuous for s in one.segments if s.flange == "top"] == [True]
    assert {"deflection-live"} <= {row.id for row in one.rows}
    assert str(two.member.steel) == "A500 Gr C"
    assert not any("defaults" in note for note in two.notes)
    assert {row.id for row in two.rows} == {"buckling-major", "buckling-minor"}
    said = SHARED.partition("[defaults]")[2].partition("[[member]]")[0]
    alone = SHARED.replace(f"[defaults]{said}", "").replace(
        'section = "W16X31"', f'section = "W16X31"{said.rstrip()}'
    )
    (own, _) = wb.check(wb.parse_job(alone))
    assert [row.utilisation for row in own.rows] == [row.utilisation for row in one.rows]


@pytest.mark.parametrize(
    ("was", "now", "words"),
    [
        ('steel = "A992"', 'steel = "A993"', "defaults, steel: no steel 'A993'; did you mean A992"),
        ('steel = "A992"', 'stel = "A992"', "defaults: unknown key 'stel'; did you mean steel"),
    ],
)
def test_wrong_defaults_are_said_once(was, now, words):
    with pytest.raises(wb.InputError, match=words) as error:
        wb.parse_job(SHARED.replace(was, now))
    assert len(error.value.problems) == 1
