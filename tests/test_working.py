from __future__ import annotations

import importlib
import pkgutil
from itertools import pairwise
from xml.etree import ElementTree

import numpy as np
import pytest
import typst
from hypothesis import given
from hypothesis import strategies as st
from numpy import sqrt

import welbric as wb
from welbric.standards import aisc360, en1993
from welbric.standards.aisc360.clauses import e3, f2_f3
from welbric.standards.aisc360.symbols import GLOSSARY as AISC
from welbric.standards.en1993.symbols import GLOSSARY as EN
from welbric.units import KINDS, METRIC, US
from welbric.working import Glossary, Step, Symbol, Working, either, first_of, note
from welbric.working.typeset import (
    MATHML,
    TEXT,
    TYPST,
    expression,
    write,
    write_condition,
    write_step,
)

G = Glossary(
    "test",
    {
        "F": Symbol("force", "a force"),
        "A": Symbol("area", "an area"),
        "sigma_x": Symbol("stress", "a stress"),
        "L": Symbol("length", "a length"),
        "x": Symbol("number", "a number"),
        "y": Symbol("number", "a number"),
    },
)


@G.formula("1-1", "sigma_x")
def stress(F, A):
    """Stress."""
    return F / A


@G.formula("1-2", "y")
def awkward(x):
    """Everything at once."""
    return -x * (2 - (x - 1)) / (3 / x) ** 2 - sqrt(x + 1) ** 0.5


@G.formula("1-3", "y")
def negative(x):
    """Zero less x."""
    return 0 - x


@G.formula("1-4", "y")
def root(x):
    """Root."""
    return sqrt(x)


@G.condition("1(a)")
def positive(x):
    """Positive."""
    return x >= 0


@G.condition("1(b)")
def between(x, y):
    """Between."""
    return (x > 0) & (x < y)


def test_arrays_record_nothing_and_numbers_do():
    with Working() as working:
        single = stress(1000.0, 50.0)
    assert single == 20.0
    (step,) = working.steps()
    assert step.arguments == {"F": 1000.0, "A": 50.0}
    assert np.all(stress(np.array([1.0, 2.0]), 2.0) == [0.5, 1.0])
    stress(1.0, 1.0)
    assert len(working.entries) == 1


def test_a_repeated_step_is_written_once():
    with Working() as working:
        stress(1000.0, 50.0)
        stress(1000.0, 50.0)
        stress(A=50.0, F=2000.0)
        note("n")
    assert [type(e).__name__ for e in working.entries] == ["Step", "Step", "Note"]


def test_either_runs_one_branch_on_numbers_and_both_on_arrays():
    with Working() as working:
        assert either(positive, root, negative, x=4.0) == 2.0
    assert [s.formula.clause for s in working.entries] == ["1(a)", "1-4"]
    with np.errstate(invalid="ignore"):
        found = either(positive, root, negative, x=np.array([4.0, -4.0]))
    assert found.tolist() == [2.0, 4.0]


@given(st.lists(st.floats(-50, 50), min_size=1, max_size=8))
def test_first_of_is_the_same_on_arrays_and_numbers(values):
    def choose(x):
        return first_of((between, root), (positive, negative), otherwise=stress_like, x=x, y=10.0)

    def stress_like(x):
        return x * 3

    with np.errstate(invalid="ignore"):
        assert choose(np.array(values)).tolist() == [choose(v) for v in values]


def test_nan_takes_no_condition_for_true():
    assert np.isnan(either(positive, root, negative, x=float("nan")))


def test_undeclared_symbols_are_refused_where_they_are_written():
    with pytest.raises(LookupError, match="zeta"):
        G.formula("1-9", "y")(lambda zeta: zeta)


def test_a_formula_is_one_expression():
    @G.formula("1-8", "y")
    def two(x):
        """Two."""
        z = x
        return z

    with pytest.raises(TypeError, match="one return expression"):
        expression(two)


def test_text_in_both_sets_of_units():
    step = Step(stress, {"F": 4448.2216152605 * 30, "A": 645.16 * 2}, 15 * 6.894757293168361)
    assert write_step(step, TEXT, US).equals == ("F/A", "30 kip/2 in²", "15 ksi")
    assert write_step(step, TEXT, METRIC).equals == ("F/A", "133.4 kN/1,290 mm²", "103.4 MPa")
    assert write_step(step, TEXT, US).symbol == "σx"


@given(st.floats(0.5, 20))
def test_brackets_keep_the_meaning(x):
    """The printed text, read back as arithmetic, gives the formula's own value."""
    text = write(expression(awkward), TEXT, TEXT.symbol).text
    python = text.replace("·", "*").replace("−", "-").replace("²", "**2").replace("^", "**")
    python = python.replace("√", "sqrt")
    assert eval(python, {"x": x, "sqrt": sqrt}) == pytest.approx(awkward(x), rel=1e-12)


def test_conditions_say_why():
    step = Step(f2_f3.held_closely, {"Lb": 3048.0, "Lp": 1776.984}, False)
    assert write_condition(step, TEXT, US) == "Lb = 10 ft > Lp = 5.83 ft"
    step = Step(e3.buckles_inelastically, {"Fy": 345.0, "Fe": 150.0}, False)
    assert write_condition(step, TEXT, METRIC) == "Fy/Fe = 2.3 > 2.25"
    step = Step(between, {"x": 5.0, "y": 3.0}, False)
    assert write_condition(step, TEXT, US) == "x = 5 ≤ 0 or x = 5 ≥ y = 3"


def every_formula():
    found = []
    for package, glossary in ((aisc360, AISC), (en1993, EN)):
        for module in pkgutil.walk_packages(package.__path__, f"{package.__name__}."):
            importlib.import_module(module.name)
        found += glossary.formulas
    return found


IN_MPA = {"epsilon"}  # what the standard itself writes in numbers of MPa


def some_numbers(formula):
    return {name: 0.15 + 0.07 * i for i, name in enumerate(formula.parameters)}


@pytest.mark.parametrize("formula", every_formula(), ids=lambda f: f"{f.clause} {f.fn.__name__}")
def test_every_formula_can_be_written(formula):
    values = some_numbers(formula)
    step = Step(formula, values, formula.fn(**values))
    if formula.symbol is None:
        assert write_condition(step, TEXT, US)
        ElementTree.fromstring(f"<m>{write_condition(step, MATHML, US)}</m>")
        return
    line = write_step(step, MATHML, METRIC)
    for text in (line.symbol, *line.equals):
        ElementTree.fromstring(f"<m>{text}</m>")
    assert formula.title
    assert formula.clause


@pytest.mark.parametrize("formula", every_formula(), ids=lambda f: f"{f.clause} {f.fn.__name__}")
def test_every_equation_is_the_same_in_other_units(formula):
    """Lengths twice as large, or forces three times: the result is as many times its kind's."""
    if formula.symbol in IN_MPA:
        return
    symbols = formula.glossary.symbols
    kinds = {name: KINDS[symbols[name].kind] for name in formula.parameters}
    for offset in (0.15, 0.9, 1.7):
        values = {name: offset + 0.13 * i for i, name in enumerate(formula.parameters)}
        for length, force in ((2.0, 1.0), (1.0, 3.0)):
            scaled = {
                name: value * length ** kinds[name].length * force ** kinds[name].force
                for name, value in values.items()
            }
            kind = KINDS[symbols[formula.symbol].kind if formula.symbol else "number"]
            with np.errstate(all="ignore"):
                expected = formula.fn(**values) * length**kind.length * force**kind.force
                found = formula.fn(**scaled)
            assert found == pytest.approx(expected, rel=1e-9, nan_ok=True)


def test_typst_compiles_every_formula():
    lines = []
    for formula in every_formula():
        values = some_numbers(formula)
        step = Step(formula, values, formula.fn(**values))
        if formula.symbol is None:
            lines.append(f"${write_condition(step, TYPST, US)}$")
        else:
            line = write_step(step, TYPST, US)
            lines.append(f"$ {line.symbol} = {' = '.join(line.equals)} $")
    assert typst.compile("\n\n".join(lines).encode(), format="pdf").startswith(b"%PDF")


@pytest.mark.parametrize("method", ["LRFD", "ASD"])
@pytest.mark.parametrize("separate_planes", [False, True])
def test_working_equals_table_for_every_check_of_every_demo_member(
    demo_job, method, separate_planes
):
    changes = {"method": method, "separate_planes": separate_planes}
    design = demo_job.design.model_copy(update=changes)
    table = wb.check(demo_job.model_copy(update={"design": design}))
    checked = 0
    for result in table:
        explanation = table.explain(result.member.mark)
        assert {p.row for p in explanation.parts} == set(result.rows)
        for part in explanation.parts:
            last = part.entries[-1]
            assert isinstance(last, Step)
            assert last.formula.symbol == "U"
            assert float(last.result) == pytest.approx(part.row.utilisation, rel=1e-12)
            checked += 1
    assert checked > 50


def test_steps_written_before_are_pointed_to(demo_table):
    text = str(demo_table.explain("WB1"))
    assert "Strength in bending about the minor axis: as above (F6)" in text
    lines = text.splitlines()
    for line, following in pairwise(lines):
        if line.startswith("   Strength in") and "as above" not in line:
            assert following.strip(), line


def test_explain_by_name_clause_and_beginning(demo_table):
    for wanted in ("lateral-torsional buckling", "F2.2", "lateral"):
        parts = demo_table.explain("FB2", wanted).parts
        assert [p.row.name for p in parts] == ["lateral-torsional buckling"]
    with pytest.raises(wb.InputError, match="did you mean lateral-torsional buckling"):
        demo_table.explain("FB2", "lateral torsion bucking")
    with pytest.raises(wb.InputError, match="no member 'FB9'; did you mean FB2"):
        demo_table.explain("FB9")
