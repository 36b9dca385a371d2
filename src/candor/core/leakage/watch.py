"""The leakage run as the watch of a live run."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

from candor.core.leakage.run import LeakageRun, Plan, Reckoned, RunEnd, Sample
from candor.core.live import Advice, Reading
from candor.core.quantities.show import trimmed


@dataclass(frozen=True)
class LeakageSeen:
    """What a leakage run has seen so far.

    Attributes
    ----------
    curve : tuple of Sample
        Thinned.
    reckoned : Reckoned
    leakage, leakage_scatter : float
        A; the second is U (k = 2) from scatter.
    leakage_volts, dwell_s : float
        What the leakage was read at, V and s.
    outcome : RunEnd
    """

    curve: tuple[Sample, ...]
    reckoned: Reckoned
    leakage: float
    leakage_scatter: float
    leakage_volts: float
    dwell_s: float
    outcome: RunEnd


class LeakageWatch:
    """Follows a leakage run; see core.live.Watch. Channels: volts at the part and amperes through it."""

    channels = ("volts", "amperes")
    level_name = "source_volts"

    def __init__(self, plan: Plan) -> None:
        self.plan = plan
        self._run = LeakageRun(plan)
        self._outcome: RunEnd = ""

    @property
    def level(self) -> float:
        """What the source should give now, V."""
        return self._run.volts

    @property
    def longest_s(self) -> float:
        """How long the run may take at most, s."""
        return self.plan.most_s

    def begin(self, traits: Mapping[str, float]) -> None:
        """Take the tester's own series resistor for the plan's."""
        self.plan = replace(self.plan, series_ohms=traits.get("series_ohms", self.plan.series_ohms))
        self._run = LeakageRun(self.plan)

    def take(self, reading: Reading) -> Advice:
        """Take a reading and say what comes next."""
        advice = self._run.take(sample_of(reading))
        self._outcome = advice.outcome
        return Advice(advice.volts, advice.stop, advice.outcome)

    def seen(self) -> LeakageSeen:
        """Return what the readings say so far. Costs about a millisecond."""
        amperes, scatter = self._run.leakage()
        last = self._run.curve[-1] if self._run.curve else Sample(0.0, 0.0, 0.0)
        return LeakageSeen(
            curve=tuple(self._run.curve), reckoned=self._run.reckon(), leakage=amperes, leakage_scatter=scatter,
            leakage_volts=last.volts, dwell_s=max(last.seconds - self._run.still_since, 0.0), outcome=self._outcome,
        )  # fmt: skip

    def is_safe(self, reading: Reading) -> bool:
        """Say whether the part is under the safe voltage, either way round."""
        return abs(reading.values["volts"]) <= self.plan.safe_volts

    def stood(self, reading: Reading | None) -> str:
        """Say what stood on the part."""
        return (
            "Nothing was read"
            if reading is None
            else f"{trimmed(abs(reading.values['volts']), 3)} V stood on the part"
        )


def sample_of(reading: Reading) -> Sample:
    """Return a reading of the tester as the run knows them."""
    return Sample(reading.seconds, reading.values["volts"], reading.values["amperes"])
