"""What AISC 360 leaves to be said of a job, and of a member."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from numpy import maximum
from pydantic import model_validator
from pydantic_core import core_schema

from welbric.errors import wrong
from welbric.standards.aisc360.clauses import appendix_7, appendix_8, c2
from welbric.standards.case import MemberCase
from welbric.standards.options import ASKED, NEVER, Options, as_own


class JobOptions(Options):
    """The choices of a job.

    ``separate_planes`` takes the more favourable of H1.1 and H1.3 where H1.3 applies;
    ``effective_lengths`` are the factors of the textbook ends (Appendix 7); ``stability`` says
    whether second-order effects go by the reduced stiffness of direct analysis (C2.3), or a frame
    by the first order with more loads sideways (Appendix 7, 7.3).
    ``tau_b`` of a frame's members is 1, for which 0.001 is added to the notional loads, or goes by
    their compression (C2.3). ``notional_loads`` of a frame stand in every combination, or by the
    ratio of C2.2b(d) in those of gravity alone.
    """

    method: Literal["LRFD", "ASD"] = "LRFD"
    stability: Literal["effective lengths", "direct analysis", "first-order analysis"] = (
        "effective lengths"
    )
    effective_lengths: Literal["recommended", "theoretical"] = "recommended"
    separate_planes: bool = False
    tau_b: Literal["1 with notional loads", "by compression"] = "1 with notional loads"
    notional_loads: Literal["in every combination", "by ratio"] = "in every combination"

    @model_validator(mode="after")
    def _softens(self) -> JobOptions:
        if self.notional_loads == "by ratio" and self.stability == "first-order analysis":
            raise wrong("goes with other ways to stability: its own loads are always there",
                        "notional_loads")  # fmt: skip
        if self.tau_b == "by compression" and self.stability != "direct analysis":
            raise wrong('goes with stability = "direct analysis"', "tau_b")
        return self


def job_options(options: Options) -> JobOptions:
    """Return options as those of this standard."""
    return as_own(options, JobOptions)


def method(options: Options) -> str:
    """Return the method, LRFD or ASD."""
    return job_options(options).method


def is_direct_analysis(options: Options) -> bool:
    """Return whether second-order effects go by the reduced stiffness (C2.3)."""
    return job_options(options).stability == "direct analysis"


def is_first_order_analysis(options: Options) -> bool:
    """Return whether a frame goes by the first order with more loads sideways (7.3)."""
    return job_options(options).stability == "first-order analysis"


def first_order_up_to(options: Options) -> float:
    """Return up to which share of the sway load the first order suffices for a frame.

    A drift that grows by half where it stands for the second (7.3.1(b)); else C2.1 has no limit: a
    trace.
    """
    return 1 - 1 / MOST if is_first_order_analysis(options) else TRACE


def sideways_by_drift(options: Options, drift: Any) -> Any:
    """Return the share of gravity loads that acts sideways with the first order (A-7-2)."""
    return appendix_7.additional_lateral_load(appendix_8.ALPHA[method(options)], drift, 1.0)


def out_of_plumb(options: Options, height: float, columns: int) -> float:
    """Return the share of gravity loads that acts sideways (C2.2b).

    Where with the reduced stiffness tau_b is 1, C2.3(c) asks 0.001 more.
    """
    more = is_direct_analysis(options) and not goes_by_compression(options)
    return IMPERFECT + 0.001 if more else IMPERFECT


def goes_by_compression(options: Options) -> bool:
    """Return whether tau_b of a frame's members goes by their compression (C2.3)."""
    return job_options(options).tau_b == "by compression"


def flexural_share(options: Options, N: Any, squash: Any) -> Any:
    """Return tau_b of members under axial forces, tension positive, at the load level (C2.3).

    None where it is 1. The level holds 1/0.8 that stands for the stiffness.
    """
    if not goes_by_compression(options):
        return None
    return c2.stiffness_share(1.0, maximum(-N, 0.0) * appendix_8.STIFFNESS_SHARE, squash)


# Second-order drift over that of the first order, up to which K is 1 (Appendix 7, 7.2.3(b)), and up
# to which effective lengths may be used at all (7.2.1).
UNIT, MOST = 1.1, 1.5
TRACE = 0.01  # of the sway load


def sway_limits(options: Options) -> tuple[float, float] | None:
    """Return up to which share of the sway load K is 1, and effective lengths hold (Appendix 7).

    Drifts are as one over one less the share (C2.1). Direct analysis has no such limit, and in the
    first-order method K is 1 (7.3.3).
    """
    if is_direct_analysis(options) or is_first_order_analysis(options):
        return None
    return 1 - 1 / UNIT, 1 - 1 / MOST


IMPERFECT = 0.002  # of gravity loads, for a frame out of plumb (C2.2b)
# Second-order drift over that of the first order, up to which notional loads for it may stand in
# combinations of gravity loads alone (C2.2b(d)): with the reduced stiffness, and with the nominal.
REDUCED, NOMINAL = 1.7, 1.5


def pushed_besides(options: Options) -> tuple[float, float] | None:
    """Return up to which share of the sway load a frame that is pushed leans less, and how much.

    C2.2b(d); what stands for tau_b stays (C2.3(c)). None where all combinations lean alike.
    """
    if job_options(options).notional_loads != "by ratio":
        return None
    most = REDUCED if is_direct_analysis(options) else NOMINAL
    return 1 - 1 / most, out_of_plumb(options, 0.0, 1) - IMPERFECT


def load_level(options: Options) -> float:
    """Return what multiplies the loads where a member's second order is analysed (C2.1).

    Less stiffness by 0.8 is more load by 1/0.8, of the first order's moments too.
    """
    level = float(appendix_8.ALPHA[method(options)])
    return level / appendix_8.STIFFNESS_SHARE if is_direct_analysis(options) else level


def effective_length_factor(
    start: str, end: str, options: Options, theoretical: bool = False
) -> float:
    """Return K of the textbook ends, as the options say or the theoretical one."""
    values = "theoretical" if theoretical else job_options(options).effective_lengths
    return appendix_7.effective_length_factor(start, end, values)


def length_factors(options: Options) -> str:
    """Return in a word which factors of the textbook ends are taken."""
    return job_options(options).effective_lengths


def of_case(options: Options) -> dict[str, Any]:
    """Return the choices as the fields of a `MemberCase`."""
    of = job_options(options)
    return {"method": of.method, "options": of}


def of_job(case: MemberCase) -> JobOptions:
    """Return the choices of the job that a case is of; the usual ones where none are given."""
    return JobOptions() if case.options is None else job_options(case.options)


BY_CURVATURE = "reversed curvature"
BY_EIGENVALUE = "eigenvalue"


class MomentShape:
    """Marks Cb: a number, or the rule it is found by."""

    def __get_pydantic_core_schema__(self, source: Any, handler: Any) -> core_schema.CoreSchema:
        def read(value: Any) -> float | str:
            if value in (BY_CURVATURE, BY_EIGENVALUE):
                return str(value)
            number = isinstance(value, int | float) and not isinstance(value, bool)
            if number and 0 < value < 1e300:
                return float(value)
            raise ValueError(
                f"{repr(value)[:60]}: accepted: a number greater than zero, or "
                f"{BY_CURVATURE!r} or {BY_EIGENVALUE!r}"
            )

        return core_schema.no_info_plain_validator_function(read)

    def __get_pydantic_json_schema__(self, core: Any, handler: Any) -> dict[str, Any]:
        rules = [BY_CURVATURE, BY_EIGENVALUE]
        return {"anyOf": [{"type": "number", "exclusiveMinimum": 0}, {"enum": rules}]}


class MemberOptions(Options):
    """The choices of a member.

    ``Cb`` is a number of the designer's own; the commentary's rule (F1) where the other flange is
    continuously restrained; or that of the member's elastic buckling. Otherwise Eq. F1-1.
    """

    Cb: Annotated[float | str, MomentShape()] | None = None


def _Cb(options: Options) -> float | str | None:
    if not isinstance(options, MemberOptions):
        raise TypeError(f"{type(options).__name__} are no options of a member by AISC 360")
    return options.Cb


def of_member(options: Options) -> dict[str, Any]:
    """Return the choices as the fields of a `MemberCase`."""
    Cb = _Cb(options)
    if isinstance(Cb, float):
        return {"moment_shape": Cb}
    return {"member_options": options} if Cb == BY_CURVATURE else {}


def by_curvature(case: MemberCase) -> bool:
    """Return whether Cb goes by the commentary's rule for reversed curvature."""
    return case.member_options is not None and _Cb(case.member_options) == BY_CURVATURE


def eigenvalue(options: Options) -> str:
    """Return whether Cb is that of the member's elastic buckling: where the designer says so."""
    return ASKED if _Cb(options) == BY_EIGENVALUE else NEVER
