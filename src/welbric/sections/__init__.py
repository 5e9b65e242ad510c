"""Section properties: from dimensions, and from the catalogues."""

from welbric.sections.catalogues import catalogue, section, sections_named
from welbric.sections.table import Section, SectionTable

__all__ = ["Section", "SectionTable", "catalogue", "section", "sections_named"]
