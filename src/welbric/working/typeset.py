"""Print a working: terminal text, Typst math and MathML, from each formula's own source.

The return expression of a formula is read from its syntax tree once and written by a `Dialect`,
first with the symbols and then with the numbers in the reader's units.
"""

from __future__ import annotations

import ast
import functools
import html
import inspect
import math
import textwrap
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from welbric.units import KINDS, DisplayUnits
from welbric.working.formulas import Formula, Given, Glossary, Step

GREEK = {
    "alpha": "α", "beta": "β", "gamma": "γ", "delta": "δ", "epsilon": "ε", "eta": "η",
    "kappa": "κ", "lambda": "λ", "mu": "μ", "nu": "ν", "rho": "ρ", "sigma": "σ", "tau": "τ",
    "phi": "φ", "chi": "χ", "psi": "ψ", "pi": "π", "theta": "θ", "Delta": "Δ", "Omega": "Ω",
    "Sigma": "Σ", "Phi": "Φ",
}  # fmt: skip
NEGATED = {"<": "≥", "≤": ">", ">": "≤", "≥": "<", "=": "≠", "≠": "="}
COMPARISONS = {
    ast.Lt: "<", ast.LtE: "≤", ast.Gt: ">", ast.GtE: "≥", ast.Eq: "=", ast.NotEq: "≠",
}  # fmt: skip
FUNCTIONS = {
    "minimum": "min",
    "maximum": "max",
    "least_root_of_cubic": "least root",
    "sin": "sin",
    "arccos": "arccos",
}

COMPARE, ADD, MULTIPLY, UNIT, ATOM = range(5)


@dataclass(frozen=True)
class Piece:
    """A written part of an expression and how tightly it holds together."""

    text: str
    level: int = ATOM


def symbol_parts(name: str) -> tuple[str, str]:
    """Split a name into letter and subscript: ``Fy`` -> F, y; ``lambda_pf`` -> λ, pf."""
    head, _, tail = name.partition("_")
    below = ",".join(GREEK.get(part, part) for part in tail.split("_"))
    if head in GREEK:
        return GREEK[head], below
    return head[0], head[1:] + ("," if tail and head[1:] else "") + below


class Dialect:
    """How to write an expression; the base class writes terminal text."""

    times = "·"
    equals = " = "

    def symbol(self, name: str) -> Piece:
        """Write a symbol."""
        return Piece("".join(symbol_parts(name)))

    def constant(self, value: float) -> Piece:
        """Write a number that stands in the formula."""
        return Piece(repr(value).removesuffix(".0"))

    def value(self, value: float, kind: str, units: DisplayUnits) -> Piece:
        """Write a number in display units."""
        text = units.show(value, kind)
        return Piece(text, ADD if value < 0 else UNIT if " " in text else ATOM)

    def words(self, text: str) -> str:
        """Write plain words."""
        return text

    def held(self, piece: Piece, level: int) -> str:
        """Return a part's text, in brackets where it does not hold together tightly enough."""
        return piece.text if piece.level >= level else self.brackets(piece.text)

    def brackets(self, text: str) -> str:
        """Put brackets around a text."""
        return f"({text})"

    def operator(self, sign: str) -> str:
        """Write + − or a comparison between two parts."""
        return f" {sign} "

    def multiply(self, a: Piece, b: Piece) -> Piece:
        """Write a product."""
        return Piece(self.held(a, MULTIPLY) + self.times + self.held(b, MULTIPLY), MULTIPLY)

    def divide(self, a: Piece, b: Piece) -> Piece:
        """Write a quotient."""
        return Piece(self.held(a, MULTIPLY) + "/" + self.held(b, UNIT), MULTIPLY)

    def power(self, base: Piece, exponent: Piece) -> Piece:
        """Write a power."""
        raised = {"2": "²", "3": "³", "4": "⁴"}.get(exponent.text)
        return Piece(self.held(base, ATOM) + (raised or "^" + self.held(exponent, ATOM)))

    def inline(self) -> Dialect:
        """Return the dialect to write an exponent in, without a fraction bar where it is small."""
        return self

    def root(self, radicand: Piece) -> Piece:
        """Write a square root."""
        return Piece("√" + self.held(radicand, ATOM))

    def call(self, name: str, arguments: list[Piece]) -> Piece:
        """Write min, max and the like."""
        return Piece(name + self.brackets(", ".join(a.text for a in arguments)))

    def magnitude(self, inner: Piece) -> Piece:
        """Write an absolute value."""
        return Piece(f"|{inner.text}|")


class Typst(Dialect):
    """Write Typst math (the text between two dollar signs)."""

    times = " dot "

    def symbol(self, name: str) -> Piece:
        base, subscript = symbol_parts(name)
        return Piece(f'{base}_"{subscript}"' if subscript else f"{base}")

    def value(self, value: float, kind: str, units: DisplayUnits) -> Piece:
        piece = super().value(value, kind, units)
        number, _, unit = piece.text.partition(" ")
        quoted = f'"{number}"' if "," in number or "^" in number else number.replace("−", "-")
        return Piece(f'{quoted} thin "{unit}"' if unit else quoted, piece.level)

    def words(self, text: str) -> str:
        return '"' + text.replace("\\", "\\\\").replace('"', '\\"') + '"'

    def operator(self, sign: str) -> str:
        return f" {sign} ".replace("−", "-")

    def divide(self, a: Piece, b: Piece) -> Piece:
        return Piece(f"frac({a.text}, {b.text})", UNIT)

    def power(self, base: Piece, exponent: Piece) -> Piece:
        return Piece(f"{self.held(base, ATOM)}^({exponent.text})", UNIT)

    def root(self, radicand: Piece) -> Piece:
        return Piece(f"sqrt({radicand.text})")

    def call(self, name: str, arguments: list[Piece]) -> Piece:
        name = f'op("{name}")' if " " in name else name
        return Piece(name + self.brackets(", ".join(a.text for a in arguments)))

    def magnitude(self, inner: Piece) -> Piece:
        return Piece(f"abs({inner.text})")


class MathML(Dialect):
    """Write presentation MathML (what stands inside ``<math>``)."""

    times = "<mo>·</mo>"

    def symbol(self, name: str) -> Piece:
        base, subscript = symbol_parts(name)
        letter = f"<mi>{base}</mi>"
        if not subscript:
            return Piece(letter)
        return Piece(f"<msub>{letter}<mtext>{html.escape(subscript)}</mtext></msub>")

    def constant(self, value: float) -> Piece:
        return Piece(f"<mn>{super().constant(value).text}</mn>")

    def value(self, value: float, kind: str, units: DisplayUnits) -> Piece:
        piece = super().value(value, kind, units)
        number, _, unit = piece.text.partition(" ")
        written = f"<mn>{number}</mn>"
        if unit:
            written += f'<mspace width="0.17em"/><mtext>{html.escape(unit)}</mtext>'
        return Piece(f"<mrow>{written}</mrow>", piece.level)

    def words(self, text: str) -> str:
        return f"<mtext>{html.escape(text)}</mtext>"

    def brackets(self, text: str) -> str:
        return f"<mrow><mo>(</mo>{text}<mo>)</mo></mrow>"

    def operator(self, sign: str) -> str:
        return f"<mo>{html.escape(sign)}</mo>"

    def divide(self, a: Piece, b: Piece) -> Piece:
        return Piece(f"<mfrac><mrow>{a.text}</mrow><mrow>{b.text}</mrow></mfrac>", UNIT)

    def inline(self) -> Dialect:
        return _INLINE_MATHML

    def power(self, base: Piece, exponent: Piece) -> Piece:
        return Piece(
            f"<msup><mrow>{self.held(base, ATOM)}</mrow><mrow>{exponent.text}</mrow></msup>", UNIT
        )

    def root(self, radicand: Piece) -> Piece:
        return Piece(f"<msqrt>{radicand.text}</msqrt>")

    def call(self, name: str, arguments: list[Piece]) -> Piece:
        listed = "<mo>,</mo>".join(a.text for a in arguments)
        return Piece(f"<mrow><mi>{name}</mi>{self.brackets(listed)}</mrow>")

    def magnitude(self, inner: Piece) -> Piece:
        return Piece(f"<mrow><mo>|</mo>{inner.text}<mo>|</mo></mrow>")


class InlineMathML(MathML):
    """MathML with a solidus in place of the fraction bar, for exponents."""

    def divide(self, a: Piece, b: Piece) -> Piece:
        bottom = self.held(b, UNIT)
        return Piece(f"{self.held(a, MULTIPLY)}<mo>/</mo>{bottom}", MULTIPLY)


TEXT, TYPST, MATHML = Dialect(), Typst(), MathML()
_INLINE_MATHML = InlineMathML()
Leaf = Callable[[str], Piece]


@functools.cache
def expression(formula: Formula) -> ast.expr:
    """Return the return expression of a formula as a syntax tree."""
    tree = ast.parse(textwrap.dedent(inspect.getsource(formula.fn)))
    (function,) = (node for node in tree.body if isinstance(node, ast.FunctionDef))
    last = function.body[-1]
    if not isinstance(last, ast.Return) or last.value is None or len(function.body) > 2:
        raise TypeError(f"{formula.fn.__name__} is more than one return expression")
    return last.value


def write(node: ast.expr, dialect: Dialect, leaf: Leaf) -> Piece:
    """Write an expression, its symbols as `leaf` says."""

    def part(inner: ast.expr) -> Piece:
        return write(inner, dialect, leaf)

    match node:
        case ast.Constant(value=int() | float() as value):
            return dialect.constant(value)
        case ast.Name(id="pi"):
            return dialect.symbol("pi")
        case ast.Name(id="inf"):
            return Piece(dialect.words("∞"))
        case ast.Name(id=name):
            return leaf(name)
        case ast.UnaryOp(op=ast.USub(), operand=operand):
            sign = dialect.operator("−").strip()
            return Piece(sign + dialect.held(part(operand), MULTIPLY), ADD)
        case ast.BinOp(op=ast.Mult(), left=left, right=right):
            return dialect.multiply(part(left), part(right))
        case ast.BinOp(op=ast.Div(), left=left, right=right):
            return dialect.divide(part(left), part(right))
        case ast.BinOp(op=ast.Pow(), left=left, right=right):
            return dialect.power(part(left), write(right, dialect.inline(), leaf))
        case ast.BinOp(op=ast.Add() | ast.Sub() as op, left=left, right=right):
            sign = "+" if isinstance(op, ast.Add) else "−"
            second = dialect.held(part(right), ADD if sign == "+" else MULTIPLY)
            return Piece(dialect.held(part(left), ADD) + dialect.operator(sign) + second, ADD)
        case ast.Call(func=ast.Name(id="sqrt"), args=[radicand]):
            return dialect.root(part(radicand))
        case ast.Call(func=ast.Name(id="absolute"), args=[inner]):
            return dialect.magnitude(part(inner))
        case ast.Call(func=ast.Name(id=name), args=arguments) if name in FUNCTIONS:
            return dialect.call(FUNCTIONS[name], [part(a) for a in arguments])
    raise TypeError(f"no way to write {ast.unparse(node)}")


def values_leaf(
    dialect: Dialect, glossary: Glossary, arguments: Mapping[str, Any], units: DisplayUnits
) -> Leaf:
    """Return a leaf that writes each symbol's value."""

    def leaf(name: str) -> Piece:
        return dialect.value(float(arguments[name]), glossary.symbols[name].kind, units)

    return leaf


@dataclass(frozen=True)
class Line:
    """One step, written: the result's symbol, then what it equals, one after the other."""

    symbol: str
    equals: tuple[str, ...]
    clause: str
    title: str


@functools.cache
def _in_symbols(formula: Formula, dialect: Dialect) -> str:
    return write(expression(formula), dialect, dialect.symbol).text


def write_step(step: Step, dialect: Dialect, units: DisplayUnits) -> Line:
    """Write a formula, the same with the numbers in it, and the result."""
    formula = step.formula
    assert formula.symbol is not None
    node = expression(formula)
    kinds = formula.glossary.symbols
    with_symbols = _in_symbols(formula, dialect)
    leaf = values_leaf(dialect, formula.glossary, step.arguments, units)
    with_numbers = write(node, dialect, leaf).text
    result = dialect.value(float(step.result), kinds[formula.symbol].kind, units).text
    parts = [with_symbols, with_numbers, result]
    shown = tuple(p for i, p in enumerate(parts) if i == 0 or p != parts[i - 1])
    return Line(dialect.symbol(formula.symbol).text, shown, formula.clause, formula.title)


def write_condition(step: Step, dialect: Dialect, units: DisplayUnits) -> str:
    """Write why a branch was or was not taken, such as ``Lb = 10 ft > Lp = 5.83 ft``."""
    formula = step.formula
    leaf = values_leaf(dialect, formula.glossary, step.arguments, units)
    names = {**formula.fn.__globals__, **step.arguments}

    def side(node: ast.expr) -> str:
        symbols = write(node, dialect, dialect.symbol).text
        if isinstance(node, ast.Constant):
            return symbols
        if isinstance(node, ast.Name):
            return symbols + dialect.operator("=") + leaf(node.id).text
        number = eval(compile(ast.Expression(node), "<formula>", "eval"), names)  # noqa: S307
        if not any(isinstance(n, ast.Name) and n.id in step.arguments for n in ast.walk(node)):
            return symbols
        kind = _kind_of(node, formula)
        shown = dialect.value(float(number), kind, units)
        return symbols + dialect.operator("=") + shown.text

    def whole(node: ast.expr, holds: bool) -> str:
        match node:
            case ast.Compare(left=left, ops=[op], comparators=[right]):
                sign = COMPARISONS[type(op)]
                sign = sign if holds else NEGATED[sign]
                return side(left) + dialect.operator(sign) + side(right)
            case ast.BinOp(op=ast.BitAnd() | ast.BitOr() as op, left=left, right=right):
                both = isinstance(op, ast.BitAnd) == holds
                word = dialect.words(" and " if both else " or ")
                return whole(left, holds) + word + whole(right, holds)
        raise TypeError(f"no way to write {ast.unparse(node)}")

    return whole(expression(formula), bool(step.result))


def _kind_of(node: ast.expr, formula: Formula) -> str:
    """Return the kind of quantity that a side of a comparison is.

    The dimensions are found by asking how the side scales when the units of length and force do.
    """
    symbols = formula.glossary.symbols
    code = compile(ast.Expression(node), "<formula>", "eval")
    sizes = []
    for length, force in ((1.0, 1.0), (2.0, 1.0), (1.0, 2.0)):
        names = dict(formula.fn.__globals__)
        for position, parameter in enumerate(formula.parameters):
            kind = KINDS[symbols[parameter].kind]
            names[parameter] = (1.7 + 0.31 * position) * length**kind.length * force**kind.force
        sizes.append(float(eval(code, names)))  # noqa: S307
    exponents = [round(math.log2(abs(size / sizes[0]))) for size in sizes[1:]]
    fitting = (name for name, k in KINDS.items() if [k.length, k.force] == exponents and not k.mass)
    return "number" if exponents == [0, 0] else next(fitting, "number")


def given_math(entry: Given, dialect: Dialect, show: DisplayUnits, before: str, after: str) -> str:
    """Write a value that a working starts from as an equation between two marks."""
    kind = entry.glossary.symbols[entry.symbol].kind
    value = dialect.value(entry.value, kind, show).text
    return before + dialect.symbol(entry.symbol).text + dialect.operator("=") + value + after
