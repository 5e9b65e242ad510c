"""Section properties: from dimensions, and from the catalogues."""

from welbric.sections.catalogue import catalogue, section, sections_named
from welbric.sections.table import Section, SectionTable
from welbric.sections.wish import wished

__all__ = ["Section", "SectionTable", "catalogue", "section", "sections_named", "wished"]
