"""The kinds of shapes that EN 1993-1-1 knows apart, and what is true of each."""

from __future__ import annotations

DOUBLE_I = ("rolled I", "tapered I", "welded I")  # with two axes of symmetry
UNEQUAL_I = "unequal I"
I_SHAPES = (*DOUBLE_I, UNEQUAL_I)
CHANNELS = ("channel", "tapered channel")
TEES = ("tee", "tapered tee")
ANGLE, PAIR = "angle", "double angle"
TUBE, WELDED_BOX, ROUND = "rectangular tube", "welded box", "round tube"
BOXES = (TUBE, WELDED_BOX)
CLOSED = (*BOXES, ROUND)
FLAT, ROUND_BAR = "flat bar", "round bar"
BARS = (FLAT, ROUND_BAR)
TWO_CHANNELS, TWO_I = "double channel", "double I"
TWO_CHORDS = (TWO_CHANNELS, TWO_I)
SHAPES = (*I_SHAPES, *CHANNELS, *TEES, ANGLE, PAIR, *CLOSED, *BARS, *TWO_CHORDS)

ROLLED = ("rolled I", "tapered I", *CHANNELS, *TEES)
# With two axes of symmetry: those that 6.3.3 is for.
DOUBLY_SYMMETRIC = (*DOUBLE_I, *CLOSED, *BARS)
# Bent about the y axis either fibre may be the nearer one, so that the sense of a moment counts.
BY_SENSE = (UNEQUAL_I, *TEES, PAIR)
# The lower half is like the upper one, the left one like the right.
LIKE_FLANGES = (*DOUBLE_I, *CHANNELS, *BOXES, *TWO_CHORDS)
LIKE_SIDES = (*I_SHAPES, *TEES, PAIR, *BOXES, *TWO_CHORDS)


def twists(shape: str) -> bool:
    """Return whether a shape buckles by twisting in compression: those that are open."""
    return shape not in (*CLOSED, *BARS)


def bends_sideways(shape: str) -> bool:
    """Return whether a shape can buckle laterally: all but round and square ones (6.3.2.1(2))."""
    return shape not in (ROUND, ROUND_BAR, ANGLE, *TWO_CHORDS)
