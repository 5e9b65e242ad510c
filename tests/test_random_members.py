"""Any member that is accepted gets a verdict, a working that ends in it, and every output."""

from __future__ import annotations

import json
import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

import welbric as wb
from welbric.checking.check import segment_rows
from welbric.reports.documents import check_document, segment_records

SPAN = 24.0
CASES = ["dead", "live", "roof live", "snow", "wind", "earthquake"]
sizes = st.sampled_from([-1.0, 0.0, 1e-9, 0.3, 1.0, 2.5, 40.0, 1e9])
places = st.sampled_from([0.0, 0.25, 0.5, 1.0]).map(lambda share: f"{share * SPAN} ft")


def load(kind, unit, **more):
    fixed = {key: st.just(value) for key, value in more.items()}
    value = sizes.map(lambda size: f"{size} {unit}")
    return st.fixed_dictionaries({"case": st.sampled_from(CASES), kind: value, **fixed})


loads = st.lists(
    st.one_of(
        load("line", "kip/ft"),
        load("line", "kip/ft", axis="minor"),
        load("area", "psf", spacing="8 ft"),
        st.builds(lambda found, at: {**found, "at": at}, load("point", "kip"), places),
        st.builds(lambda found, at: {**found, "at": at}, load("moment", "kip ft"), places),
        st.builds(
            lambda case, kind, size, both: {
                "case": case,
                kind: f"{abs(size) * 50} kip",
                **({"reversible": both} if case in ("wind", "earthquake") else {}),
            },
            st.sampled_from(CASES),
            st.sampled_from(["compression", "tension"]),
            sizes,
            st.booleans(),
        ),
    ),
    max_size=4,
)
holds = st.sampled_from(
    ["continuous", "supports", "loads", {"every": "7 ft"}, {"at": ["3 ft", "24 ft"]}]
)
members = st.fixed_dictionaries(
    {
        "mark": st.just("M"),
        "section": st.sampled_from(["W4X13", "W12X14", "W21X48", "W40X149", "HEB300", "IPE80"]),
        "steel": st.sampled_from(["A36", "A992", "A913 Gr 65"]),
        "role": st.sampled_from(["beam", "column", "hanger", "cantilever"]),
        "span": st.just(f"{SPAN} ft"),
        "self_weight": st.booleans(),
        "loads": loads,
        "restraint": st.fixed_dictionaries({}, optional={"top": holds, "bottom": holds}),
        "deflection": st.sampled_from([{}, {"live": 360, "total": 240, "wind": 180}]),
    },
    optional={
        "ends": st.sampled_from(
            [("fixed", "free"), ("free", "fixed"), ("guided", "pinned"), ("fixed", "pinned")]
        ),
        "connection": st.just({"net_area": "1.1 in2", "shear_lag": 0.9}),
        "buckling": st.just({"minor_length": "8 ft", "minor_K": 2.4, "torsional_length": "24 ft"}),
    },
)


@given(st.lists(members, min_size=2, max_size=7))
@settings(max_examples=25)
def test_members_together_are_as_members_alone(described):
    """Padded and stacked with others, a member's rows are those it has alone."""
    found = [wb.Member(**one | {"mark": f"M{i}"}) for i, one in enumerate(described)]
    for result, member in zip(wb.check(wb.Job(members=found)), found, strict=True):
        (alone,) = wb.check(wb.Job(members=[member]))
        assert result.notes == alone.notes
        for row, own in zip(result.rows, alone.rows, strict=True):
            for name in ("id", "name", "clause", "status", "combination", "reason"):
                assert getattr(row, name) == getattr(own, name)
            for name in ("utilisation", "demand", "capacity", "place"):
                here, there = getattr(row, name), getattr(own, name)
                assert (here is None) == (there is None)
                if there is not None:
                    assert here == pytest.approx(there, rel=1e-11, abs=1e-11, nan_ok=True)


@given(members, st.sampled_from(["LRFD", "ASD"]), st.booleans(), st.sampled_from(["US", "metric"]))
@settings(max_examples=80)
def test_every_member_gets_its_verdict(member, method, separate_planes, show):
    found = wb.Member(**member)
    design = {"method": method, "separate_planes": separate_planes}
    job = wb.Job(members=[found], design=design, show=show)
    table = wb.check(job)
    result = table["M"]
    assert result.status in {"ok", "over", "outside"}
    if result.status == "ok":
        assert result.utilisation <= 1 + 1e-9
        assert all(not math.isnan(row.utilisation) for row in result.rows)
    explanation = table.explain("M")
    for part in explanation.parts:
        if part.row.status != "outside":
            last = float(part.entries[-1].result)
            assert last == part.row.utilisation or abs(last / part.row.utilisation - 1) < 1e-9
    assert str(table)
    assert str(explanation)
    assert explanation.html()
    segments = segment_rows(job, wb.resolve(found))
    json.dumps([check_document(table), segment_records(segments, job.display)], allow_nan=False)
