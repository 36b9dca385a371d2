"""A supply from its winding to its load, place by place: what is calculated, what was read, what it meets."""

from __future__ import annotations

from candor.core.late_dataclass import dataclass
from candor.core.power.supply_answer import SupplyReport
from candor.core.power.supply_read import SupplyRead
from candor.core.power.typed import Section
from candor.core.quantities import engineering
from candor.core.quantities.show import trimmed


@dataclass(frozen=True)
class Stage:
    """A place of a supply as a chain has it.

    Attributes
    ----------
    title, volts, measured, cold : str
        What it is; what stands there warm at nominal line; what was measured there, as it was read; what it meets cold.
    filled : float
        What it meets cold as a share of its rating, 0 where none is known.
    is_over : bool
        That is over its rating.
    joined : str
        What joins it to the next.
    """

    title: str
    volts: str = ""
    measured: str = ""
    cold: str = ""
    filled: float = 0.0
    is_over: bool = False
    joined: str = ""


def supply_stages(report: SupplyReport, measured: SupplyRead) -> tuple[Stage, ...]:
    """Return a typed supply from its winding to its load, with what was measured of it."""
    asked, sections = report.asked, report.asked.sections
    winding = trimmed(asked.volts)
    title = f"{winding}-0-{winding} V" if asked.shape == "centre-tapped" else f"{winding} V {asked.shape}"
    opened = f"open {_read(measured.open_volts)}" if measured.open_volts else ""
    stages = [Stage("winding", volts=title, measured=opened, joined=asked.rectifier)]
    means = dict(measured.means)
    for place, (section, met) in enumerate(zip(sections, report.answer.stresses, strict=True), 1):
        after = _joined(sections[place]) if place < len(sections) else ""
        of = f" of {met.rated:.0f}" if met.rated else ""
        stages.append(
            Stage(
                title=f"{met.name} {engineering(section.farad, 'F', 3)}",
                volts=engineering(met.loaded_volts, "V", 4),
                measured=f"read {_read(means[place])}" if place in means else "",
                cold=f"cold {met.peak_volts:.0f}{of} V",
                filled=met.peak_volts / met.rated if met.rated else 0.0,
                is_over=met.is_over,
                joined=after,
            )
        )
    drawn = engineering(asked.load_amperes, "A", 3) if asked.load_amperes else "nothing drawn"
    return (*stages, Stage("load", volts=drawn))


def _read(volts: float) -> str:
    """Return volts as they were read, with no figure more."""
    return f"{trimmed(volts)} V"


def _joined(section: Section) -> str:
    choke = [f"{trimmed(section.henry)} H"] if section.henry else []
    return " ".join((*choke, engineering(section.series_ohms, "ohm", 3)))
