"""The leakage run as the watch of a live run."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

from candor.core.late_dataclass import dataclass
from candor.core.leakage.leakage_run import Calculated, LeakageRun, Plan, RunEnd, Sample
from candor.core.leakage.proof_of_zero import MeterProof
from candor.core.live import Advice, Reading
from candor.core.quantities.show import trimmed
from candor.core.worded import worded

FIRST_LEVEL = 0.5  # of the voltage of a run, at which its meter is seen to follow first
_PROVED_WITHIN_S = 60.0  # or it goes on unproved, and "safe" is not said


@dataclass(frozen=True)
class LeakageSeen:
    """What a leakage run has seen so far.

    Attributes
    ----------
    curve : tuple of Sample
        Thinned.
    calculated : Calculated
    leakage, leakage_scatter : float
        A; the second is U (k = 2) from scatter.
    leakage_volts, dwell_s : float
        What the leakage was read at, V and s.
    outcome : RunEnd
    """

    curve: tuple[Sample, ...]
    calculated: Calculated
    leakage: float
    leakage_scatter: float
    leakage_volts: float
    dwell_s: float
    outcome: RunEnd


class LeakageWatch:
    """Follows a leakage run; see core.live.Watch. Channels: volts at the part and amperes through it.

    Parameters
    ----------
    plan : Plan
    """

    channels = ("volts", "amperes")
    level_name = "source_volts"

    def __init__(self, plan: Plan) -> None:
        self.plan = plan
        self._begin()

    def _begin(self) -> None:
        self._run = LeakageRun(self.plan)
        self._proof = MeterProof(self.plan.series_ohms)
        self._outcome: RunEnd = ""
        # A run straight to its voltage is seen at half of it first; reforming goes up in steps anyway.
        self._proving = not (self.plan.reform and self.plan.steps > 1)
        self._from = 0.0

    @property
    def level(self) -> float:
        """What the source should give now, V."""
        return FIRST_LEVEL * self.plan.target_volts if self._proving else self._run.volts

    @property
    def longest_s(self) -> float:
        """How long the run may take at most, s."""
        return self.plan.most_s + (_PROVED_WITHIN_S if self._proving else 0.0)

    def begin(self, traits: Mapping[str, float]) -> None:
        """Take the tester's own series resistor for the plan's."""
        self.plan = replace(self.plan, series_ohms=traits.get("series_ohms", self.plan.series_ohms))
        self._begin()

    def take(self, reading: Reading) -> Advice:
        """Take a reading and say what comes next."""
        sample = sample_of(reading)
        self._proof.take(self.level, sample.seconds, sample.volts, sample.amperes)
        if self._proving:
            advice = self._prove(sample)
        else:
            found = self._run.take(replace(sample, seconds=sample.seconds - self._from))
            advice = Advice(found.volts, found.stop, found.outcome)
            self._outcome = found.outcome
        if self._proof.wrong and not advice.stop:
            self._outcome = "stopped"
            return Advice(0.0, self._proof.wrong, "stopped")
        return advice

    def _prove(self, sample: Sample) -> Advice:
        """See the volts follow at half the voltage before the whole of it comes on."""
        hot = self._run.too_hot(sample)
        if hot:
            self._outcome = "stopped"
            return Advice(0.0, hot, "stopped")
        if self._proof.agrees_at(self.level) or sample.seconds >= _PROVED_WITHIN_S:
            self._proving, self._from = False, sample.seconds
            self._run.warm.clear()
        return Advice(self.level)

    def seen(self) -> LeakageSeen:
        """Return what the readings say so far. Costs about a millisecond."""
        amperes, scatter = self._run.leakage()
        last = self._run.curve[-1] if self._run.curve else Sample(0.0, 0.0, 0.0)
        return LeakageSeen(
            curve=tuple(self._run.curve), calculated=self._run.calculate(), leakage=amperes, leakage_scatter=scatter,
            leakage_volts=last.volts, dwell_s=max(last.seconds - self._run.still_since, 0.0), outcome=self._outcome,
        )  # fmt: skip

    def is_safe(self, reading: Reading) -> bool:
        """Say whether the part is under the safe voltage, either way round, by a meter that was seen to follow in this run."""
        return self._proof.proved and abs(reading.values["volts"]) <= self.plan.safe_volts

    @property
    def unproved(self) -> str:
        """Why what is read after the source is off is not believed; empty where it is."""
        if self._proof.proved:
            return ""
        return worded("leakage.the_tester_s_volts_were_not")

    def stood(self, reading: Reading | None) -> str:
        """Say what stood on the part."""
        return (
            "Nothing was read"
            if reading is None
            else worded("leakage.v_stood_on_the_part", volts=trimmed(abs(reading.values["volts"]), 3))
        )


def sample_of(reading: Reading) -> Sample:
    """Return a reading of the tester as the run knows them."""
    return Sample(reading.seconds, reading.values["volts"], reading.values["amperes"])
