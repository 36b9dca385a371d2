"""Up to eight meters on links, each with its own timing in its own thread. One that drops out is unknown, and the others go on."""

from __future__ import annotations

import threading
import time
from collections.abc import Callable, Sequence
from dataclasses import replace
from pathlib import Path

from candor.core.errors import CandorError
from candor.core.late_dataclass import dataclass
from candor.core.power.plan import unit_of
from candor.core.worded import worded
from candor.links.channel_file import ChannelFile
from candor.links.link_errors import LinkError, NoReadingError, OverloadError
from candor.links.meter_answers import Address, read_address, read_answer
from candor.links.scpi import ScpiLink

MOST_METERS = 8
_AGAIN_S = 2.0  # after which a link that failed is opened anew


@dataclass(frozen=True)
class MeterPlan:
    """A meter: what it reads (a rail's name, "watts"), where it answers, what it is asked, how often, and what 1 of it is in SI.

    Its address may say how it answers: ``TCPIP::10.0.0.7::5025::SOCKET; field 2`` (links.answers).
    """

    name: str
    resource: str
    query: str = "READ?"
    per_second: float = 10.0
    factor: float = 1.0


@dataclass(frozen=True)
class MeterState:
    """How a meter stands.

    Attributes
    ----------
    value : float or None
        Its last reading, SI; None where it is unknown: nothing yet, overload, a dead link. Never 0 for that.
    seconds : float
        When that was, since the start.
    fault : str
        Why it is unknown, empty where it is not.
    readings : int
    overload : bool
        It is unknown because the meter is over its range.
    """

    value: float | None = None
    seconds: float = 0.0
    fault: str = "no reading yet"
    readings: int = 0
    overload: bool = False


class Meters:
    """Meters that are read until `close`.

    Parameters
    ----------
    plans : sequence of MeterPlan
    folder : Path
        Where each meter's file goes.
    key : str
        By which the files of one start belong together.
    heard : callable
        Called in a meter's own thread with its name, seconds since the start and value, at every reading that counts.

    Raises
    ------
    LinkError
        Where there are none, more than eight, or two of one name.
    """

    def __init__(
        self,
        plans: Sequence[MeterPlan],
        folder: Path,
        key: str,
        heard: Callable[[str, float, float], None] = lambda *_: None,
    ) -> None:
        names = [plan.name for plan in plans]
        if not 1 <= len(plans) <= MOST_METERS or len(set(names)) < len(names):
            raise LinkError(
                worded(
                    "links.meters_names_expected_one_to_meters",
                    plans=len(plans),
                    set=len(set(names)),
                    most_meters=MOST_METERS,
                )
            )
        self.plans = tuple(plans)
        self.files = {plan.name: folder / f"{key}-{index}.readings" for index, plan in enumerate(plans, 1)}
        self._heard = heard
        self._lock = threading.Lock()
        self._states = {name: MeterState() for name in names}
        self._stopped = threading.Event()
        self._began = time.monotonic()
        self._threads = [
            threading.Thread(target=self._read, args=(plan,), name=f"candor-meter-{plan.name}", daemon=True)
            for plan in plans
        ]
        for thread in self._threads:
            thread.start()

    def states(self) -> dict[str, MeterState]:
        """Return how each meter stands."""
        with self._lock:
            return dict(self._states)

    def seconds(self) -> float:
        """Return how long they have been read, s."""
        return time.monotonic() - self._began

    def close(self, timeout_s: float = 3.0) -> None:
        """Stop reading; files are whole on disk. One that is still asking at the end of the time ends by itself."""
        self._stopped.set()
        end = time.monotonic() + timeout_s
        for thread in self._threads:
            thread.join(max(end - time.monotonic(), 0.0))

    def _read(self, plan: MeterPlan) -> None:
        try:
            with ChannelFile(self.files[plan.name]) as file:
                while not self._stopped.is_set():
                    try:
                        self._on_link(plan, file)
                    except CandorError as error:
                        file.sync()  # nobody knows when it answers again: what it said until now is on the disk
                        self._unknown(plan.name, str(error))
                    self._stopped.wait(_AGAIN_S)
        except OSError as error:
            self._unknown(plan.name, worded("links.its_readings_cannot_be_kept", strerror=error.strerror or error))

    def _on_link(self, plan: MeterPlan, file: ChannelFile) -> None:
        address = read_address(plan.resource)
        with ScpiLink(address.resource, "meter", stopped=self._stopped.is_set, line=address.line) as link:
            due = time.monotonic()
            while not self._stopped.is_set():
                answer = link.ask(address.ask or plan.query)
                seconds = self.seconds()
                try:
                    value = _value(plan, address, answer)
                except NoReadingError as error:
                    self._unknown(plan.name, str(error), isinstance(error, OverloadError))
                else:
                    self._known(plan, file, seconds, value)
                due = max(
                    due + 1 / plan.per_second, time.monotonic() - 1.0
                )  # late by a moment catches up, by more does not
                self._stopped.wait(max(due - time.monotonic(), 0.0))

    def _known(self, plan: MeterPlan, file: ChannelFile, seconds: float, value: float) -> None:
        file.keep(seconds, value)
        with self._lock:
            before = self._states[plan.name]
            self._states[plan.name] = MeterState(value, seconds, "", before.readings + 1)
        self._heard(plan.name, seconds, value)

    def _unknown(self, name: str, why: str, overload: bool = False) -> None:
        with self._lock:
            self._states[name] = replace(self._states[name], value=None, fault=why, overload=overload)


def _value(plan: MeterPlan, address: Address, answer: str) -> float:
    """Return what an answer comes to, SI: where a factor says that it reads something else, in any unit."""
    return plan.factor * read_answer(answer, unit_of(plan.name) if plan.factor == 1.0 else "", address.form)
