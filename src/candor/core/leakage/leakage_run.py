"""A run on the leakage tester: what voltage comes next, when to stop, what the readings say so far.

No link and no clock here: samples in, advice out. The same plan serves a leakage reading and a reforming run.
"""

from __future__ import annotations

import math
from collections import deque
from itertools import pairwise
from typing import Literal

import numpy as np

from candor.core.errors import RangeError
from candor.core.late_dataclass import dataclass
from candor.core.leakage.capacitor import SAFE_VOLTS, charging_over, discharge_time
from candor.core.leakage.decay import Decay, fit_decay
from candor.core.quantities import engineering
from candor.core.quantities.show import trimmed
from candor.core.worded import worded

RunEnd = Literal["", "came back", "under the limit", "over the limit", "no progress", "stopped"]
_WARM_S = 3.0  # over which heat is counted: 4 W end a run within one second, 1 W within three
MOST_POINTS = 1600  # kept for the curve; older ones are thinned, so memory stays flat
_FULL = (
    0.98  # of the voltage asked for: charged; the rest is the drop in the series resistor and the tester's own error
)


@dataclass(frozen=True)
class Plan:
    """What a run is asked to do. Ceilings and times are common practice, no source; all can be changed.

    Attributes
    ----------
    target_volts : float
    capacitance : float
        F, nominal.
    limit_amperes : float
        The leakage limit at the target.
    series_ohms : float
        Of the tester's source, sense resistor included.
    dwell_s : float
        How long the voltage stands before the reading counts.
    reform : bool
        Raise the voltage in steps, each once the current has fallen far enough.
    steps : int
        How many, in reforming.
    most_s : float
        The longest a run may take.
    heat_watts : float
        In the part; above it the run stops.
    patience_s : float
        How long at one voltage before lack of progress stops the run.
    safe_volts : float
        V d.c., at most 60.
    """

    target_volts: float
    capacitance: float
    limit_amperes: float
    series_ohms: float = 23e3
    dwell_s: float = 300.0
    reform: bool = False
    steps: int = 8
    most_s: float = 7200.0
    heat_watts: float = 1.0
    patience_s: float = 1200.0
    safe_volts: float = SAFE_VOLTS

    def __post_init__(self) -> None:
        for name, value in (
            ("target", self.target_volts),
            ("capacitance", self.capacitance),
            ("limit", self.limit_amperes),
            ("series resistor", self.series_ohms),
            ("dwell", self.dwell_s),
        ):
            if not 0 < value < math.inf:
                raise RangeError(worded("leakage.the_of_a_run_is_expected", name=name, value=value), place=name)
        if not 0 < self.safe_volts <= SAFE_VOLTS:
            raise RangeError(
                worded("leakage.the_safe_voltage_may_be_from", safe_volts=SAFE_VOLTS, self_safe_volts=self.safe_volts)
            )


@dataclass(frozen=True)
class Sample:
    """One reading of the tester: s since the run began, V at the part, A through it."""

    seconds: float
    volts: float
    amperes: float


@dataclass(frozen=True)
class Advice:
    """What to do next.

    Attributes
    ----------
    volts : float
        What the source should give.
    stop : str
        Why the run is over, empty while it is not.
    outcome : RunEnd
    """

    volts: float
    stop: str = ""
    outcome: RunEnd = ""


@dataclass(frozen=True)
class Calculated:
    """What the readings say so far.

    Attributes
    ----------
    charging_until : float
        s of the run at which the charging current has become small against the leakage; infinite while it has not.
    since : float
        s of the run at which the voltage was last raised: the fall counts from there.
    decay : Decay or None
    met_from, met_to : float
        s from now until the limit is met; infinite where it may never be.
    volts, target_volts : float
        What the source gives and what it shall come to; the limit is of the target.
    """

    charging_until: float
    since: float
    decay: Decay | None
    met_from: float
    met_to: float
    volts: float = 0.0
    target_volts: float = 0.0

    def say(self, limit_amperes: float) -> str:
        """Say when the limit is met: ``limit 355 µA met in 6 to 11 min``."""
        if self.volts < self.target_volts:
            return worded("leakage.going_up_of_v", volts=trimmed(self.volts), target_volts=trimmed(self.target_volts))
        limit = f"limit {engineering(limit_amperes, 'A', 3)}"
        if self.decay is None:
            return worded("leakage.too_early_to_say", limit=limit)
        if self.met_to <= 0:
            return f"{limit} met"
        if math.isinf(self.met_from):
            return worded("leakage.not_met_by_all_that_is", limit=limit)
        start, end = (trimmed(x, 2) for x in _outward(self.met_from / 60, self.met_to / 60))
        if math.isinf(self.met_to):
            return worded("leakage.met_in_min_at_the_earliest", limit=limit, start=start)
        return worded(
            "leakage.met_in_min",
            limit=limit,
            start=start if start != end else "about",
            end=f"to {end}" if start != end else end,
        )


class LeakageRun:
    """Follows one run. Keeps a thinned curve of at most MOST_POINTS samples."""

    def __init__(self, plan: Plan) -> None:
        self.plan = plan
        self.curve: list[Sample] = []
        self.volts = plan.target_volts / plan.steps if plan.reform else plan.target_volts
        self._before = 0.0  # what stood on the part before the voltage asked for
        self.since = 0.0  # when the voltage asked for was last changed
        self.still_since = math.inf  # when the part reached it
        self._still: list[Sample] = []  # at this voltage, thinned
        self._means: deque[tuple[float, float, float]] = deque(maxlen=90)  # second, mean A, scatter of the mean
        self._second: list[Sample] = []
        self._judged_at = -math.inf
        self._rising = False
        self._mean = (0.0, math.inf)
        self.warm: deque[Sample] = deque()  # of the last seconds, for the heat

    def take(self, sample: Sample) -> Advice:
        """Take a sample and say what comes next."""
        _keep(self.curve, sample)
        if math.isinf(self.still_since):
            if sample.volts >= _FULL * (self.volts - sample.amperes * self.plan.series_ohms) and self._charged(
                sample
            ):
                self.still_since = sample.seconds
        else:
            _keep(self._still, sample)
            self._average(sample)
        stop = self._stop(sample)
        if stop.stop:
            return stop
        if self.plan.reform and self._ready_to_rise(sample):
            self._rise(sample)
        return Advice(self.volts)

    def calculate(self) -> Calculated:
        """Fit what was read at the voltage in force. Costs about a millisecond."""
        decay, met = None, (math.inf, math.inf)
        if not math.isinf(self.still_since):
            points = np.array([(s.seconds - self.since, s.amperes) for s in self._still], dtype=float).reshape(-1, 2)
            decay = fit_decay(points[:, 0], points[:, 1])
        if decay is not None:
            gone = self.curve[-1].seconds - self.since
            early, late = decay.time_to(self.plan.limit_amperes)
            met = max(early - gone, 0.0), max(late - gone, 0.0)
        return Calculated(
            charging_until=self.still_since, since=self.since, decay=decay, met_from=met[0], met_to=met[1],
            volts=self.volts, target_volts=self.plan.target_volts,
        )  # fmt: skip

    def leakage(self) -> tuple[float, float]:
        """Return the mean current of the last seconds at the voltage in force and its expanded uncertainty (k = 2), A.

        Scatter only; the tester's own uncertainty comes on top.
        """
        if not self._means:
            last = self.curve[-1].amperes if self.curve else 0.0
            return last, abs(last)
        return self._mean

    def _mean_of_means(self) -> tuple[float, float]:
        means = list(self._means)[-10:]
        values = np.array([m[1] for m in means])
        # Of one mean nothing is known of scatter: a tenth of it, more than any meter in use.
        spread = float(values.std(ddof=1)) if len(values) > 1 else abs(float(values[0])) * 0.1
        return float(values.mean()), 2 * spread / math.sqrt(len(values))

    def _charged(self, sample: Sample) -> bool:
        """Charging through the series resistor is told apart: it must be small against what flows."""
        # A twentieth of what flows: less than the 5 % a leakage reading is good to, so that charging no longer decides it.
        # Twenty time constants are the end of waiting: by then the charging current is 2e-9 of its start.
        over = charging_over(
            self.volts - self._before,
            self.plan.series_ohms,
            self.plan.capacitance,
            0.05 * max(abs(sample.amperes), 1e-9),
        )
        return sample.seconds - self.since >= min(over, 20 * self.plan.series_ohms * self.plan.capacitance)

    def _average(self, sample: Sample) -> None:
        self._second.append(sample)
        if sample.seconds - self._second[0].seconds >= 1.0:
            values = np.array([s.amperes for s in self._second])
            scatter = float(values.std(ddof=1)) / math.sqrt(len(values)) if len(values) > 1 else 0.0
            self._means.append((sample.seconds, float(values.mean()), scatter))
            self._second = []
            self._rising, self._mean = self._rises(), self._mean_of_means()

    def _ready_to_rise(self, sample: Sample) -> bool:
        """At one voltage at least 15 s, and the leakage under twice the limit scaled to it."""
        if math.isinf(self.still_since) or self.volts >= self.plan.target_volts:
            return False
        # Twice the limit scaled to the step: it falls further at the next (common practice, no source).
        scaled = 2 * self.plan.limit_amperes * self.volts / self.plan.target_volts
        return sample.seconds - self.still_since >= 15.0 and sample.amperes <= scaled

    def _rise(self, sample: Sample) -> None:
        step = self.plan.target_volts / self.plan.steps
        self._before = self.volts
        self.volts = min(self.volts + step, self.plan.target_volts)
        self.since, self.still_since = sample.seconds, math.inf
        self._still, self._second, self._rising = [], [], False
        self._means.clear()

    def _stop(self, sample: Sample) -> Advice:
        plan, still = self.plan, sample.seconds - self.still_since
        at_target = self.volts >= plan.target_volts
        # Heat first, and from the first second: it is what bursts a can.
        if hot := self.too_hot(sample):
            return Advice(0.0, hot, "stopped")
        if self._rising:
            return Advice(0.0, worded("leakage.the_current_rises_at_constant_voltage"), "stopped")
        amperes, scatter = self.leakage()
        if at_target and still >= plan.dwell_s and amperes + scatter <= plan.limit_amperes:
            return Advice(0.0, worded("leakage.min_at_v_are_over", dwell_s=trimmed(plan.dwell_s / 60), volts=trimmed(self.volts)), (
                "came back" if plan.reform else "under the limit"))  # fmt: skip
        if not plan.reform and still >= plan.dwell_s:
            return Advice(
                0.0,
                worded("leakage.min_at_v_are_over", dwell_s=trimmed(plan.dwell_s / 60), volts=trimmed(self.volts)),
                "over the limit",
            )
        # Each half minute: sooner nothing new is seen.
        if still >= plan.patience_s and sample.seconds - self._judged_at >= 30:
            self._judged_at = sample.seconds
            if self._hopeless():
                return Advice(0.0, worded("leakage.no_progress_by_its_fall_the"), "no progress")
        if sample.seconds >= plan.most_s:
            return Advice(
                0.0,
                worded("leakage.the_longest_time_min_is_over", most_s=trimmed(plan.most_s / 60)),
                "no progress" if plan.reform else "stopped",
            )
        return Advice(self.volts)

    def too_hot(self, sample: Sample) -> str:
        """Say that the part gets too hot, nothing where it does not: by the energy of the last seconds, from the first on.

        What charges it makes no heat in it: C dV/dt is taken off, with three times the capacitance that is marked, as old ones may
        have more than that says. So leakage is never taken for more than it is, charging or charged.
        """
        self.warm.append(sample)
        while len(self.warm) > 2 and sample.seconds - self.warm[1].seconds >= _WARM_S:
            self.warm.popleft()
        joules = 0.0
        for before, after in pairwise(self.warm):
            span = after.seconds - before.seconds
            stored = 3 * self.plan.capacitance * (after.volts**2 - before.volts**2) / 2
            joules += max(
                (before.volts * before.amperes + after.volts * after.amperes) / 2 * span - max(stored, 0.0), 0.0
            )
        watts = joules / max(sample.seconds - self.warm[0].seconds, _WARM_S)
        if watts <= self.plan.heat_watts:
            return ""
        return worded(
            "leakage.of_heat_in_it_the_limit",
            watts=engineering(watts, "W", 2),
            heat_watts=trimmed(self.plan.heat_watts),
        )

    def _rises(self) -> bool:
        """Whether the mean of the last 15 s is surely above the 15 s before, by over 5 % (and 50 nA)."""
        # Half a minute: shorter, the noise of an old part looks like a rise; longer, a part that runs away gets hot first.
        if len(self._means) < 30:
            return False
        recent = np.array(self._means, dtype=float)[-30:, 1]
        before, after = recent[:15], recent[15:]
        noise = math.hypot(float(before.std(ddof=1)), float(after.std(ddof=1))) / math.sqrt(15)
        rise = float(after.mean() - before.mean())
        # Five sigma, as it is asked each second for hours; under 50 nA a rise says nothing against limits of microamperes.
        return rise > max(5 * noise, 0.05 * abs(float(before.mean())), 50e-9)

    def _hopeless(self) -> bool:
        scaled = self.plan.limit_amperes * (
            1.0 if self.volts >= self.plan.target_volts else 2 * self.volts / self.plan.target_volts
        )
        points = np.array([(s.seconds - self.since, s.amperes) for s in self._still], dtype=float)
        decay = fit_decay(points[:, 0], points[:, 1])
        if decay is None:
            return False
        left = self.plan.most_s - self.curve[-1].seconds
        return decay.time_to(scaled)[0] - float(points[-1, 0]) > left


def _outward(low: float, high: float) -> tuple[float, float]:
    """Round a range to two digits so that it holds at least what it held."""

    def places(x: float) -> float:
        return 10.0 ** (1 - math.floor(math.log10(x))) if x > 0 else 1.0

    down = math.floor(low * places(low)) / places(low)
    return down, high if math.isinf(high) else math.ceil(high * places(high) - 1e-9) / places(high)


def say_discharge(plan: Plan, volts: float, ohms: float) -> str:
    """Say how long to wait from `volts` (V) through `ohms`, and that only measuring says safe.

    Raises
    ------
    RangeError
        Where the resistance is not above zero.
    """
    left = discharge_time(ohms, plan.capacitance, volts, plan.safe_volts)
    if left <= 0:
        return worded("leakage.v_measured_under_v", volts=trimmed(volts, 3), safe_volts=trimmed(plan.safe_volts))
    return worded(
        "leakage.v_about_s_to_v_do",
        volts=trimmed(volts, 3),
        left=trimmed(left, 2),
        safe_volts=trimmed(plan.safe_volts),
    )


def _keep(points: list[Sample], sample: Sample) -> None:
    points.append(sample)
    if len(points) > MOST_POINTS:
        half = len(points) // 2
        points[:half] = points[:half:2]
