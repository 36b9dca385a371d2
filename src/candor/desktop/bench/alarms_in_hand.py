"""Alarms of the job in hand: raised by what is written, from whatever page or room, once each."""

from __future__ import annotations

from PySide6.QtCore import QObject, Signal

from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.shop_in_hand import Shop
from candor.desktop.bench.voice import Voice
from candor.notebook.power.alarms import LIVE_KINDS, Alarm, alarms_of, live_elsewhere, may_alarm
from candor.notebook.power.powering import plan_of
from candor.notebook.store import Notebook
from candor.words.power_words import say_alarm


class Alarms(QObject):
    """What the newest entries mean for whoever stands at the bench.

    Signals
    -------
    raised(bool)
        Something must be known at once; True where the plug must come out.
    """

    raised = Signal(bool)

    def __init__(self, notebook: Notebook, in_hand: JobInHand, shop: Shop, voice: Voice) -> None:
        super().__init__()
        self._notebook = notebook
        self._in_hand, self._shop, self._voice = in_hand, shop, voice
        self._told: set[str] = set()
        in_hand.changed.connect(self.look)

    def current(self) -> tuple[Alarm, ...]:
        """Return the alarms of the job in hand that stand."""
        job, parts = self._in_hand.job, self._in_hand.parts()
        if job is None or not may_alarm(job):
            return ()
        plan = plan_of(job, self._in_hand.pack, self._shop.settings.mains, parts)
        live = live_elsewhere(self._notebook.entries_of_kinds(LIVE_KINDS), job.id)
        return alarms_of(job, parts, plan, live, self._notebook.clock())

    def look(self) -> None:
        """Raise what is new."""
        new = [a for a in self.current() if a.entry not in self._told]
        for alarm in new:
            self._told.add(alarm.entry)
            self._voice.warn(say_alarm(alarm))
        if new:
            self.raised.emit(any(a.plug_out for a in new))
