"""Formulas that record themselves: the idea everything else is built on.

`formulas` has `Formula`, `Glossary` and the branches `either` and `first_of`; `typeset` writes what
was recorded as text, Typst and MathML, from each formula's own syntax tree. Knows nothing of steel.
"""

from welbric.working.formulas import (
    Entry,
    Formula,
    Given,
    Glossary,
    Heading,
    Note,
    Step,
    Symbol,
    Working,
    apply,
    either,
    first_of,
    given,
    heading,
    holds,
    note,
    unrecorded,
)

__all__ = [
    "Entry",
    "Formula",
    "Given",
    "Glossary",
    "Heading",
    "Note",
    "Step",
    "Symbol",
    "Working",
    "apply",
    "either",
    "first_of",
    "given",
    "heading",
    "holds",
    "note",
    "unrecorded",
]
