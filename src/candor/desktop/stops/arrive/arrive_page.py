"""Arrive: who it is, what its owner says, and the walk round it, zone by zone."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import Qt
from PySide6.QtGui import QDragEnterEvent, QDropEvent
from PySide6.QtWidgets import QComboBox, QHBoxLayout, QLineEdit, QPushButton, QVBoxLayout, QWidget

from candor.core.jot.usual_mark import usual_mark
from candor.desktop.bench.clock import Clock
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.place import PlaceInHand
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.because import Because
from candor.desktop.frame.file_names import open_names
from candor.desktop.frame.page import Page
from candor.desktop.frame.theme import Theme, label
from candor.desktop.frame.thumbnails import PICTURES, PhotoStrip, attach_photos, pasted_picture
from candor.desktop.stops.arrive.checklist import Checklist
from candor.desktop.stops.arrive.clean import Clean
from candor.desktop.stops.arrive.details import Details
from candor.desktop.stops.arrive.takeapart import TakeApart
from candor.desktop.widgets.controls import Column, button, line, shortcut
from candor.desktop.widgets.flow import Flow, flow
from candor.desktop.widgets.row_list import Row, RowList
from candor.notebook.entries.arrive_entries import Finding
from candor.notebook.store import Notebook
from candor.notebook.work.checklists import WORST, case_can_be_live, meaning, zone_shape
from candor.sitting.commands import arrive_commands

VIEWS = (("who", "Who it is"), ("walk", "Walk round"), ("apart", "Take apart"), ("clean", "Clean"),
         ("together", "Put together"))  # fmt: skip


class ArrivePage(Page):
    """The first stop of a job."""

    def __init__(
        self,
        theme: Theme,
        in_hand: JobInHand,
        place: PlaceInHand,
        writer: Writer,
        voice: Voice,
        clock: Clock,
        notebook: Notebook,
    ) -> None:
        super().__init__()
        self.setAcceptDrops(True)
        self._theme = theme
        self._in_hand, self._place, self._writer, self._voice, self._clock = in_hand, place, writer, voice, clock
        self._notebook = notebook
        self._zone, self._finding, self._arrived = "", "", ""
        self.zones = RowList(theme, "Zones")
        self.zone_choice = QComboBox()
        self.zone_choice.setAccessibleName("Zone")
        self.zone_choice.setToolTip("The zone in hand; where there is room they stand in a list at the left")
        self.title = label("", "heading", bold=True)
        self.details = Details(theme, in_hand=in_hand, writer=writer, voice=voice, clock=clock)
        self.fields = self.details.fields
        self.map = TakeApart(theme, in_hand=in_hand, writer=writer, voice=voice, notebook=notebook)
        self.cleaning = Clean(theme, in_hand=in_hand, writer=writer, voice=voice, clock=clock)
        self.views: dict[str, QPushButton] = {}
        self._view = "walk"
        self.zone_title = label("", "heading", bold=True)
        self.checklist = Checklist(theme, in_hand=in_hand, writer=writer, voice=voice)
        self.text = QLineEdit()
        self.text.setPlaceholderText("What do you see? Enter marks it as such a thing usually is")
        self.text.setAccessibleName("Finding")
        self.hazard = button("Hazard", "It can hurt: blocks power-up", "Ctrl+H")
        self.fix = button("Fix", "To be put right", "Ctrl+F")
        self.note = button("Note", "Worth knowing")
        self.findings = RowList(theme, "Findings")
        self.photos = PhotoStrip(theme)
        self.reason = QLineEdit()
        self.reason.setPlaceholderText("How it was cleared, or why it may stand")
        self.reason.setAccessibleName("How it was cleared, or why it may stand")
        self.cleared = button("Cleared", "Put right, as written beside")
        self.override = button("Override", "Go on although it stands, for the reason written beside")
        self.add_photo = button("Add a photo …", "A picture of the finding chosen; it can also be dropped here")
        self.paste = button("Paste", "The picture on the clipboard, as a photo of the finding chosen", "Ctrl+Shift+V")
        self.strike = button("Strike", "Strike the finding chosen; it stays readable", "Del")
        self.zones.deeds = ()  # a zone is looked at; what is pressed is for its findings
        self.findings.deeds = (self.cleared, self.override, self.add_photo, self.paste, self.strike)
        self._build()
        self._wire()

    def _build(self) -> None:
        theme, outer = self._theme, QHBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.setSpacing(0)
        outer.addWidget(self.zones)
        outer.addWidget(line(vertical=True))
        self.area = Column(theme.px(16), theme.px(7))
        column = self.area.column
        column.setContentsMargins(theme.px(18), theme.px(12), theme.px(16), theme.px(12))
        column.addWidget(self.title)
        choices = Flow(theme.px(6))
        for key, title in VIEWS:
            made = button(title, title, name="choice")
            made.setCheckable(True)
            made.clicked.connect(lambda _=False, view=key: self.show_view(view))
            choices.addWidget(made)
            self.views[key] = made
        column.addLayout(choices)
        column.addWidget(line())
        self.walk = QWidget()
        walk = QVBoxLayout(self.walk)
        walk.setContentsMargins(0, 0, 0, 0)
        walk.setSpacing(theme.px(8))
        for widget in (self.details, self.walk, self.map, self.cleaning):
            column.addWidget(widget)
        for widget in (self.zone_choice, self.zone_title, self.checklist, self.text):
            walk.addWidget(widget)
        walk.addLayout(flow(theme.px(8), self.hazard, self.fix, self.note))
        walk.addWidget(self.findings)
        self.settle = QWidget()
        settle = QVBoxLayout(self.settle)
        settle.setContentsMargins(0, 0, 0, 0)
        settle.addWidget(self.reason)
        settle.addLayout(flow(theme.px(8), self.cleared, self.override))
        walk.addWidget(self.settle)
        walk.addWidget(self.photos)
        self.chosen = QWidget()
        self.chosen.setLayout(flow(theme.px(8), self.add_photo, self.paste, self.strike))
        walk.addWidget(self.chosen)
        walk.addStretch()
        column.addStretch()
        outer.addWidget(self.area, 1)
        self.resize_to_theme()

    def _wire(self) -> None:
        self._in_hand.changed.connect(self.show_job)
        self._place.changed.connect(self._arrive)
        self.map.chosenAnew.connect(self.explainAsked)
        self._theme.changed.connect(self.resize_to_theme)
        self.zones.picked.connect(self._choose_zone)
        self.zone_choice.activated.connect(lambda index: self._choose_zone(self.zone_choice.itemData(index)))
        self.findings.picked.connect(self._choose_finding)
        self.text.returnPressed.connect(self._find_usual)
        self.note.clicked.connect(lambda: self._find("note"))
        self.fix.clicked.connect(lambda: self._find("fix"))
        self.hazard.clicked.connect(lambda: self._find("hazard"))
        shortcut(self, "Ctrl+H", self.hazard.click)
        shortcut(self, "Ctrl+F", self.fix.click)
        shortcut(self, "Del", self.strike.click)
        self.strike.clicked.connect(self._strike)
        self.cleared.clicked.connect(lambda: self._settle("cleared"))
        self.override.clicked.connect(lambda: self._settle("overridden"))
        self.add_photo.clicked.connect(self._pick_photo)
        self.paste.clicked.connect(self.paste_photo)
        shortcut(self, "Ctrl+Shift+V", self.paste_photo)

    def resize_to_theme(self) -> None:
        """Take the widths of the text size in force."""
        self.zones.setFixedWidth(self._theme.px(180))
        self.findings.fit(6)

    def finish(self) -> None:
        """Stop loading photos."""
        self.photos.finish()
        self.map.photos.finish()

    def narrow(self, is_narrow: bool) -> None:
        """Where the window is narrow the list of zones becomes a field."""
        self.zones.setVisible(not is_narrow)
        self.zone_choice.setVisible(is_narrow)

    # --- showing --------------------------------------------------------------------------------------

    def _arrive(self) -> None:
        pack = self._in_hand.pack
        if self._in_hand.job is None:
            return
        if pack is not None and self._zone not in [z.key for z in pack.zones]:
            self._zone = pack.zones[0].key
        if self._arrived != self._in_hand.job.id:
            self._arrived, self._finding = self._in_hand.job.id, ""
        self.show_job()

    def enter(self) -> None:
        """Come to the stop: where a hazard stands, it is in hand first."""
        self._arrive()
        job = self._in_hand.job
        hazards = job.arrive.open_hazards if job else ()
        if hazards:
            self._zone, self._finding, self._view = hazards[0].zone or "-", hazards[0].entry.id, "walk"
        self.show_view(self._view)

    def show_view(self, view: str) -> None:
        """Show who it is, the walk round it, or the map in one of its directions."""
        self._view = view
        self.show_job()
        self.explainAsked.emit()
        first = {
            "who": self.fields["serial"], "walk": self.text, "apart": self.map.what, "clean": self.cleaning.what,
            "together": self.map.left,
        }  # fmt: skip
        first[view].setFocus()

    def show_job(self) -> None:
        """Show details, zones and findings; quietly nothing while another stop is in hand."""
        job, pack = self._in_hand.job, self._in_hand.pack
        if job is None or pack is None or self._place.stop != "arrive":
            return
        self.title.setText(f"{job.name}, {pack.kind}")
        for key, made in self.views.items():
            made.setChecked(key == self._view)
        self.details.setVisible(self._view == "who")
        self.walk.setVisible(self._view == "walk")
        self.map.setVisible(self._view in ("apart", "together"))
        self.cleaning.setVisible(self._view == "clean")
        self.cleaning.show_job()
        self.details.show_job()
        self.map.show_map(backwards=self._view == "together")
        rows = [Row("", "walk round it")]
        for zone in pack.zones:
            rows.append(
                Row(
                    zone.key,
                    zone.title,
                    shape=zone_shape(job, zone.key, zone.look_for),
                    strong=zone.key == self._zone,
                )
            )
        if any(not f.zone for f in job.arrive.findings):
            rows.append(Row("-", "Elsewhere", shape=zone_shape(job, ""), strong=self._zone == "-"))
        self.zones.show_rows(tuple(rows), self._zone)
        self.zone_choice.clear()
        for row in rows[1:]:
            self.zone_choice.addItem(row.text, row.key)
        self.zone_choice.setCurrentIndex(max(self.zone_choice.findData(self._zone), 0))
        titles = {z.key: z.title for z in pack.zones}
        self.zone_title.setText(titles.get(self._zone, "Elsewhere"))
        self.checklist.setVisible(self._zone in titles)
        self.checklist.show_zone(self._zone)
        self._show_findings()

    def _show_findings(self) -> None:
        job = self._in_hand.job
        if job is None:
            return
        zone = "" if self._zone == "-" else self._zone
        here = [f for f in job.arrive.findings if f.zone == zone]
        if self._finding not in [f.entry.id for f in here]:
            waiting = [f for mark in WORST for f in here if f.open and f.mark == mark]
            self._finding = (waiting or here[-1:])[0].entry.id if here else ""
        self.findings.show_rows(tuple(self._row(f) for f in here), self._finding)
        self.findings.fit(6)
        chosen = self.finding()
        self.settle.setVisible(chosen is not None and chosen.open)
        self.chosen.setVisible(chosen is not None)
        self.photos.show_photos(self._notebook.photo_folder, chosen.photos if chosen else ())

    def _row(self, finding: Finding) -> Row:
        said = [finding.mark, f"entry {finding.entry.number}"]
        if finding.settled:
            said.append(f"{finding.settled}: {finding.reason}")
        if finding.photos:
            said.append(f"{len(finding.photos)} photo{'s' if len(finding.photos) > 1 else ''}")
        shape = finding.mark if finding.open or finding.mark == "note" else "full"
        return Row(finding.entry.id, finding.text, " · ".join(said), shape, says=finding.mark)

    def finding(self) -> Finding | None:
        """Return the finding chosen."""
        job = self._in_hand.job
        return next((f for f in job.arrive.findings if f.entry.id == self._finding), None) if job else None

    def explain(self, because: Because) -> None:
        """Fill the reasons panel for what is chosen."""
        job, pack, chosen = self._in_hand.job, self._in_hand.pack, self.finding()
        if job is None:
            return
        if self._view != "walk":
            self._explain_other(because)
            return
        because.show_whole(None)
        if chosen is not None and chosen.mark == "hazard" and chosen.open:
            words = [
                f"“{chosen.text}” is an open hazard. Do not power it until this is cleared, or override it and say why.",
                "An override is written on page one of the certificate. Local codes and licensed practice come first.",
            ]
            because.show_words("Bars the way", words, "hazard")
        elif chosen is not None:
            state = (
                f"{chosen.settled}: {chosen.reason}" if chosen.settled else "still open" if chosen.open else "a note"
            )
            moment = f"{chosen.entry.at.astimezone():%Y-%m-%d %H:%M}"
            means = meaning(pack.zones, chosen.zone, chosen.text) if pack is not None else ""
            words = [
                f"“{chosen.text}”: {state}.",
                *([means] if means else []),
                f"Entry {chosen.entry.number}, {moment}, {chosen.entry.who}.",
            ]
            title = f"{chosen.mark.capitalize()}, {chosen.settled}" if chosen.settled else chosen.mark.capitalize()
            because.show_words(title, words, "full" if chosen.settled else chosen.mark)
        else:
            words = [
                "Walk round the outside, then the inside, zone by zone. Pull the cord first.",
                "A hazard blocks power-up. A fix is work you owe the owner. A note is for whoever opens it next.",
                *(
                    [f"Usually weak on such an instrument: {'; '.join(pack.weak)}."]
                    if pack is not None and pack.weak
                    else []
                ),
            ]
            because.show_words("Nothing found here yet", words, "ring")

    def _explain_other(self, because: Because) -> None:
        if self._view != "who":
            (self.cleaning if self._view == "clean" else self.map).explain(because)
            return
        because.show_whole(None)
        lines = [f"{line.day:%Y-%m-%d}   {line.words} (entry {line.entry})" for line in self._in_hand.history()]
        words = ["What this notebook knows of this instrument, the oldest first."] if lines else [
            "Nothing yet. An old calibration sticker becomes the first line; each certificate adds one."]  # fmt: skip
        because.show_words("Its history", [*words, *lines])

    # --- doing ----------------------------------------------------------------------------------------

    def _choose_zone(self, key: str) -> None:
        self._zone, self._finding, self._view = key, "", "walk"
        self.show_job()
        self.explainAsked.emit()
        self.text.setFocus()

    def _choose_finding(self, key: str) -> None:
        self._finding = key
        self._show_findings()
        self.explainAsked.emit()

    def _find_usual(self) -> None:
        """Enter writes a finding by what it usually is; the buttons say another mark."""
        job = self._in_hand.job
        if job is not None:
            self._find(usual_mark(self.text.text(), case_can_be_live(job, self._in_hand.parts())))

    def _find(self, mark: str) -> None:
        text = self.text.text().strip()
        if not text:
            self._voice.refuse("Write what you see first; nothing was written.")
            self.text.setFocus()
            return
        zone = "" if self._zone == "-" else self._zone
        if self._writer.do(arrive_commands.finding(zone, mark, text)):
            self._finding = self._in_hand.job.arrive.findings[-1].entry.id if self._in_hand.job else ""
            self._show_findings()
            self.explainAsked.emit()
            self.text.clear()
            self.text.setFocus()

    def _settle(self, how: str) -> None:
        chosen = self.finding()
        if chosen is not None and self._writer.settle(chosen.entry.id, how, self.reason.text()):
            self.reason.clear()
        else:
            self.reason.setFocus()

    def _strike(self) -> None:
        chosen = self.finding()
        if chosen is not None:
            self._writer.strike(chosen.entry)

    def _pick_photo(self) -> None:
        names = open_names(self, "Photos of the finding", PICTURES)
        self.attach([Path(name) for name in names])

    def attach(self, paths: list[Path]) -> None:
        """Attach pictures to the finding (or the step of the map) chosen."""
        if self._view in ("apart", "together"):
            self.map.attach(paths)
            return
        chosen = self.finding()
        attach_photos(
            paths, chosen.entry.id if chosen else "", missing="Enter the finding first, then add a photo to it.",
            writer=self._writer, voice=self._voice, notebook=self._notebook,
        )  # fmt: skip

    def paste_photo(self) -> None:
        """Attach the picture on the clipboard to what is chosen."""
        step = self.map.step() if self._view in ("apart", "together") else None
        chosen = step.entry if step else self.finding().entry if self.finding() else None  # type: ignore[union-attr]
        if chosen is None:
            self._voice.refuse("Write the finding or the step first, then paste its photo.")
            return
        name = pasted_picture(self._voice, self._notebook)
        if name:
            self._writer.do(arrive_commands.photo(chosen.id, name))

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if event.mimeData().hasUrls():
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        self.attach([Path(url.toLocalFile()) for url in event.mimeData().urls() if url.isLocalFile()])
        event.setDropAction(Qt.DropAction.CopyAction)
        event.accept()
