"""What a frame does as sheets of numbers: forces along members, reactions, movements."""

from __future__ import annotations

from collections.abc import Sequence

from welbric.checking.frame_forces import WAYS, Record, force_records, place_records
from welbric.checking.frames import FrameResults
from welbric.documents.workbook import Sheet
from welbric.units import DisplayUnits

KINDS = {
    "x": "length", "N": "force", "V_major": "force", "V_minor": "force", "M_major": "moment",
    "M_minor": "moment", "T": "moment",
}  # fmt: skip
TURNS = ("about_x", "about_y", "about_z")


def frame_sheets(found: FrameResults, show: DisplayUnits) -> list[Sheet]:
    """Return the sheets of a frame: forces, reactions, movements; units in the heads."""
    reactions = dict.fromkeys(WAYS[:3], "force") | dict.fromkeys(TURNS, "moment")
    moved = dict.fromkeys(WAYS[:3], "dimension")
    return [
        Sheet("forces", _shown(force_records(found.frame, found.combinations), KINDS, show)),
        Sheet("reactions", _shown(place_records(found.supports, "support", found.reactions,
                                  found.combinations),
                                  reactions, show)),
        Sheet("movements", _shown(place_records(found.joints, "joint", found.moved,
                                  found.combinations),
                                  moved, show, "rad")),
    ]  # fmt: skip


def _shown(
    records: Sequence[Record], kinds: dict[str, str], show: DisplayUnits, turns: str = ""
) -> list[Record]:
    """Return records in display units, which stand in their heads."""
    heads = {name: f"{name} ({show.labels[kind]})" for name, kind in kinds.items()}
    if turns:
        heads |= {name: f"{name} ({turns})" for name in TURNS}
    return [
        {
            heads.get(name, name): show.convert(value, kinds[name]) if name in kinds else value
            for name, value in record.items()
        }
        for record in records
    ]
