"""What is said with 95 per cent, held against data that no model of ours makes: claim, generator, said, held, width."""

from __future__ import annotations

import datetime as dt
import math
import sys
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from pathlib import Path

import numpy as np

sys.path.insert(0, str(Path(__file__).parents[1] / "tests"))

from candor.core.drift.forecast import forecast
from candor.core.drift.history import DAYS, Calibration, segments_of
from candor.core.drift.prior import KNOWN, Prior
from candor.core.leakage.decay import fit_decay
from candor.core.reading.face_photo import straighten
from candor.core.reading.fitted import fit_arc
from candor.core.reading.repeated import captured, is_still, reference_repeats, window_of
from candor.core.stability.settle import settling
from candor.core.tubes.matching import Measured, match, tubes_of
from candor.core.uncertainty.budget import Budget, Contribution, rectangular
from candor.core.uncertainty.coverage import cover
from candor.core.verdict.rules import Outcome, Rule, decide
from candor.core.verdict.would_settle import settle, with_kind_cut
from candor.core.waves.analysis import analyse
from candor.core.waves.floors import AnalyserReading, compare_floors
from candor.core.waves.modulation import phase_between
from candor.core.waves.spectrum import distortion, spectrum_of
from candor.core.waves.waveform import Waveform
from faces import SIZE, face
from generators import ARCS, both, coarse, creep, falls, noise, one, pulse, rc_pulse, under_from

TIMES = 200
DAY = dt.date(2018, 1, 1)


@dataclass(frozen=True)
class Row:
    """A claim under one generator: how often it was said, how often it held, and how wide it was, in words."""

    claim: str
    generator: str
    said: int
    of: int
    held: float
    width: str


def rows() -> Iterator[Row]:
    """Every claim under every generator."""
    for make in (
        _settling,
        _captured,
        _fans,
        _distortion,
        _phase,
        _remedies,
        _tubes,
        _reforming,
        _pulses,
        _arcs,
        _photos,
        _floors,
    ):
        yield from make(np.random.default_rng(1))


def _reforming(chance: np.random.Generator) -> Iterator[Row]:
    for name, course in falls().items():
        for kind, scatter in (("white", 0.03), ("heavy", 0.03), ("white", 0.003)):
            said, held, wide = 0, 0, []
            for _ in range(TIMES // 2):
                seen = chance.uniform(300, 1800)
                seconds = np.arange(2.0, seen, 2.0)
                found = fit_decay(seconds, 1e-4 * course(seconds) * (1 + noise(kind, scatter, len(seconds), chance)))
                if found is None:
                    continue
                met = seen * chance.uniform(1.15, 3.5)
                low, high = found.time_to(1e-4 * float(course(np.array([met]))[0]))
                said, held = said + 1, held + (low <= met <= high)
                wide.append(high / low)
            ends = [w for w in wide if math.isfinite(w)]
            width = f"latest {np.median(ends):.1f} of earliest, said in {len(ends)}" if ends else "nothing said"
            yield Row(
                "limit met between",
                f"{name}, {kind} {100 * scatter:g} %",
                said,
                TIMES // 2,
                held / max(said, 1),
                width,
            )


def _pulses(chance: np.random.Generator) -> Iterator[Row]:
    made = {
        "straight edge of 0.75 %": (lambda: pulse(4000, 400.0, 0.0075, chance), 0.8 * 0.0075 * 400e-6),
        "straight edge of 2 %": (lambda: pulse(4000, 400.0, 0.02, chance), 0.8 * 0.02 * 400e-6),
        "straight edge of 20 %": (lambda: pulse(4000, 400.0, 0.2, chance), 0.8 * 0.2 * 400e-6),
        "one pole of 10 %": (lambda: rc_pulse(4000, 400.0, 0.1, chance), math.log(9) * 40e-6),
    }
    for name, (make, rise) in made.items():
        true = {"rise": rise, "amplitude": 1.0, "period": 400e-6}
        true |= {"overshoot": 0.0, "tilt": 0.0} if "straight" in name else {}
        for kind, size in (("white", 0.01), ("coloured", 0.01), ("coarse", 0.001)):
            found = []
            for _ in range(TIMES // 4):
                values = make() + noise("white" if kind == "coarse" else kind, size, 4000, chance)
                found.append(
                    analyse(Waveform("a", "V", coarse(values, 1 / 200) if kind == "coarse" else values, 1e-6))
                )
            for figure, at in true.items():
                said = [f for one in found if (f := one.figure(figure)) is not None]
                held = sum(abs(f.value - at) <= 2 * f.u + 1e-12 for f in said)
                width = (
                    f"U {100 * np.median([2 * f.u for f in said]) / (at or 1.0):.2g} %" if said else "nothing said"
                )
                yield Row(
                    f"{figure} of a pulse", f"{name}, {kind}", len(said), TIMES // 4, held / max(len(said), 1), width
                )


def _settling(chance: np.random.Generator) -> Iterator[Row]:
    records = {
        "one process, 3 tau": (one(1.0, 600), 1800, 0.02, 0.01, "white"),
        "one process, coloured": (one(1.0, 600), 1800, 0.02, 0.01, "coloured"),
        "one process, heavy tails": (one(1.0, 600), 1800, 0.02, 0.01, "heavy"),
        "one process, 9 tau": (one(1.0, 600), 5400, 0.02, 0.01, "white"),
        "two processes, early": (both((1.0, 120), (0.3, 900)), 600, 0.02, 0.01, "white"),
        "two processes, 2 tau": (both((1.0, 120), (0.3, 900)), 1800, 0.02, 0.01, "white"),
        "two processes, 4 tau": (both((1.0, 120), (0.3, 900)), 3600, 0.02, 0.01, "white"),
        "two against each other": (both((1.0, 200), (-0.4, 1500)), 4000, 0.02, 0.005, "white"),
        "small and slow, half a tau": (one(0.1, 3000), 1452, 0.01, 0.002, "white"),
        "small and slow, 2 tau": (one(0.1, 3000), 6000, 0.01, 0.002, "white"),
        "creeps for ever": (creep(0.3, 60_000), 3600, 0.01, 0.002, "white"),
    }
    for name, (course, span, part, scatter, kind) in records.items():
        said, held, wide = 0, 0, []
        t, true = np.linspace(0, span, 60), under_from(course, part)
        for _ in range(TIMES // 4):
            found = settling(t, 10 + course(t) + noise(kind, scatter, len(t), chance), part)
            if found.settled:
                said, held = said + 1, held + (true <= span)
            elif found.can_say:
                said, held = said + 1, held + (found.ready_low - span / 80 <= true <= found.ready_high)
                wide.append(found.ready_high / max(true, 1.0))
        width = f"latest {np.median(wide):.1f} of true" if wide else "settled" if said else "nothing said"
        yield Row("settled, or ready between", name, said, TIMES // 4, held / max(said, 1), width)


def _captured(chance: np.random.Generator) -> Iterator[Row]:
    for height, readings, kind in ((0, 1, "white"), (100, 10, "white"), (10, 10, "white"), (10, 30, "white"), (0, 1, "coloured"),
                                   (50, 10, "coloured"), (0, 1, "heavy"), (50, 10, "coarse")):  # fmt: skip
        held, wide = 0, []
        for _ in range(TIMES):
            scatter = noise("white" if kind == "coarse" else kind, 1.0, 700, chance)
            course = height * np.exp(-np.arange(700) / readings) + scatter
            course = coarse(course, 2.0) if kind == "coarse" else course
            until = next(n for n in range(1, 690) if is_still(course[:n].tolist()))
            found = captured(course[until - window_of(until) : until + 3].tolist(), settled=True)
            budget = Budget(tuple(reference_repeats([(found.standard_uncertainty, found.count)])))
            expanded = cover(budget).expanded
            held += abs(found.mean) <= expanded
            wide.append(expanded)
        name = f"{kind}, from {height} sigma in {readings} readings" if height else f"{kind}, standing still"
        yield Row("captured reference", name, TIMES, TIMES, held / TIMES, f"U {np.median(wide):.1f} sigma")


def _fans(chance: np.random.Generator) -> Iterator[Row]:
    sizes = (
        (2, 1.0, 1.0),
        (2, 3.0, 3.0),
        (2, 1.0, 3.0),
        (10, 0.33, 0.33),
        (10, 1.0, 1.0),
        (10, 3.0, 3.0),
        (10, 1.0, 3.0),
    )
    others = ((10, 1.0, 1.0, "heavy"), (10, 1.0, 1.0, "jumps"))
    for count, slope, walk, kind in (*((*size, "white") for size in sizes), *others):
        held, wide = 0, []
        for _ in range(TIMES):
            history, on, true = _history(chance, count, 0.1 * slope, 0.05 * walk, kind)
            mean, u = forecast(segments_of(history), 1.0).at(on)
            known = forecast(segments_of(history), 1.0, Prior(0.1 * slope, 0.05 * walk, scales=KNOWN)).at(on)[1]
            held += abs(true - mean) <= 1.96 * u
            wide.append(u / known)
        name = f"{count} results, slope {slope:g}, walk {walk:g} times the prior, {kind}"
        yield Row("95 % fan, a year on", name, TIMES, TIMES, held / TIMES, f"{np.median(wide):.2f} of the known one")


def _history(
    chance: np.random.Generator, count: int, slope: float, walk: float, kind: str
) -> tuple[list[Calibration], dt.date, float]:
    at, level, off, own, made = 0.0, chance.normal(0, slope), chance.normal(0, 0.3), 0.065, []
    of_standard = chance.normal(0, 0.0375)
    for k in range(count + 1):
        at += chance.normal(0, walk) if k else 0.0
        at += chance.normal(0, 0.3) if k and kind == "jumps" and chance.random() < 0.1 else 0.0
        scatter = float(noise("heavy" if kind == "heavy" else "white", own, 1, chance)[0])
        on = DAY + dt.timedelta(days=round(k * DAYS))
        made.append(Calibration(on, off + level * k + at + of_standard + scatter, 0.15, "found", "s"))
    return made[:-1], made[-1].on, off + level * count + at


def _distortion(chance: np.random.Generator) -> Iterator[Row]:
    truth = math.hypot(0.01, 0.004)
    for cycles in (2.4, 3.1, 10.3, 57.8):
        for kind in ("white", "coloured", "heavy", "coarse"):
            held, wide = 0, []
            for _ in range(TIMES // 2):
                angle = 2 * np.pi * cycles * np.arange(2000) / 2000 + chance.uniform(0, 2 * np.pi)
                values = (
                    np.sin(angle) + 0.01 * np.sin(3 * angle + chance.uniform(0, 6)) + 0.004 * np.sin(2 * angle + 1)
                )
                values = values + noise("white" if kind == "coarse" else kind, 0.002, 2000, chance)
                values = coarse(values, 2.2 / 256) if kind == "coarse" else values
                found = distortion(spectrum_of(Waveform("a", "V", values, 1e-6)))[0]
                held += abs(found.value - truth) <= 2 * found.u  # type: ignore[union-attr]
                wide.append(2 * found.u / truth)  # type: ignore[union-attr]
            yield Row("THD of 1.08 %", f"{cycles} cycles, {kind}", TIMES // 2, TIMES // 2, 2 * held / TIMES,
                      f"U {100 * np.median(wide):.1f} % of it")  # fmt: skip


def _phase(chance: np.random.Generator) -> Iterator[Row]:
    for cycles, count_of in ((2.3, 0.0), (3.4, 0.0), (8.7, 2 / 64), (20.2, 0.0)):
        held, wide = 0, []
        for _ in range(TIMES // 2):
            angle, lead = 2 * np.pi * cycles * np.arange(1500) / 1500, chance.uniform(-3, 3)
            pair = [
                np.sin(angle) + chance.normal(0, 0.005, 1500),
                np.sin(angle + lead) + chance.normal(0, 0.005, 1500),
            ]
            pair = [coarse(v, count_of) if count_of else v for v in pair]
            found = phase_between(*(Waveform("a", "V", v, 1e-6) for v in pair))
            held += abs(math.remainder(found.value - math.degrees(lead), 360)) <= 2 * found.u  # type: ignore[union-attr]
            wide.append(2 * found.u)  # type: ignore[union-attr]
        name = f"{cycles} cycles{', six bits' if count_of else ''}"
        yield Row("phase", name, TIMES // 2, TIMES // 2, 2 * held / TIMES, f"U {np.median(wide):.3f} degrees")


def _remedies(chance: np.random.Generator) -> Iterator[Row]:
    terms = (
        rectangular("needle", 0.4, kind="needle"),
        rectangular("reference", 0.1, kind="reference"),
        Contribution("o", 0.02),
    )
    for error in (0.8, 0.97, 1.2):
        found = settle(error, Budget(terms), 1.0, Rule.GUARDED)
        assert found is not None
        remedy = found.remedies[0]
        expanded = cover(with_kind_cut(Budget(terms), remedy.kind, remedy.half_width)).expanded
        again = error - chance.uniform(-0.4, 0.4, 5000) + chance.uniform(-1, 1, 5000) * remedy.half_width
        held = float(np.mean([decide(e, expanded, 1.0, Rule.GUARDED) is not Outcome.CANNOT_TELL for e in again]))
        words = f"said {100 * remedy.chance:.0f} in 100"
        yield Row("would settle it", f"error {error} of its limit, needle read anew", 5000, 5000, held, words)


def _tubes(chance: np.random.Generator) -> Iterator[Row]:
    for count in (2, 4, 8, 12):
        apart: Callable[[], bool] = lambda count=count: (  # noqa: E731
            match(tubes_of(Measured(f"T{i}", "", f, 1.0) for i, f in enumerate(chance.normal(50, 1, count))), count)
            .sets[0]
            .told_apart
        )
        held = 1 - np.mean([apart() for _ in range(5 * TIMES)])
        yield Row("cannot be told apart", f"{count} alike tubes", 5 * TIMES, 5 * TIMES, float(held), "")


def _arcs(chance: np.random.Generator) -> Iterator[Row]:
    """Where a value stands on an arc that is drawn by measured marks: two standard deviations."""
    for name, law in ARCS.items():
        for count, scatter in ((6, 0.001), (6, 0.004), (12, 0.004)):
            marks, said, held, wide = tuple(np.linspace(0, 10, count)), 0, 0, []
            at = np.array([law(v) for v in marks])
            for _ in range(TIMES):
                places = (at - at[0]) / (at[-1] - at[0]) + chance.normal(0, scatter, count)
                if (np.diff(places) <= 0).any():
                    continue
                arc = fit_arc(marks, tuple(places))
                value = chance.uniform(0.3, 9.7)
                true = (law(value) - at[0]) / (at[-1] - at[0])
                said, held = said + 1, held + (abs(arc.law.deflection(value) - true) <= 2 * arc.scatter)
                wide.append(2 * arc.scatter)
            words = f"{name}, {count} marks clicked to {100 * scatter:g} %"
            yield Row(
                "place on an arc by its marks",
                words,
                said,
                TIMES,
                held / said,
                f"{100 * np.median(wide):.1f} % of the arc",
            )


def _photos(chance: np.random.Generator) -> Iterator[Row]:
    """Where marks stand by a photo of the face: two standard deviations; aslant to 30 degrees, a lens to 3 %, clicks of 0.8 px."""
    for by, other in (
        (by, other) for by in ("nothing", "the axis", "an even arc", "a rectangle") for other in (False, True)
    ):
        held, wide, worst = [], [], []
        for _ in range(TIMES // 2):
            seen = face(chance, other=other)
            found = straighten(
                seen.marks, size=SIZE, axis=seen.axis if by == "the axis" else None,
                even=seen.even if by == "an even arc" else (), corners=seen.corners if by == "a rectangle" else (), sides=1.5,
            )  # fmt: skip
            off = np.abs(np.array(found.places) - seen.places)[1:-1]
            held.append(float(np.mean(off <= 2 * np.array(found.u)[1:-1])))
            wide.append(2 * found.worst_u)
            worst.append(float(off.max()))
        words = (
            f"{100 * np.median(wide):.2f} % of the arc; the worst of ten marks is {100 * np.median(worst):.2f} % off"
        )
        lens = "another lens, heavy tails" if other else "one lens term"
        name = f"straightened by {by}, {lens}"
        yield Row("place of a mark by a photo", name, TIMES // 2, TIMES // 2, float(np.mean(held)), words)


def _floors(chance: np.random.Generator) -> Iterator[Row]:
    """Two analysers on one source, each with a residual of its own: of a phase drawn anew, opposed, in step, or of other orders."""
    angles: Mapping[str, Callable[[], float]] = {
        "phases drawn": lambda: chance.uniform(0, 2 * math.pi),
        "against it": lambda: math.pi,
        "with it": lambda: 0.0,
        "other orders, by squares": lambda: math.pi / 2,
    }
    for name, angle in angles.items():
        said, held, wide, true = 0, 0, [], 0.1  # per cent
        for _ in range(5 * TIMES):
            readings = []
            for own in chance.uniform(0.02, 0.3, 2):
                a = angle()
                off = 1 + 0.02 * float(
                    np.clip(chance.standard_t(3), -40, 40)
                )  # heavy tails, whose 95 % reach 3.18 of them
                shown = abs(true + own * complex(math.cos(a), math.sin(a))) * off
                readings.append(AnalyserReading(shown, own, 3.18 * 0.02 * shown))
            between = compare_floors(readings).between
            if between is not None:
                said += 1
                held += between[0] <= true <= between[1]
                wide.append((between[1] - between[0]) / true)
        width = f"{np.median(wide):.1f} of it" if wide else ""
        yield Row("what two residuals leave", name, said, 5 * TIMES, held / max(said, 1), width)


def main() -> None:
    """Print the table; with --markdown the page of docs/."""
    markdown = "--markdown" in sys.argv[1:]
    if markdown:
        print(
            "# Claims\n\nWhat is said with 95 per cent, under data that no model of the program makes (`bench/claims.py`, "
            f"{dt.date.today():%Y-%m-%d}).\nThe floor is 92 of 100; *said* counts how often anything was said at all.\n"
            "Fans of two results have a floor of 85 where slope and walk are three times the prior.\n\n"
            "| claim | generator | said | held | width |\n|---|---|---|---|---|"
        )
    for row in rows():
        held = f"{100 * row.held:.0f} %" if row.said else "–"
        cells = (row.claim, row.generator, f"{row.said} of {row.of}", held, row.width)
        print(f"| {' | '.join(cells)} |" if markdown else "  ".join(cells))


if __name__ == "__main__":
    main()
