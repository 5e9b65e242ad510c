"""What the members of a job share, where they do not say otherwise themselves."""

from __future__ import annotations

from typing import Any, Literal

from welbric.inputs.deflection_limits import DeflectionLimits
from welbric.inputs.descriptions import Described
from welbric.inputs.joints import Connection
from welbric.inputs.options import MemberDesign
from welbric.inputs.own_steels import SteelChoice
from welbric.inputs.restraints import Restraint
from welbric.inputs.stages import OWN

OTHER_ENDS = {"pin", "eyebar"}  # which have no connection of this kind
# What does not go with forces combined elsewhere, which say nothing of loads.
OF_LOADS = ("self_weight", "deflection", "deflection_from", "second_order")


class Defaults(Described):
    """The values of keys of a member where it does not have them."""

    steel: SteelChoice | None = None
    self_weight: bool | None = None
    restraint: Restraint | None = None
    deflection: DeflectionLimits | None = None
    deflection_from: Literal["undeformed line", "chord"] | None = None
    second_order: Literal["amplified", "analysed"] | None = None
    design: MemberDesign | None = None
    connection: Connection | None = None


def with_defaults(
    table: dict[str, Any], defaults: dict[str, Any]
) -> tuple[dict[str, Any], list[str]]:
    """Return the table of a member with what it takes from a job's defaults, and those keys."""
    taken = [
        key
        for key in defaults
        if key in Defaults.model_fields
        and key not in table
        and not (table.get("forces") and key in OF_LOADS)
        and not (key == "connection" and OTHER_ENDS & set(table))
        and not (key in OWN and table.get("stage_of"))
    ]
    return table | {key: defaults[key] for key in taken}, taken
