"""The grade that is usual for a section, where none is given; never taken in silence."""

from __future__ import annotations

from welbric.sections.catalogues import family_of
from welbric.sections.table import Section
from welbric.steels import Steel, steel

# By how the section's name begins.
BY_FAMILY = {
    **dict.fromkeys(("W", "WT"), "A992"),
    **dict.fromkeys(("M", "S", "C", "MC", "MT", "ST", "L", "2L"), "A36"),
    "HP": "A572 Gr 50",
    "HSS": "A500 Gr C",
    "HSS A1085": "A1085",
    "PIPE": "A53 Gr B",
    **dict.fromkeys(("IPE", "HEA", "HEB", "HEM", "HEAA", "HD", "HL", "UB", "UC", "UBP"), "S355"),
    **dict.fromkeys(("UPN", "PFC", "UPE", "L EN"), "S355"),
    **dict.fromkeys(("SHS", "RHS", "CHS", "SHS EN10210", "RHS EN10210"), "S355H EN 10210"),
    **dict.fromkeys(("SHS EN10219", "RHS EN10219"), "S355H EN 10219"),
}
# Of sections by their dimensions, and of those built of others.
BY_SHAPE = {
    **dict.fromkeys(("rolled I", "plated I", "capped I", "tee"), "A992"),
    **dict.fromkeys(("welded I", "unequal I", "welded box"), "A572 Gr 50"),
    **dict.fromkeys(("rectangular tube", "round tube"), "A500 Gr C"),
}
OTHERWISE = "A36"


def usual_steel(section: Section) -> Steel:
    """Return the grade."""
    family = family_of(section.name)
    return steel(BY_FAMILY.get(family) or BY_SHAPE.get(section.shape, OTHERWISE))
