"""A transformer in words: how warm its windings became, and what it takes with nothing connected."""

from __future__ import annotations

from candor.core.power.heat_run import CLASS_A_C, HOT_SPOT_C, WindingRise, judge_open
from candor.core.quantities.show import trimmed
from candor.notebook.power.heating import rises_of
from candor.notebook.work.job import Job


def say_rise(name: str, rise: WindingRise) -> str:
    """Say how warm a winding became, against what paper and varnish of the period bear."""
    warm = f"Winding {name}: {rise.celsius:.0f} °C, {rise.rise:.0f} K above the room (± {rise.expanded:.0f} K)."
    limit = f"{CLASS_A_C:.0f} °C at the hottest turn, some {HOT_SPOT_C:.0f} K above this [class A, from memory]"
    if rise.state == "over":
        return f"{warm} Too warm for old paper and varnish: {limit}. Find what loads it before it runs again."
    if rise.state == "within":
        return f"{warm} Within what old paper and varnish bear: {limit}."
    return f"{warm} Cannot tell whether old paper and varnish bear it: {limit}."


def say_open(watts: float, rated_watts: float) -> str:
    """Say what a transformer takes with all its secondaries open, W."""
    takes = f"With all secondaries open the transformer takes {trimmed(watts)} W"
    found = judge_open(watts, rated_watts)
    if found == "no rating":
        return f"{takes}. What the plate says it takes is not known, so nothing judges it."
    share = f"{takes}, {100 * watts / rated_watts:.0f} % of the plate's {trimmed(rated_watts)} W"
    if found == "light":
        return f"{share}: as a sound one does [under 10 %, common practice, no source]."
    if found == "heavy":
        return f"{share}: suspect shorted turns [over 20 %, common practice, no source]. Pull the plug; does it grow warm within minutes?"
    return (
        f"{share}: cannot tell [a sound one takes under 10 %, shorted turns over 20 %: common practice, no source]."
    )


def transformer_lines(job: Job) -> list[str]:
    """Return what is known of a job's transformer by what was measured of it."""
    lines = [say_rise(name, rise) for name, rise in rises_of(job).items()]
    if job.power.unloaded is not None:
        lines.append(say_open(job.power.unloaded.body.watts, job.power.said.watts))
    return lines
