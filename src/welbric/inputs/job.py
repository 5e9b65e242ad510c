"""What a designer says of a job: its standards, its own sections, its members."""

from __future__ import annotations

import itertools
from collections.abc import Mapping, Sequence
from typing import Annotated, Any, Literal

from pydantic import (
    Field,
    PrivateAttr,
    ValidationError,
    ValidationInfo,
    create_model,
    field_validator,
    model_validator,
)

from welbric.errors import InputError, Problem, did_you_mean, wrong
from welbric.inputs.book import Book
from welbric.inputs.decks import Deck
from welbric.inputs.defaults import Defaults, with_defaults
from welbric.inputs.deflection_limits import SERVICE_KINDS, DeflectionLimits
from welbric.inputs.descriptions import Described
from welbric.inputs.frame import (
    FrameChoices,
    FrameOf,
    Joint,
    JointLoad,
    chosen_first_order,
    frame_of,
)
from welbric.inputs.generators import GENERATORS, written_out
from welbric.inputs.joint_limits import JointLimit
from welbric.inputs.member import Member, Role
from welbric.inputs.options import ByStandard, StandardName, options_of
from welbric.inputs.rates import Carbon, Prices
from welbric.inputs.stages import unlike_their_members, with_stages
from welbric.loads.combinations import parse_recipe
from welbric.loads.standards import LOADING, Loading
from welbric.sections.table import Section
from welbric.standards import STANDARDS, USUAL, standard
from welbric.standards.options import ASKED, Options
from welbric.standards.standard import Standard
from welbric.units import DISPLAY, KINDS, DisplayUnits, parse


class CatalogueFile(Described):
    """A catalogue of the user's own, and whether its good rows may be used beside bad ones."""

    file: str
    keep_good_rows: bool = False


def read_design(value: Any, info: ValidationInfo) -> Options:
    """Return what a ``[design]`` table says, by the standard that the job names."""
    name = info.data.get("standard")
    if name is None:  # which is refused on its own
        return Options()
    return options_of(standard(name).job_options, value, name)


def read_loading(value: Any, info: ValidationInfo) -> Loading:
    """Return the loading standard that a name or a ``[loading]`` table says."""
    if isinstance(value, Loading):
        return value
    table = {"standard": value} if isinstance(value, str) else value
    if value is None:
        table = {}
    if not isinstance(table, dict):
        raise ValueError('give a name such as "ASCE 7-22", or a table with standard = "ASCE 7-22"')
    design = info.data.get("standard")
    usual = standard(design).loading if design is not None else next(iter(LOADING))
    name = table.get("standard", usual)
    if name not in LOADING:
        raise ValueError(f"{name!r} is not covered; known: {', '.join(LOADING)}")
    found = LOADING[name]
    rest = {key: one for key, one in table.items() if key != "standard"}
    return Loading(found, options_of(found.options, rest, name))


def _in_a_table(data: dict[str, Any]) -> list[Problem]:
    """Return what of a job stands in the table of a standard's choices, but was put outside it."""
    found = []
    tables = (("design", _design_models), ("loading", _loading_models))
    for key in data:
        if key in Job.model_fields or key in {f.alias for f in Job.model_fields.values()}:
            continue
        for table, models in tables:
            if any(key in model.model_fields for model in models().values()):
                found.append(Problem(f"stands in the [{table}] table", key))
    return found


def _sharing(data: dict[str, Any], context: dict[str, Any] | None) -> dict[str, Any]:
    """Return a job whose members have what they take from its defaults."""
    try:
        Defaults.model_validate(data["defaults"], context=context)
    except ValidationError:  # said once, of the defaults themselves
        return data
    found = dict(data)
    for key in ("member", "members"):
        if not isinstance(data.get(key), list):
            continue
        members = []
        for table in data[key]:
            if isinstance(table, dict):
                table, taken = with_defaults(table, data["defaults"])
                if context is not None and taken:
                    context.setdefault("taken", {})[table.get("mark")] = taken
            members.append(table)
        found[key] = members
    return found


def _design_models() -> dict[str, Any]:
    return {name: standard(name).job_options for name in STANDARDS}


def _loading_models() -> dict[str, Any]:
    """Return the options of each loading standard with its name among them."""
    named: dict[str, Any] = {name: (Literal[name], name) for name in LOADING}
    return {
        name: create_model(name, __base__=one.options, standard=named[name])
        for name, one in LOADING.items()
    }


Design = Annotated[
    Options, ByStandard(read_design, "by the standard", _design_models, by_name=False)
]
LoadingChoice = Annotated[
    Loading, ByStandard(read_loading, "by the loading standard", _loading_models, by_name=True)
]


class Job(Described):
    """A job: the standards it is checked to, and its members."""

    welbric: Literal[2] = 2
    name: str = "Untitled job"
    description: str = ""
    book: Book = Book()
    standard: StandardName = USUAL
    companions: list[StandardName] = []
    design: Design = Field(default={}, validate_default=True)
    loading: LoadingChoice = Field(default=None, validate_default=True)
    show: Literal["metric", "US"] | None = None
    utilisations: dict[Role, Annotated[float, Field(gt=0, le=1)]] = {}
    prices: Prices | None = None
    carbon: Carbon | None = None
    combinations: list[str] = []
    bare_units: dict[str, str] = {}
    catalogue: list[str | CatalogueFile] = []
    defaults: Defaults = Defaults()
    sections: list[dict[str, Any]] = Field(default=[], alias="section")
    frame: FrameChoices = FrameChoices()
    joints: list[Joint] = Field(default=[], alias="joint")
    joint_loads: list[JointLoad] = Field(default=[], alias="joint_load")
    joint_limits: list[JointLimit] = Field(default=[], alias="joint_limit")
    decks: list[Deck] = Field(default=[], alias="deck")
    members: list[Member] = Field(default=[], alias="member")
    _own: dict[str, Section] = PrivateAttr(default_factory=dict)
    _taken: dict[str, list[str]] = PrivateAttr(default_factory=dict)

    @model_validator(mode="before")
    @classmethod
    def _own_sections(cls, data: Any, info: ValidationInfo) -> Any:
        """Read the job's own sections first, for its members to name them."""
        if isinstance(data, dict) and (moved := _in_a_table(data)):
            raise InputError(*moved)
        if isinstance(data, dict) and set(GENERATORS) & set(data):
            data = written_out(data, info.context)
        if isinstance(data, dict):
            data = with_stages(data)
        if isinstance(data, dict) and isinstance(data.get("defaults"), dict):
            data = _sharing(data, info.context)
        entries = (data.get("section") or data.get("sections")) if isinstance(data, dict) else None
        if entries and info.context is not None:
            from welbric.inputs.own_catalogues import read_tables

            found = read_tables(entries, info.context.get("bare_units", {}))
            info.context["sections"] = info.context.get("sections", {}) | found
        return data

    @field_validator("combinations")
    @classmethod
    def _readable(cls, value: list[str]) -> list[str]:
        for text in value:
            parse_recipe(text)
        return value

    @field_validator("bare_units", mode="before")
    @classmethod
    def _known_units(cls, value: Any) -> Any:
        return check_bare_units(value)

    @model_validator(mode="after")
    def _distinct_marks(self, info: ValidationInfo) -> Job:
        self._own.update((info.context or {}).get("sections", {}))
        self._taken.update((info.context or {}).get("taken", {}))
        found = [*self._loading_problems(), *self._join(), *unlike_their_members(self.members)]
        for number, member in enumerate(self.members, 1):
            try:
                self.options_of(member, f"member {number} ({member.mark})")
            except InputError as error:
                found += error.problems
        if not self.members:
            found.append(Problem("the job has no members; add a [[member]] table", "member"))
        marks = [member.mark for member in self.members]
        for mark in sorted({mark for mark in marks if marks.count(mark) > 1}):
            places = [str(i) for i, m in enumerate(marks, 1) if m == mark]
            words = f"the mark {mark!r} is used by members {' and '.join(places)}"
            found.append(Problem(words, "member"))
        if found:
            raise InputError(*found)
        return self

    def _join(self) -> list[Problem]:
        """Put the members of a frame where their joints are; return what does not fit."""
        frame, found = frame_of(self)
        if frame is None or found:
            if frame is None and chosen_first_order(standard(self.standard), self.design):
                words = "goes with a frame, of which the first order has the drift"
                found.append(Problem(words, "design", "stability"))
            if frame is None and self.joint_loads:
                found.append(Problem("there is no joint", "joint_load"))
            if frame is None and self.joint_limits:
                found.append(Problem("there is no joint", "joint_limit"))
            if frame is None and self.decks:
                found.append(Problem("there is no frame to carry it", "deck"))
            return found
        for i, member in enumerate(self.members):
            if member.mark in frame.members:
                self.members[i] = frame.members[member.mark]
                self.members[i].part_of(frame)
        return []

    def with_members(
        self, changes: Mapping[str, Member], joint_loads: Sequence[JointLoad] | None = None
    ) -> Job:
        """Return the job with other members in place of some, by their marks; joints as they are.

        Those of a frame go through the same joints as before.
        """
        members = [changes.get(one.mark, one).model_copy() for one in self.members]
        update: dict[str, Any] = {"members": members}
        if joint_loads is not None:
            update["joint_loads"] = list(joint_loads)
        changed = self.model_copy(update=update)
        frame = next((one.frame for one in self.members if one.frame is not None), None)
        if frame is not None:
            joined = {one.mark: one for one in members if one.mark in frame.members}
            other = FrameOf(changed, frame.joints, joined, frame.tips, frame.holds, frame.met)
            for one in joined.values():
                one.part_of(other)
        return changed

    def with_sections(self, sections: Mapping[str, Section]) -> Job:
        """Return the job with other sections of members, by their marks; joints as they are."""
        return self.with_members(
            {
                one.mark: one.model_copy(update={"section": sections[one.mark]})
                for one in self.members
                if one.mark in sections
            }
        )

    def _loading_problems(self) -> list[Problem]:
        """Return what does not go with the loading standard."""
        loading = self.loading.standard
        if self.method not in loading.methods:
            words = f"{loading.id} has no combinations for {self.method}"
            return [Problem(words, "design", "method")]
        cases = {load.case for member in self.members for load in member.loads}
        cases |= {load.case for load in self.joint_loads}
        wrong = loading.misfits(self.loading.options, self.method, cases)
        found = [one.under("loading") for one in wrong]
        limits: list[tuple[DeflectionLimits, tuple[str, ...]]] = [
            (self.frame.drift, ("frame", "drift"))
        ]
        limits += [(of, (f"joint_limit {i}",)) for i, of in enumerate(self.joint_limits, 1)]
        for (of, where), kind in itertools.product(limits, SERVICE_KINDS):
            if getattr(of, kind) and kind not in loading.service_kinds:
                words = f"goes with other loading standards, not with {loading.id}"
                found.append(Problem(words, *where, kind))
        for member in self.members:
            if self.method_of(member) not in loading.methods:
                words = f"{loading.id} has no combinations for {self.method_of(member)}"
                found.append(Problem(words, f"member {member.mark}", "standard"))
            for kind in type(member.deflection).model_fields:
                if getattr(member.deflection, kind) and kind not in loading.service_kinds:
                    with_it = [one.id for one in LOADING.values() if kind in one.service_kinds]
                    words = f"goes with {' or '.join(with_it)}, not with {loading.id}"
                    found.append(Problem(words, f"member {member.mark}", "deflection", kind))
        return found

    def options_of(self, member: Member, who: str = "") -> Options:
        """Return what a member's ``design`` table says, by the job's standard.

        ``who`` is the member in messages, where its mark is not enough.

        Raises
        ------
        InputError
            If that standard has no such choice, or it does not go with the member.
        """
        code, where = self.code_of(member), (who or f"member {member.mark}", "design")
        try:
            found = options_of(code.member_options, member.design, code.id)
        except InputError as error:
            raise error.under(*where) from None
        own = code.as_it_stands(found)
        if own and "design" in self.taken_from_defaults(member.mark):
            raise wrong("holds of one member as it stands: say it there, not in the defaults",
                        *where, own)  # fmt: skip
        if member.forces and code.eigenvalue(found) == ASKED:
            words = "by eigenvalue it needs loads, not forces combined elsewhere"
            raise wrong(words, *where, code.moment_shape_symbol)
        return found

    def code_of(self, member: Member) -> Standard:
        """Return the standard that a member is checked to.

        Its own; else the job's; else, for a shape which that does not have, a companion's.
        """
        if member.standard is not None:
            return standard(member.standard)
        usual, shape = standard(self.standard), member.section.shape
        if shape in usual.shapes:
            return usual
        others = (standard(name) for name in self.companions)
        return next((code for code in others if shape in code.shapes), usual)

    def design_of(self, member: Member) -> Options:
        """Return what is chosen of that standard: as the job says, where the choices are its own.

        A member of another standard goes by that one's usual choices.
        """
        code = self.code_of(member)
        return self.design if isinstance(self.design, code.job_options) else code.job_options()

    def method_of(self, member: Member) -> str:
        """Return the method of a member's standard, as its options say."""
        return self.code_of(member).method(self.design_of(member))

    @property
    def method(self) -> str:
        """The method of the standard, as its options say."""
        return standard(self.standard).method(self.design)

    def other_stages(self, mark: str) -> list[str]:
        """Return the marks under which the same steel stands in other stages."""
        one = self.member(mark)
        whole = one.stage_of or one.mark
        return [m.mark for m in self.members if whole in (m.mark, m.stage_of) and m is not one]

    def taken_from_defaults(self, mark: str) -> list[str]:
        """Return the keys that a member has from the job's defaults."""
        return self._taken.get(mark, [])

    @property
    def own_sections(self) -> dict[str, Section]:
        """The sections of its own tables and catalogues, by their folded names."""
        return dict(self._own)

    @property
    def words(self) -> dict[str, Any]:
        """What is needed to read more of the same: the units of bare numbers, its own sections."""
        return {"bare_units": self.bare_units, "sections": self.own_sections}

    def member(self, mark: str) -> Member:
        """Return a member by its mark.

        Raises
        ------
        InputError
            If there is none; the nearest marks are offered.
        """
        for member in self.members:
            if member.mark == mark:
                return member
        marks = [member.mark for member in self.members]
        by_case = {known.casefold(): known for known in marks}
        if mark.casefold() in by_case:
            return self.member(by_case[mark.casefold()])
        hint = did_you_mean(mark, marks) or f"; the job has {', '.join(marks[:12])}"
        raise InputError(f"no member {mark!r}{hint}")

    @property
    def display(self) -> DisplayUnits:
        """The units to show results in."""
        return DISPLAY[self.show or standard(self.standard).units]


def check_bare_units(value: Any) -> dict[str, str]:
    """Validate the units a job declares for bare numbers: kind of quantity -> unit."""
    if not isinstance(value, dict):
        raise ValueError('give a table such as {length = "ft", force = "kip"}')
    for kind, unit in value.items():
        if kind not in KINDS:
            raise ValueError(
                f"{kind!r} is no kind of quantity{did_you_mean(str(kind), KINDS)}; "
                f"known: {', '.join(KINDS)}"
            )
        parse(f"1 {unit}", kind)
    return value
