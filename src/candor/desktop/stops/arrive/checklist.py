"""What to look for in a zone: from the pack, and grown with one's own."""

from __future__ import annotations

from PySide6.QtWidgets import QPushButton, QVBoxLayout, QWidget

from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.theme import Theme, label
from candor.desktop.widgets.caution import Caution
from candor.desktop.widgets.controls import button, empty
from candor.desktop.widgets.field import Field
from candor.desktop.widgets.flow import Flow
from candor.notebook.checklists import found_items
from candor.notebook.entries.arrive import ItemLookedAt
from candor.notebook.entries.shop import ItemAdded


class Checklist(QWidget):
    """One button for each item: pressed, it was looked for and is not there."""

    def __init__(self, theme: Theme, *, in_hand: JobInHand, writer: Writer, voice: Voice) -> None:
        super().__init__()
        self._theme, self._zone = theme, ""
        self._in_hand, self._writer, self._voice = in_hand, writer, voice
        self._shown: tuple[str, tuple[str, ...]] = ("", ())
        self.items: dict[str, QPushButton] = {}
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
        column.addWidget(label("look for; press what is not there", "soft"))
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
            looked = (zone, item) in job.arrive.looked
            made.setChecked(looked or item in found)
            made.setText(f"{item} · found" if item in found else f"{item} · not there" if looked else item)
        self.own.setVisible(self.another.isChecked())

    def _made(self, item: str) -> QPushButton:
        made = button(item, f"“{item}” was looked for and is not there", name="choice")
        made.setCheckable(True)
        made.clicked.connect(lambda checked, item=item: self._look(item, checked))
        self._flow.addWidget(made)
        made.show()
        return made

    def _look(self, item: str, checked: bool) -> None:
        job = self._in_hand.job
        if checked:
            self._writer.write(ItemLookedAt(zone=self._zone, item=item))
        elif job is not None and (self._zone, item) in job.arrive.looked:
            self._writer.strike(job.arrive.looked[self._zone, item].id)
        else:
            self._voice.say(f"“{item}” was found: strike the finding, and it is open again.")
            self.show_zone(self._zone)

    def _open_own(self) -> None:
        self.own.setVisible(self.another.isChecked())
        if self.another.isChecked():
            self.own.setFocus()

    def _add(self) -> None:
        item, pack = self.own.text().strip(), self._in_hand.pack
        if item and pack is not None and self._writer.write_shop(ItemAdded(pack=pack.id, zone=self._zone, item=item)):
            self.own.clear()
            self.another.setChecked(False)
            self.show_zone(self._zone)
