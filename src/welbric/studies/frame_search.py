"""The search for the least sections of a frame's groups that pass: forces follow stiffness.

A choice stands only once the frame as chosen was checked whole. The candidates of every group are
looked at over arrays with the forces of a choice; where drift is limited, the groups are chosen
together, so that what is least in all lets the frame drift no further.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable, Collection, Iterable, Iterator, Mapping

import numpy as np

from welbric.analysis.diagram import Array
from welbric.checking.check import check, check_members
from welbric.checking.results import MemberResult
from welbric.checking.table import CheckTable
from welbric.checking.verdicts import OK, ROUNDING, badness, sortable
from welbric.frames.shares import STIFF
from welbric.inputs.job import Job
from welbric.members.resolve import resolve
from welbric.studies.frame_drift import Drift, drifts_near
from welbric.studies.frame_proposal import Group, Round
from welbric.studies.screening import looks_under

FREE, ROUNDS = 6, 30  # rounds that follow the forces wherever they lead, and in all
WORK = 1200  # members that are checked beyond the search, to have less and to prove it
TRIED = (8, 60)  # choices that these may be, at least and at most
KEPT = 2  # jobs that are kept with their analysis
LIGHTER = 6  # choices with less of several groups that are tried at last
EXCHANGED, MORE = 4, 3  # choices with less of one group and more of another; by how many sections
WHY = "with less of several groups"
SWAP = "less of one, more of another"
FAILED = 2  # members of a group that fail in a choice, that are looked at from then on
NEARLY = 1.3  # of its limit, up to which a candidate may pass as forces follow the stiffness
TELLING = 4  # members of a group that are looked at under all candidates, beside those that fail
OF = {"EA": "A", "GJ": "J", "EI_major": "I_major", "EI_minor": "I_minor"}
Choice = tuple[int, ...]  # the number of a candidate, for each group


class Search:
    """The search for the least that passes: what is known of each choice is kept."""

    def __init__(
        self,
        job: Job,
        groups: list[Group],
        before: CheckTable,
        watch: Callable[[Round], object],
        different: int | None,
    ) -> None:
        self.job, self.groups, self.watch, self.different = job, groups, watch, different
        self.sized = {mark: group for group in groups for mark in group.marks}
        self.before = {one.member.mark: one for one in before if one.status != OK}
        self.known: dict[Choice, tuple[Job, CheckTable, list[str]]] = {}
        self.jobs: dict[Choice, Job] = {}
        self.worst: dict[Choice, float] = {}  # utilisation of what was analysed
        self.seen: dict[Choice, list[Array]] = {}
        self.failing: dict[Choice, set[str]] = {}  # in the members that tell most
        self.barred: set[tuple[int, int]] = set()  # group and candidate that failed with others
        self.rounds: list[Round] = []
        self.floors = [0] * len(groups)
        self.trials = min(max(WORK // max(len(job.members), 1), TRIED[0]), TRIED[1])
        self.failed: set[str] = set()  # marks that did not pass in some choice
        self.outside: dict[tuple[str, str], set[str]] = {}  # mark and row -> sections
        self.stuck = ""

    def job_of(self, choice: Choice) -> Job:
        """Return the job with a choice, the last of which are kept with their analysis."""
        if choice not in self.jobs:
            if len(self.jobs) >= KEPT:
                self.jobs.pop(next(iter(self.jobs)))
            self.jobs[choice] = self.job.with_sections(
                {m.mark: g.sections[i] for g, i in zip(self.groups, choice, strict=True)
                 for m in g.members}
            )  # fmt: skip
        return self.jobs[choice]

    def few(self, choice: Choice) -> bool:
        """Return whether a choice has no more different sections than there may be."""
        names = {g.sections[i].name for g, i in zip(self.groups, choice, strict=True)}
        return self.different is None or len(names) <= self.different

    def total(self, choice: Choice) -> float:
        """Return what a choice counts in all."""
        return sum(g.scores[i] for g, i in zip(self.groups, choice, strict=True))

    def checked(self, choice: Choice, why: str) -> tuple[Job, CheckTable, list[str]]:
        """Return a choice checked whole, and the marks of what does not pass there."""
        if choice not in self.known:
            job = self.job_of(choice)
            table = check(job)
            failing = [one.member.mark for one in table if not self._passes(one)]
            self.known[choice] = job, table, failing
            self._done(choice, table, not failing, why)
            self._remember(failing, table)
            self._look_for_what_no_section_mends(table, failing)
        return self.known[choice]

    def _done(
        self, choice: Choice, results: Iterable[MemberResult], passes: bool, why: str
    ) -> None:
        """Record an analysis, and tell of it."""
        values = [one.utilisation for one in results if not math.isnan(one.utilisation)]
        sections = [g.sections[i] for g, i in zip(self.groups, choice, strict=True)]
        mass = sum(g.total(s) for g, s in zip(self.groups, sections, strict=True))
        self.rounds.append(
            Round(tuple(s.name for s in sections), mass, max(values, default=0.0), passes, why)
        )
        self.worst[choice] = self.rounds[-1].utilisation
        self.watch(self.rounds[-1])

    def _remember(
        self, failing: list[str], results: Mapping[str, MemberResult] | CheckTable
    ) -> None:
        """Look at the worst that fail of each group under all candidates from now on."""
        for group in self.groups:
            own = sorted((m for m in failing if m in group.marks),
                         key=lambda mark: -sortable(results[mark].utilisation))  # fmt: skip
            self.failed |= set(own[:FAILED])

    def rejects(self, choice: Choice, beside: Choice, why: str) -> bool:
        """Return whether a choice fails in the members that tell most of another, checked alone.

        That one is known; where they pass, the whole has to be checked.
        """
        if choice in self.known or choice in self.failing:
            return choice in self.failing or bool(self.known[choice][2])
        job, table = self.job_of(choice), self.known[beside][1]
        told = [mark for group in self.groups for mark in self._telling(group, table)]
        results = check_members(job, [resolve(job.member(mark)) for mark in told])
        failing = [one.member.mark for one in results if not self._passes(one)]
        if failing:
            self.failing[choice] = set(failing)
            self._remember(failing, {one.member.mark: one for one in results})
            self._done(choice, results, False, why)
        return bool(failing)

    def _look_for_what_no_section_mends(self, table: CheckTable, failing: list[str]) -> None:
        for mark in failing:
            row = table[mark].governing
            if mark not in self.sized or row is None or not row.reason:
                continue
            sections = self.outside.setdefault((mark, row.id), set())
            sections.add(table[mark].member.section.name)
            if len(sections) > 1:
                self.stuck = f"{mark} is outside with any of its sections: {row.name}: {row.reason}"

    def _passes(self, result: MemberResult) -> bool:
        mark = result.member.mark
        if mark not in self.sized:
            if result.status == OK or mark not in self.before:
                return result.status == OK
            # What did not pass before, and is no worse now, is not this choice's.
            return badness(result) <= badness(self.before[mark])
        limit = self.sized[mark].limits[mark]
        return result.status == OK and result.utilisation <= limit + ROUNDING

    def searched(self) -> list[str]:
        """Search from today's sections, and from the least; return what is to be said of it."""
        today = tuple(nearest(group) for group in self.groups)
        least = (0,) * len(self.groups)
        most = tuple(int(np.argmax([s.I_x for s in group.sections])) for group in self.groups)
        ends: dict[str, Choice] = {}
        starts = [(today, "today's sections"), (least, "the least"), (most, "the stiffest")]
        for start, words in starts:
            if self.stuck or (words == "the stiffest" and ends):
                break
            self.floors = [0] * len(self.groups)
            found = self.settle(start)
            if found is not None:
                ends[words] = found
        if not self.found() and not self.stuck:
            self.checked(most, "the stiffest")
        if len(set(ends.values())) < 2:
            return []
        words = " and ".join(
            f"{self.total(choice):.4g} from {name}" for name, choice in ends.items()
        )
        return [f"two searches end apart ({words}): the best of all is taken"]

    def improved(self) -> bool | None:
        """Look for less than what was found; return whether what is found then is proved."""
        if not self.found():
            return None
        best, proved = self.prove(self.polished(self.found()[0]))
        if proved is None:
            self.lightened(self.exchanged(best))
        return proved

    def left(self) -> float:
        """Return what share of the best less would do under its forces, drift as it depends.

        What was tried, and fails, does not count.
        """
        best = self.found()[0]
        return max(0.0, 1.0 - self.total(self.wanted(best, self._barred(best))) / self.total(best))

    def _barred(self, best: Choice) -> set[tuple[int, int]]:
        """Return what of single groups was tried beside a choice, and fails."""
        self.floors = [0] * len(self.groups)
        failing = {*self.failing} | {one for one, (_, _, marks) in self.known.items() if marks}
        barred = set(self.barred)
        for one in failing:
            apart = [(g, i) for g, i in enumerate(one) if i != best[g]]
            barred |= set(apart) if len(apart) == 1 else set()
        return barred

    def exchanged(self, best: Choice) -> Choice:
        """Return a choice with less of one group and more of another, that passes, if one does.

        Such as fails a little with less of the one alone.
        """
        for _ in range(EXCHANGED):
            nearly = [
                one for one, worst in self.worst.items()
                if worst <= NEARLY and one not in self.found() and self._apart(one, best) == 1
                and self.total(one) < self.total(best)
            ]  # fmt: skip
            both = {
                (*one[:h], i, *one[h + 1 :])
                for one in nearly
                for h, group in enumerate(self.groups)
                for i in range(best[h] + 1, min(best[h] + 1 + MORE, len(group.sections)))
                if one[h] == best[h]
            }
            untried = [
                one for one in both
                if self.total(one) < self.total(best) * (1 - 1e-12) and self.few(one)
                and one not in self.known and one not in self.failing
            ]  # fmt: skip
            if not untried:
                return best
            one = max(untried, key=lambda one: (self.total(one), one))
            if not self.rejects(one, best, SWAP) and not self.checked(one, SWAP)[2]:
                best = self.found()[0]
        return best

    @staticmethod
    def _apart(one: Choice, other: Choice) -> int:
        return sum(a != b for a, b in zip(one, other, strict=True))

    def lightened(self, best: Choice) -> Choice:
        """Return a choice with less of several groups at once, as its forces have it, that passes.

        What fails of it is not tried again.
        """
        for _ in range(LIGHTER):
            one = self.wanted(best, self._barred(best))
            if self.total(one) >= self.total(best) * (1 - 1e-12) or not self.few(one):
                return best
            if not self.rejects(one, best, WHY) and not self.checked(one, WHY)[2]:
                best = one
                continue
            failing = self.failing[one] if one in self.failing else set(self.known[one][2])
            apart = {(g, i) for g, i in enumerate(one) if i != best[g]}
            groups = {self.groups.index(self.sized[mark]) for mark in failing if mark in self.sized}
            self.barred |= {pair for pair in apart if pair[0] in groups} or apart
        return best

    def wanted(self, choice: Choice, barred: Collection[tuple[int, int]] = ()) -> Choice:
        """Return what passes under the forces that a choice has.

        Of a group in which nothing does, what comes nearest: under other forces it may. ``barred``
        are candidates of groups, by their numbers, that are not to be taken.
        """
        fits: list[list[bool]] = []
        for g, (worst, floor) in enumerate(zip(self.looked(choice), self.floors, strict=True)):
            passing = [
                U <= 1 and i >= floor and (g, i) not in barred for i, U in enumerate(worst.tolist())
            ]
            if not any(passing):
                nearest = worst.copy()
                nearest[:floor] = math.inf
                passing[int(np.argmin(nearest))] = True
            fits.append(passing)
        job, table, _ = self.checked(choice, "analysed")
        drifts = drifts_near(job, table)
        if not drifts and self.different is None:
            return tuple(one.index(True) for one in fits)
        return self._together(choice, fits, drifts)

    def looked(self, choice: Choice) -> list[Array]:
        """Return how each candidate of each group is used under a choice's forces, over its limit.

        Of the members that tell most; infinite where nothing is known of it.
        """
        if choice not in self.seen:
            job, table, _ = self.checked(choice, "analysed")
            found = []
            for group in self.groups:
                worst = np.zeros(len(group.sections))
                for mark in self._telling(group, table):
                    result = table[mark]
                    if not result.forces.combinations:
                        continue
                    seen = looks_under(job, result.member, result, group.sections)
                    for i, section in enumerate(group.sections):
                        look = seen.get(section.name)
                        U = math.inf if look is None or look.reason else look.utilisation
                        worst[i] = max(worst[i], U / group.limits[mark])
                found.append(worst)
            self.seen[choice] = found
        return self.seen[choice]

    def _telling(self, group: Group, table: CheckTable) -> list[str]:
        """Return the members of a group that are looked at under all its candidates.

        The worst, the worst by each kind of check, and those that failed; the whole is checked
        afterwards anyway.
        """
        order = sorted(group.marks, key=lambda mark: -sortable(table[mark].utilisation))
        kinds: dict[str, str] = {}
        for mark in order:
            row = table[mark].governing
            kinds.setdefault(row.id if row is not None else "", mark)
        told = {*order[:TELLING], *kinds.values(), *(self.failed & set(order))}
        return [mark for mark in order if mark in told]

    def _together(self, choice: Choice, fits: list[list[bool]], drifts: list[Drift]) -> Choice:
        """Return the least that passes, of few sections, that lets the frame drift no further.

        What a group adds to a drift goes with the inverse of its stiffness.
        """
        from scipy.optimize import Bounds, LinearConstraint, milp

        pairs = [(g, i) for g, one in enumerate(fits) for i, good in enumerate(one) if good]
        cost = np.array([self.groups[g].scores[i] for g, i in pairs])
        one_each = np.array([[float(g == k) for g, _ in pairs] for k in range(len(fits))])
        rows, most = [], []
        for drift in drifts:
            fixed, by_group = 0.0, np.zeros((len(self.groups), 4))
            for mark, parts in drift.shares.items():
                if mark in self.sized:
                    by_group[self.groups.index(self.sized[mark])] += parts
                else:
                    fixed += float(parts.sum())
            row = []
            for g, i in pairs:
                now, new = (self.groups[g].sections[k] for k in (choice[g], i))
                ratios = [getattr(now, OF[name]) / max(getattr(new, OF[name]), 1e-9)
                          for name in STIFF]  # fmt: skip
                row.append(float(by_group[g] @ np.array(ratios)))
            rows.append(row)
            most.append(drift.limit - fixed)
        limits = [LinearConstraint(one_each, 1.0, 1.0)]
        if rows:
            limits.append(LinearConstraint(np.array(rows), -np.inf, np.array(most)))
        if self.different is not None:
            # Whether a section is there at all: as soon as one group has it.
            names = list(dict.fromkeys(self.groups[g].sections[i].name for g, i in pairs))
            there = np.zeros((len(pairs), len(names)))
            for row_of, (g, i) in enumerate(pairs):
                there[row_of, names.index(self.groups[g].sections[i].name)] = -1.0
            limits = [LinearConstraint(_padded(one.A, len(names)), one.lb, one.ub)
                      for one in limits]  # fmt: skip
            limits.append(LinearConstraint(np.hstack([np.eye(len(pairs)), there]), -np.inf, 0.0))
            count = np.concatenate([np.zeros(len(pairs)), np.ones(len(names))])
            limits.append(LinearConstraint(count, 0.0, self.different))
            cost = np.concatenate([cost, np.zeros(len(names))])
        answer = milp(cost, constraints=limits, integrality=np.ones(len(cost)),
                      bounds=Bounds(0, 1), options={"time_limit": 20.0})  # fmt: skip
        if answer.x is None:  # stiffer than any: as far as it goes, and said by the check
            stiff = [
                [s.I_x if good else 0.0 for s, good in zip(g.sections, one, strict=True)]
                for g, one in zip(self.groups, fits, strict=True)
            ]
            return tuple(int(np.argmax(one)) for one in stiff)
        taken = {g: i for (g, i), x in zip(pairs, answer.x[: len(pairs)], strict=True) if x > 0.5}
        return tuple(taken[g] for g in range(len(fits)))

    def settle(self, start: Choice) -> Choice | None:
        """Return a choice that passes; None where none is found.

        Some rounds follow the forces wherever they lead. If they do not come to rest, a group may
        only have more from then on, so that they do: on the safe side.
        """
        choice = start
        for number in range(ROUNDS):
            if number >= FREE:
                self.floors = list(map(max, self.floors, choice))
            new = self.wanted(choice)
            if self.stuck:
                break
            if self.different is None and number >= FREE:
                new = tuple(map(max, new, choice))
            if new == choice:
                failing = self.checked(choice, "analysed")[2]
                if not failing and self.few(choice):
                    return choice
                if not self._raise(choice, failing):
                    break
                new = tuple(map(max, choice, self.floors))
            choice = new
        return None

    def found(self) -> list[Choice]:
        """Return the choices that were found to pass, the one with the least first."""
        passing = [
            one for one, (_, _, failing) in self.known.items() if not failing and self.few(one)
        ]
        return sorted(passing, key=lambda one: (self.total(one), one))

    def _raise(self, choice: Choice, failing: list[str]) -> bool:
        """Bar the choice of the groups that fail; return whether there is something beyond."""
        groups = {self.groups.index(self.sized[m]) for m in failing if m in self.sized}
        if not groups:  # only others fail: stiffer all over
            groups = set(range(len(self.groups)))
        moved = False
        for g in groups:
            if choice[g] + 1 < len(self.groups[g].sections):
                self.floors[g], moved = choice[g] + 1, True
        return moved

    def polished(self, choice: Choice) -> Choice:
        """Return a choice from which no single group can have less, as far as it is tried."""
        trials = self.trials
        while trials > 0:
            better = None
            for one in self._less(choice):
                if trials <= 0:
                    break
                trials -= one not in self.known and one not in self.failing
                why = "with less of one group"
                if not self.rejects(one, choice, why) and not self.checked(one, why)[2]:
                    better = one
                    break
            if better is None:
                return choice
            choice = better
        return choice

    def _less(self, choice: Choice) -> Iterator[Choice]:
        """Yield choices with less of one group, the largest gain first, a little at a time.

        Those are left out that under today's forces are far beyond what they may be.
        """
        found = []
        looked = self.looked(choice)
        for g, group in enumerate(self.groups):
            less = [
                i for i in range(choice[g])
                if looked[g][i] <= NEARLY and self.few((*choice[:g], i, *choice[g + 1 :]))
            ]  # fmt: skip
            gains = [(group.scores[choice[g]] - group.scores[i], i) for i in less]
            found += [(gain, g, i) for gain, i in sorted(gains)[:2] if gain > 0]
        for _, g, i in sorted(found, reverse=True):
            yield (*choice[:g], i, *choice[g + 1 :])

    def prove(self, choice: Choice) -> tuple[Choice, bool | None]:
        """Check every assignment with less, where they are few; return the best and whether so."""
        least = self.total(choice)
        count = math.prod(len(group.sections) for group in self.groups)
        if count > 200_000:
            return choice, None
        lighter = sorted(
            (total, one)
            for one in itertools.product(*(range(len(g.sections)) for g in self.groups))
            if (total := self.total(one)) < least * (1 - 1e-12) and self.few(one)
        )
        if len(lighter) > self.trials:
            return choice, None
        for _, one in lighter:
            if (
                not self.rejects(one, choice, "to prove it")
                and not self.checked(one, "to prove it")[2]
            ):
                return one, True
        return choice, True


def _padded(rows: Array, more: int) -> Array:
    """Return rows of a linear problem with as many columns more, which they do not ask for."""
    return np.hstack([rows, np.zeros((len(rows), more))])


def nearest(group: Group) -> int:
    """Return the candidate that a group has today, or the one nearest to it in mass."""
    now = group.members[0].section
    names = [section.name for section in group.sections]
    if now.name in names:
        return names.index(now.name)
    return int(np.argmin([abs(section.mass - now.mass) for section in group.sections]))
