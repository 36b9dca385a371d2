"""A test of a tube: the one that comes next or any other, the sheet of its tester, and the line of the tester."""

from __future__ import annotations

from PySide6.QtWidgets import QComboBox

from candor.core.errors import CandorError
from candor.core.severity import Severity
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.shop_in_hand import Shop
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.theme import Theme, label
from candor.desktop.rooms.tube_line_log import TubeLineLog
from candor.desktop.rooms.tube_panels import OTHER, TubePanel
from candor.desktop.widgets.controls import button
from candor.notebook.store import Notebook
from candor.notebook.tubes.line_of_test import with_line
from candor.notebook.tubes.testers import Tester, tester_for
from candor.notebook.tubes.tubes_text import (
    DASHES_LINE,
    NUDGE_LINE,
    SAG_LINE,
    TEST_LINE,
    read_nudges,
    read_sag,
    read_test,
)
from candor.sitting.commands import shop_commands
from candor.words.tubes_words import ask_for_dashes, say_line_sag, say_out_of_order


class TestPanel(TubePanel):
    """The test that comes next, and any other that may be made."""

    __test__ = False  # not a test case, whatever its name says to a test runner

    def __init__(
        self, theme: Theme, *, in_hand: JobInHand, writer: Writer, voice: Voice, shop: Shop, notebook: Notebook
    ) -> None:
        super().__init__(theme, in_hand=in_hand, writer=writer, voice=voice, shop=shop)
        self._notebook = notebook
        self.next = label("", "text", bold=True)
        self.ask = label("", "soft")
        self.tester = QComboBox()
        self.tester.setAccessibleName("Tester")
        self.settings = label("", "soft")
        self.good = button("Good", "The test that comes next: good")
        self.bad = button("Bad", "The test that comes next: bad")
        self.line = self._field("A test", TEST_LINE)
        self.write = button("Write it", "Write the test", name="main")
        self.nudges = self._field(
            "What a dash of each control is worth",
            f"a dash of each control is worth: {NUDGE_LINE}, or as read: {DASHES_LINE}",
        )
        self.keep = button("Keep the sheet", "Keep what a dash of each control is worth for this type on this tester")
        self.sag = self._field("The line of the tester, empty and loaded", f"the line of the tester: {SAG_LINE}")
        self.behind = label("", "soft")
        self.log = TubeLineLog(theme, voice)
        for widget in (self.next, self.ask, self.tester, self.settings):
            self.column.addWidget(widget)
        self._row(self.good, self.bad)
        self.column.addWidget(self.line)
        self._row(self.write)
        self.column.addWidget(self.nudges)
        self._row(self.keep)
        self.column.addWidget(self.sag)
        self.column.addWidget(self.behind)
        self.column.addWidget(self.log)
        self.good.clicked.connect(lambda: self._say("good"))
        self.bad.clicked.connect(lambda: self._say("bad"))
        self.write.clicked.connect(self._write)
        self.line.returnPressed.connect(self._write)
        self.keep.clicked.connect(self._keep)
        self.nudges.returnPressed.connect(self._keep)
        self.sag.returnPressed.connect(self._keep_sag)
        self.tester.activated.connect(lambda _: self._show_settings())

    def show_tube(self, key: str) -> None:
        """Show what comes next for a tube, and the testers there are."""
        super().show_tube(key)
        chosen = self.tester.currentData()
        testers = self._shop.testers()
        self.tester.clear()
        for job, name in testers:
            self.tester.addItem(name, job)
        self.tester.addItem(OTHER, "")
        place = self.tester.findData(chosen)
        self.tester.setCurrentIndex(max(place, 0))
        tube = self.tube
        upcoming = tube.next if tube is not None else None
        self.next.setText(f"Next: {upcoming.title.lower()}" if upcoming else "Nothing comes next.")
        self.ask.setText(upcoming.ask if upcoming else "")
        looks = upcoming is not None and not upcoming.has_figure
        self.ask.setVisible(upcoming is not None)
        for widget in (self.good, self.bad):
            widget.setVisible(looks)
        self._show_settings()

    def _tester(self, section: str) -> Tester | None:
        job, tube = self.tester.currentData(), self.tube
        if not job or tube is None:
            return None
        return tester_for(self._notebook, job, self._shop.standards, tube.body, section)

    def _show_settings(self) -> None:
        found = self._tester("")
        settings = f"Set {found.settings}. " if found is not None and found.settings else ""
        self.settings.setText(f"{settings}Its state: {found.state}." if found is not None else "")
        self.settings.setVisible(found is not None)
        sag = self._shop.tubes().sags.get(found.name) if found is not None else None
        self.sag.setVisible(found is not None)
        self.behind.setText(say_line_sag(sag.body) if sag is not None else "")
        self.behind.setVisible(sag is not None)

    def _say(self, outcome: str) -> None:
        tube = self.tube
        if tube is not None and tube.next is not None:
            self._put(f"{tube.next.key} {outcome}")

    def _write(self) -> None:
        self._put(self.line.text())

    def _put(self, line: str) -> None:
        tube = self.tube
        if tube is None:
            return
        try:
            test = read_test(line, tube.body)
        except CandorError as error:
            self._voice.refuse(error)
            return
        early = tube.out_of_order(test.test)
        tester = self._tester(test.section)
        if tester is not None and not test.tester:
            test = tester.taken(test)
        if test.figure is not None and not test.line_held_volts:
            fallen = self.log.held()
            test = with_line(test, fallen) if fallen is not None else test
        if self._writer.do(shop_commands.tube_tested(test)):
            self.line.clear()
            self.log.forget()
            self.written.emit()
            known = self._shop.tubes().nudges
            if early is not None:
                self._voice.say(f"Written. {say_out_of_order(early)}", Severity.ASK)
            elif test.figure is not None and test.tester and (tube.body.type, test.tester, test.unit) not in known:
                self._voice.say(f"Written. {ask_for_dashes(tube.body.type, test.tester)}", Severity.ASK)
            else:
                self._voice.say("Written.", Severity.DONE)

    def _keep(self) -> None:
        tube, tester = self.tube, self._tester("")
        if tube is None:
            return
        try:
            if tester is None:
                raise CandorError("Which tester is the sheet of? Choose one.", expected="a tester of the shop")
            sheet = read_nudges(self.nudges.text(), tube.body.type, tester.name)
        except CandorError as error:
            self._voice.refuse(error)
            return
        if self._writer.do(shop_commands.nudge_sheet(*sheet)):
            self.nudges.clear()
            self.written.emit()

    def _keep_sag(self) -> None:
        tester = self._tester("")
        if tester is None:
            return
        try:
            sag = read_sag(self.sag.text(), tester.name)
        except CandorError as error:
            self._voice.refuse(error)
            return
        if self._writer.do(shop_commands.line_sag(sag)):
            self.sag.clear()
            self._show_settings()
