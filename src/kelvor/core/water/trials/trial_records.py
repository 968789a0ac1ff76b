"""Tests with their runs, gathered from records."""

from __future__ import annotations

from collections.abc import Iterable

from kelvor.core.base.values import frozen
from kelvor.core.register.kinds.water import Trial, TrialRun
from kelvor.core.register.record import Record
from kelvor.core.water.trials.planning import run_order
from kelvor.core.water.trials.results import TrialResult, answer


@frozen
class Test:
    """A test with its runs, in the order they were sailed; struck ones too."""

    record: Record
    value: Trial
    runs: tuple[Record, ...]

    @property
    def counted(self) -> list[TrialRun]:
        """Runs that are not struck."""
        return [r.value for r in self.runs if not r.value.struck]

    @property
    def simulated(self) -> bool:
        """Whether any of its runs was said by a stand-in."""
        return any(r.origin == "simulated" for r in self.runs if not r.value.struck)

    @property
    def done(self) -> bool:
        """Whether every run of the plan is sailed."""
        return len(self.counted) >= len(run_order(self.value.order))

    @property
    def answer(self) -> TrialResult:
        """What it says."""
        return answer(self.value, [r.value for r in self.runs])


def trials_with_runs(tests: Iterable[Record], runs: Iterable[Record]) -> tuple[Test, ...]:
    """Every test with its runs, the newest first."""
    of: dict[str, list[Record]] = {}
    for record in runs:
        of.setdefault(record.value.trial, []).append(record)
    found = []
    for record in tests:
        own = sorted(of.get(record.uid, []), key=lambda r: (r.value.number, r.first_at))
        found.append(Test(record, record.value, tuple(own)))
    return tuple(sorted(found, key=lambda test: test.record.first_at, reverse=True))
