"""Clean: photograph first, what must not get wet, what was cleaned, how long it dries, and the insulation before power."""

from __future__ import annotations

from PySide6.QtWidgets import QLineEdit, QPushButton, QVBoxLayout, QWidget

from candor.core.jot.rows.arrive_rows import USUAL_DAYS
from candor.core.severity import Severity
from candor.desktop.bench.clock import Clock
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.because import Because
from candor.desktop.frame.local_numbers import in_field
from candor.desktop.frame.theme import Theme, label
from candor.desktop.stops.arrive.unitcard import write_arrival
from candor.desktop.widgets.caution import Caution
from candor.desktop.widgets.controls import button
from candor.desktop.widgets.flow import flow
from candor.desktop.widgets.row_list import Row, RowList
from candor.notebook.arrive.arrivals import drying_words
from candor.notebook.entries.cleaning_entries import DRYING
from candor.notebook.entries.kinds_entries import in_words

WAYS = (("dry", "Dry", "With a brush, a cloth or air"), ("cleaner", "With a cleaner", "Contact cleaner, alcohol, soap on a cloth"),
        ("lubricated", "Lubricated", "A step of its own, after the cleaning"),
        ("washed", "Washed", "Wet all over: it dries for days, and its insulation is measured before power"))  # fmt: skip


class Clean(QWidget):
    """The cleaning of the instrument in hand."""

    def __init__(self, theme: Theme, *, in_hand: JobInHand, writer: Writer, voice: Voice, clock: Clock) -> None:
        super().__init__()
        self._in_hand, self._writer, self._voice, self._clock = in_hand, writer, voice, clock
        self._asked = ""
        self.caution, self.materials = Caution(theme), Caution(theme)
        self.dry = label("", "text")
        self.care = label("", "soft")
        self.what = self._field("What was cleaned", "range switch contacts, the case, the whole chassis")
        self.days = self._field("Days of drying", f"days it dries, {USUAL_DAYS:g} where nothing is written")
        self.insulation = self._field("Insulation", "mains side to chassis: 22 Mohm @500V")
        self.insulation.returnPressed.connect(self._test)
        self.ways: dict[str, QPushButton] = {key: button(title, tip) for key, title, tip in WAYS}
        self.list = RowList(theme, "What was cleaned", wrap=True)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(7))
        for widget in (self.caution, self.materials, self.dry, self.care, self.what):
            column.addWidget(widget)
        column.addLayout(flow(theme.px(8), *self.ways.values()))
        more: tuple[QWidget, ...] = (self.days, self.list, self.insulation)
        for under in more:
            column.addWidget(under)
        for key, made in self.ways.items():
            made.clicked.connect(lambda _=False, how=key: self._clean(how))

    def _field(self, name: str, hint: str) -> QLineEdit:
        made = QLineEdit()
        made.setPlaceholderText(in_field(hint))
        made.setAccessibleName(name)
        made.setToolTip(f"{name}: {hint}")
        return made

    def show_job(self) -> None:
        """Show what must not get wet, what was cleaned and what that asks for."""
        job, pack = self._in_hand.job, self._in_hand.pack
        if job is None or pack is None:
            return
        self.caution.say(drying_words(job))
        self.materials.say("; ".join(dict.fromkeys(m for z in pack.zones for m in z.materials)))
        self.dry.setText(f"Must not get wet: {', '.join(pack.keep_dry)}." if pack.keep_dry else "")
        self.care.setText(" ".join(pack.care))
        said = bool(job.cleaning.cleaned) or job.cleaning.insulation is not None
        numbers = {e.id: e.number for e in job.entries} if said else {}  # of a long job a frame
        rows = [Row(e.id, in_words(e, numbers), f"entry {e.number}", "full") for e in job.cleaning.cleaned]
        timer = job.calibrate.timer_of(DRYING)
        if timer is not None:
            left = timer.left(self._clock.now())
            words = f"dries until {timer.ends.astimezone():%Y-%m-%d %H:%M}" if left > 0 else "dry by the clock"
            rows.append(Row(timer.entry.id, words, timer.label, "running" if left > 0 else "full"))
        if job.cleaning.insulation is not None:
            entry = job.cleaning.insulation
            rows.append(Row(entry.id, in_words(entry, numbers), f"entry {entry.number}", "full"))
        self.list.show_rows(tuple(rows), "")
        self.list.setVisible(bool(rows))
        self.list.fit(6)

    def _clean(self, how: str) -> None:
        job, what = self._in_hand.job, self.what.text().strip()
        if job is None:
            return
        if not what:
            self._voice.refuse("Write first what was cleaned; nothing was written.")
            self.what.setFocus()
            return
        photos = any(f.photos for f in job.arrive.findings) or any(t.photos for t in job.arrive.taken)
        if how in ("cleaner", "washed") and not photos and self._asked != job.id:
            self._asked = job.id
            self._voice.say(
                "No photo of it yet. Photograph lettering, stickers and wire colours first; press again where that is done.",
                Severity.ASK,
            )
            return
        days = self.days.text().strip()
        verb = {"dry": "cleaned", "cleaner": "cleaned"}.get(how, how)
        with_ = ", with a brush" if how == "dry" else f", {days} days" if how == "washed" and days else ""
        if write_arrival(f"{verb} {what}{with_}", self._in_hand, self._writer, self._voice):
            self.what.clear()
            self.days.clear()

    def _test(self) -> None:
        text = f"insulation {self.insulation.text().strip()}"
        if write_arrival(text, self._in_hand, self._writer, self._voice, self.insulation.clear):
            return
        if self.insulation.text().strip():
            self._voice.refuse("Give a resistance and its test voltage. Example: 22 Mohm @500V")

    def explain(self, because: Because) -> None:
        """Say how cleaning goes."""
        because.show_whole(None)
        words = [
            "Photograph first. Then dry, then with a cleaner, then lubricate; water last, and only on what can stand it.",
            "What was washed dries for days in warm moving air. Its insulation is measured at 500 V d.c., switch on, both mains "
            "conductors joined, to the chassis: 10 MΩ or more (common practice, no source). Local codes and licensed practice "
            "come first.",
        ]
        because.show_words(
            "Cleaning", words, "ring" if self._in_hand.job and self._in_hand.job.cleaning.untested else ""
        )
