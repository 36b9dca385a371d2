"""What to look for in a zone: from the pack, and grown with one's own."""

from __future__ import annotations

from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.theme import Theme, label
from candor.desktop.widgets.caution import Caution
from candor.desktop.widgets.controls import button, empty
from candor.desktop.widgets.field import Field
from candor.desktop.widgets.flow import Flow
from candor.desktop.widgets.glyphs import Glyph
from candor.notebook.entries.arrive_entries import Finding
from candor.notebook.work.checklists import case_can_be_live, found_items
from candor.sitting.commands import arrive_commands


class LookFor(QWidget):
    """One thing to look for: what it is, and two deeds beside it, each with a shape of its own."""

    def __init__(self, theme: Theme, item: str) -> None:
        super().__init__()
        self.item = item
        self.setObjectName("body")
        self.shape = Glyph(theme, 12)
        self.words = label(item, "text", wrap=False)
        self.seen = button("seen", f"“{item}” is there: written as a finding", name="choice")
        self.absent = button("not seen", f"“{item}” was looked for and is not there", name="choice")
        for made, deed in ((self.seen, "seen"), (self.absent, "looked for and not seen")):
            made.setCheckable(True)
            made.setAccessibleName(f"{item}: {deed}")
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, theme.px(10), 0)
        row.setSpacing(theme.px(5))
        for widget in (self.shape, self.words, self.seen, self.absent):
            row.addWidget(widget)

    def show_state(self, finding: Finding | None, looked: bool) -> None:
        """Show how it stands: the mark of the finding that names it; full once that is settled, or not there."""
        marked = finding is not None and (finding.open or finding.mark == "note")
        self.shape.show_shape(finding.mark if finding and marked else "full" if finding or looked else "ring")
        self.seen.setChecked(finding is not None)
        self.absent.setChecked(looked and finding is None)


class Checklist(QWidget):
    """Each item with its two deeds: it was seen, or it was looked for and not seen."""

    def __init__(self, theme: Theme, *, in_hand: JobInHand, writer: Writer, voice: Voice) -> None:
        super().__init__()
        self._theme, self._zone = theme, ""
        self._in_hand, self._writer, self._voice = in_hand, writer, voice
        self._shown: tuple[str, tuple[str, ...]] = ("", ())
        self.items: dict[str, LookFor] = {}
        self.own = Field()
        self.own.setAccessibleName("An item of your own")
        self.own.setPlaceholderText("another thing to look for, on every one of this type")
        self.own.setToolTip("Enter puts it on the checklist of this zone, for every instrument of this pack")
        self.another = button("another …", "Put a thing of your own on the checklist", name="choice")
        self.another.setCheckable(True)
        self._flow = Flow(theme.px(6))
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(6))
        self.materials = Caution(theme)
        column.addWidget(self.materials)
        column.addWidget(
            label("Look for each of these and mark it. What you mark as seen becomes a finding.", "soft")
        )
        column.addLayout(self._flow)
        column.addWidget(self.own)
        self.own.hide()
        self.own.returnPressed.connect(self._add)
        self.another.clicked.connect(self._open_own)

    def show_zone(self, zone: str) -> None:
        """Show the checklist of a zone."""
        pack, job = self._in_hand.pack, self._in_hand.job
        if pack is None or job is None:
            return
        self._zone = zone
        self.materials.say("; ".join(next((z.materials for z in pack.zones if z.key == zone), ())))
        named = next((z.look_for for z in pack.zones if z.key == zone), ())
        items = tuple(dict.fromkeys((*named, *self._in_hand.own_items(zone))))
        if self._shown != (zone, items):
            self._shown = (zone, items)
            self._flow.removeWidget(self.another)
            empty(self._flow)
            self.items = {item: self._made(item) for item in items}
            self._flow.addWidget(self.another)
        found = found_items(job, zone, items)
        for item, made in self.items.items():
            made.show_state(found.get(item), (zone, item) in job.arrive.looked)
        self.own.setVisible(self.another.isChecked())

    def _made(self, item: str) -> LookFor:
        made = LookFor(self._theme, item)
        made.seen.clicked.connect(lambda _=False, item=item: self._seen(item))
        made.absent.clicked.connect(lambda checked, item=item: self._absent(item, checked))
        self._flow.addWidget(made)
        made.show()
        return made

    def _seen(self, item: str) -> None:
        """It is there: a finding with the mark that such a thing usually has."""
        job = self._in_hand.job
        if job is None:
            return
        found = found_items(job, self._zone, (item,))
        if item in found:
            self._voice.say(
                f"“{item}” was seen, entry {found[item].entry.number}: strike that, and it is open again."
            )
            self.show_zone(self._zone)
            return
        self._writer.do(arrive_commands.seen(job, self._zone, item, case_can_be_live(job, self._in_hand.parts())))

    def _absent(self, item: str, checked: bool) -> None:
        job = self._in_hand.job
        if job is None:
            return
        if item in found_items(job, self._zone, (item,)):
            self._voice.say(f"“{item}” was seen: strike the finding, and it is open again.")
            self.show_zone(self._zone)
        elif checked:
            self._writer.do(arrive_commands.absent(self._zone, item))
        elif (self._zone, item) in job.arrive.looked:
            self._writer.strike(job.arrive.looked[self._zone, item])

    def _open_own(self) -> None:
        self.own.setVisible(self.another.isChecked())
        if self.another.isChecked():
            self.own.setFocus()

    def _add(self) -> None:
        item, pack = self.own.text().strip(), self._in_hand.pack
        if item and pack is not None and self._writer.do(arrive_commands.add_item(pack.id, self._zone, item)):
            self.own.clear()
            self.another.setChecked(False)
            self.show_zone(self._zone)
