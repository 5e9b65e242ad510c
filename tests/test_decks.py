"""Decks: area loads spread one way onto the beams of a level."""

from __future__ import annotations

import pytest

import welbric as wb
from test_frames import joint, piece
from welbric.checking.frames import frame_results

PLAIN = {"second_order": "first order", "imperfections": False, "twist": "resisted"}


def hall(beams, decks, **more):
    """Return beams on columns at a level of 3 m: (mark, (x, y), (x, y))."""
    places, joints, members = {}, [], []
    for mark, *ends in beams:
        through = []
        for x, y in ends:
            name = places.setdefault((x, y), f"J{len(places)}")
            through.append(name)
        members.append(piece(mark, *through))
    for (x, y), name in places.items():
        joints += [joint(name, x, y, 3000), joint(f"{name}0", x, y, 0, support="fixed")]
        members.append(piece(f"C{name}", f"{name}0", name, role="column"))
    return wb.Job(standard="EN 1993-1-1", joint=joints, member=members, deck=decks, frame=PLAIN,
                  combinations=["1.0D"], **more)  # fmt: skip


def deck(area="4 kN/m2", spans="along y", **more):
    return {"level": "3 m", "spans": spans, "load": [{"case": "dead", "area": area}]} | more


def lines(job, mark):
    """Return what a beam carries: from, to, N/mm; the whole of it without places."""
    return [(load.start, load.end, load.line[0]) for load in job.member(mark).loads]


EVEN = [("A", (0, 0), (6000, 0)), ("B", (0, 2000), (6000, 2000)), ("C", (0, 5000), (6000, 5000))]


def test_each_beam_carries_half_of_the_way_to_the_next():
    job = hall(EVEN, [deck()])
    found = {mark: lines(job, mark) for mark in "ABC"}
    assert found["A"] == [(None, None, pytest.approx(4.0))]
    assert found["B"] == [(None, None, pytest.approx(10.0))]
    assert found["C"] == [(None, None, pytest.approx(6.0))]
    results = frame_results(job)
    c = [one.name for one in results.combinations].index("1.0D")
    assert results.applied[c, 2] == pytest.approx(-4.0e-3 * 6000 * 5000, rel=1e-9)
    # The other way no beam runs.
    with pytest.raises(wb.InputError, match="no two beams along y"):
        hall(EVEN, [deck(spans="along x")])


def test_a_part_of_a_floor_lies_on_the_beams_that_are_named():
    """A stair fills the bay from A to B; the floor from B to C alone is heavier."""
    job = hall(EVEN, [deck("3 kN/m2", onto=["B", "C"]), deck("1 kN/m2", onto=["C", "A"])])
    found = {mark: [line for *_, line in lines(job, mark)] for mark in "ABC"}
    assert found == {"A": [2.5], "B": [4.5], "C": [4.5, 2.5]}  # between A and C there are 5 m
    for onto, words in ((["B", "D"], "onto: 'D' is no beam along x at its level; there are A"),
                        (["CJ0"], "'CJ0' is no beam along x"),
                        (["B"], "no two beams along x lie at its level")):  # fmt: skip
        with pytest.raises(wb.InputError, match=words):
            hall(EVEN, [deck(onto=onto)])


@pytest.mark.parametrize("turned", [False, True])
def test_beams_that_face_others_on_a_part_alone(turned):
    """B is short: A carries half of the way to B where that is, else to C."""
    short = ((2000, 2000), (5000, 2000))
    beams = [EVEN[0], ("B", *(short[::-1] if turned else short)), EVEN[2]]
    job = hall(beams, [deck()])
    assert lines(job, "A") == [(0.0, 2000.0, pytest.approx(10.0)),
                               (2000.0, 5000.0, pytest.approx(4.0)),
                               (5000.0, 6000.0, pytest.approx(10.0))]  # fmt: skip
    assert lines(job, "B") == [(None, None, pytest.approx(10.0))]
    results = frame_results(job)
    c = [one.name for one in results.combinations].index("1.0D")
    assert results.applied[c, 2] == pytest.approx(-4.0e-3 * 6000 * 5000, rel=1e-9)


def test_a_beam_from_right_to_left_has_its_load_where_it_lies():
    beams = [("A", (6000, 0), (0, 0)), ("B", (1000, 2000), (3000, 2000))]
    assert lines(hall(beams, [deck()]), "A") == [(3000.0, 5000.0, pytest.approx(4.0))]


def test_a_deck_is_what_its_lines_would_be():
    with_deck = hall(EVEN, [deck(), deck("1 kN/m2")])
    by_hand = hall(EVEN, [])
    for mark, w in (("A", 5.0), ("B", 12.5), ("C", 7.5)):
        member = by_hand.member(mark)
        load = wb.MemberLoad(case="dead", line=f"{w} kN/m")
        by_hand = by_hand.with_members({mark: member.model_copy(update={"loads": [load]})})
    a, b = wb.check(with_deck), wb.check(by_hand)
    for one in a:
        other = b[one.member.mark].rows
        assert [row.utilisation for row in one.rows] == pytest.approx(
            [row.utilisation for row in other], rel=1e-9, nan_ok=True
        )


@pytest.mark.parametrize(
    ("decks", "words"),
    [
        ([deck(level="9 m")], "deck 1, level: no two beams along x"),
        ([deck(spans="both ways")], "spans"),
        ([deck(load=[])], "load"),
        ([deck(load=[{"case": "rain", "area": "1 kN/m2"}])], "no load case"),
    ],
)
def test_decks_that_cannot_be(decks, words):
    with pytest.raises(wb.InputError, match=words):
        hall(EVEN, decks)


def test_a_deck_lies_on_a_frame_in_space():
    joints = [joint("A", 0, 0, support="fixed"), joint("B", 4000, 0, support="fixed")]
    with pytest.raises(wb.InputError, match="on a frame in space"):
        wb.Job(joint=joints, member=[piece("M", "A", "B")], deck=[deck()])
    beam = wb.Member(mark="B", section="IPE300", steel="S355", span="5 m")
    with pytest.raises(wb.InputError, match="no frame to carry it"):
        wb.Job(members=[beam], deck=[deck()])
