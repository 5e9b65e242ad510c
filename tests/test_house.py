"""The house: rooms one above another, and no circle of files anywhere."""

from __future__ import annotations

import graphlib
import importlib

import grimp
import pytest

import welbric as wb

ROOMS = ("analysis", "checking", "cli", "documents", "effects", "files", "frames", "inputs",
         "loads", "members", "reports", "sections", "standards", "steels", "studies",
         "working")  # fmt: skip


@pytest.fixture(scope="module")
def house():
    return grimp.build_graph("welbric", cache_dir=None)


def test_no_circle_of_files(house):
    """Imports inside functions and for types alone count too."""
    above = {name: house.find_modules_directly_imported_by(name) for name in house.modules}
    above.pop("welbric")  # hands out names lazily, and is imported for its version alone
    for uses in above.values():
        uses.discard("welbric")
    list(graphlib.TopologicalSorter(above).static_order())


def test_only_rooms_stand_in_the_house(house):
    loose = {name.split(".")[1] for name in house.modules if "." in name}
    assert loose == {*ROOMS, "errors", "units"}
    for room in ROOMS:
        assert (importlib.import_module(f"welbric.{room}").__doc__ or "").strip()


def test_the_way_from_the_command_line_to_the_ground_is_short(house):
    """Counted in rooms, along the longest way."""

    def room(name):
        return ".".join(name.split(".")[:2])

    above = {}
    for name in house.modules - {"welbric"}:
        for used in house.find_modules_directly_imported_by(name) - {"welbric"}:
            if room(name) != room(used):
                above.setdefault(room(name), set()).add(room(used))
    depth = {}
    for one in graphlib.TopologicalSorter(above).static_order():
        depth[one] = 1 + max((depth[below] for below in above.get(one, ())), default=0)
    assert depth["welbric.cli"] <= 12


def test_every_public_name_is_there():
    assert all(getattr(wb, name) is not None for name in wb.__all__)
