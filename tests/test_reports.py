from __future__ import annotations

import subprocess
import sys
from pathlib import Path
from xml.etree import ElementTree

import pytest
import typst

import welbric as wb
from welbric.documents.blocks import Column, Table
from welbric.documents.records import as_csv
from welbric.documents.terminal import as_text
from welbric.files.jobs import save_text
from welbric.reports.diagrams import panels_of
from welbric.reports.figures import draw

NASTY = '=HYPERLINK("x") <script>alert(1)</script> $x$ #eval("1") \\ *b*'[:40]


@pytest.fixture(scope="module")
def nasty():
    member = wb.Member(mark=NASTY, section="W18X50", span="20 ft", forces=[
        {"name": "<b>=1+1</b> #panic()", "compression": "10 kip"},
    ])  # fmt: skip
    return wb.check(wb.Job(name="<i>job</i>", members=[member]))


def test_text_of_users_is_escaped(nasty):
    for text in (nasty._repr_html_(), nasty.explain(NASTY)._repr_html_()):
        assert "<script>" not in text
        assert "<b>=1" not in text
    rows = as_csv(nasty.to_frame().to_dict("records"))
    assert "\n=HYPERLINK" not in rows
    assert "'=HYPERLINK" in rows
    assert typst.compile(nasty.explain(NASTY).typst().encode(), format="pdf").startswith(b"%PDF")
    assert "<script>" in str(nasty)
    assert draw(nasty, NASTY) is not None


def test_workings_of_every_demo_member_are_well_formed(demo_table):
    for result in demo_table:
        explanation = demo_table.explain(result.member.mark)
        markup = explanation.html().replace("&ensp;", " ")
        ElementTree.fromstring(f"<div>{markup}</div>")
        assert typst.compile(explanation.typst().encode(), format="pdf").startswith(b"%PDF")
        assert str(explanation).isprintable() is False  # it has lines
        assert "nan" not in str(explanation)


def test_frame(demo_table):
    frame = demo_table.to_frame()
    assert set(frame["mark"]) == {m.mark for m in demo_table.job.members}
    worst = frame[frame["governs"]].set_index("mark")["utilisation"]
    assert worst["EB1"] == pytest.approx(demo_table["EB1"].utilisation)
    assert len(worst) == len(demo_table)


def test_labels_of_a_figure_do_not_overlap(demo_table):
    for mark in ("FB2", "C1", "RB1", "EB1", "WB1", "C2"):
        figure = draw(demo_table, mark)
        figure.canvas.draw()
        for ax in figure.axes[1:]:
            boxes = [t.get_window_extent() for t in ax.texts if t.get_text()]
            for i, first in enumerate(boxes):
                assert not any(first.overlaps(other) for other in boxes[i + 1 :]), (mark, ax)


def test_a_file_is_written_whole_or_not_at_all(tmp_path, monkeypatch):
    path = tmp_path / "out.txt"
    save_text(path, "before")

    def fail(*_):
        raise OSError(28, "No space left on device")

    monkeypatch.setattr("os.replace", fail)
    with pytest.raises(wb.InputError, match="No space left"):
        save_text(path, "after")
    assert path.read_text() == "before"
    assert list(tmp_path.iterdir()) == [path]


@pytest.mark.parametrize("example", sorted(Path("examples").glob("*.py")), ids=lambda p: p.stem)
def test_examples_run(example, tmp_path):
    found = subprocess.run(
        [sys.executable, example.resolve()],
        cwd=tmp_path,
        capture_output=True,
        text=True,
        check=True,
    )
    assert found.stdout


def test_start_up_is_lazy():
    """Checking a job loads neither figures nor frames, nor the parser that keeps comments."""
    code = (
        "import sys, welbric as wb; from welbric.files.jobs import demo_text;"
        "str(wb.check(wb.parse_job(demo_text())));"
        "heavy = {'matplotlib', 'pandas', 'tomlkit', 'scipy.sparse', 'typst'};"
        "print(*sorted(heavy & set(sys.modules)))"
    )
    found = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)
    assert found.stdout.strip() == ""


@pytest.mark.parametrize("spans", range(1, 7))
def test_no_label_covers_another(spans):
    from matplotlib.text import Text

    member = wb.Member(
        mark="S6", section="W12X26", spans=[f"{4 + i % 3} m" for i in range(spans)],
        second_order="analysed", restraint={"top": {"every": "1.5 m"}},
        load=[
            {"case": "dead", "line": "4 kN/m"},
            {"case": "live", "point": "20 kN", "at": [f"{2 + 4 * i} m" for i in range(spans)]},
            {"case": "wind", "line": "-3 kN/m", "start": "1 m", "end": "3 m"},
            {"case": "live", "torque": "1 kN m", "at": "2 m"},
            {"case": "dead", "settlement": "2 mm", "at": "4 m"},
            {"case": "dead", "compression": "50 kN"},
            {"case": "dead", "temperature_difference": "5 K"},
        ],
        deflection={"total": 240},
    )  # fmt: skip
    figure = draw(wb.check(wb.Job(members=[member], show="metric")), "S6")
    renderer = figure.canvas.get_renderer()
    figure.canvas.draw()
    for ax in figure.axes:
        texts = [t for t in ax.findobj(Text) if t.get_visible() and t.get_text().strip()]
        boxes = [t.get_window_extent(renderer).padded(-1) for t in texts]
        for i, box in enumerate(boxes):
            covered = [texts[j].get_text() for j in range(i) if box.overlaps(boxes[j])]
            assert not covered, (texts[i].get_text(), covered)


def test_one_combination_or_one_case_is_drawn(demo_table):
    """Of FB2 the live load alone, by its reactions; and a combination that does not govern."""
    result = demo_table["FB2"]
    job = demo_table.job
    live = {panel["title"]: panel for panel in panels_of(job, result, "Live")}
    start = next(r for r in result.support_forces() if (r.support, r.of) == ("start", "L"))
    assert live["shear"]["name"] == "live alone"
    assert live["shear"]["values"].shape[0] == 1
    assert live["shear"]["values"][0, 0] == pytest.approx(start.up)
    assert live["deflection"]["name"] == "live alone"
    names = [one.name for one in result.forces.combinations]
    other = {panel["title"]: panel for panel in panels_of(job, result, "1.4D")}
    assert other["moment"]["name"] == "1.4D"
    assert other["moment"]["governing"] == names.index("1.4D")
    assert panels_of(job, result)[0]["name"] == result.governing.combination
    with pytest.raises(wb.InputError, match="FB2: no combination and no load case 'life'; did you"):
        panels_of(job, result, "life")


@pytest.mark.parametrize("width", [30, 40, 60, 80, 200])
def test_a_narrow_terminal_cuts_no_number(width):
    """Each stands on one line as it is, and what columns are left out is said."""
    heads = [Column("mark"), *(Column(f"size {n}", right=True, wraps=n > 4) for n in range(8))]
    cells = ("B1", *(f"{1234.5678 / (n + 1):.4f}" for n in range(8)))
    said = as_text([Table(heads, [cells] * 2)], width)
    body, _, left_out = said.split("─" * 3)[-1].strip("─\n").partition("left out at this width:")
    shown = len(cells) - len(list(filter(None, left_out.split(","))))
    assert body.split() == list(cells[:shown]) * 2
    assert shown == len(cells) or width < 95
    assert max(map(len, said.splitlines())) <= width
