"""Because: the reasons panel. Verdict first, then the sum, the budget, the rule, what would change it."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QButtonGroup, QHBoxLayout, QLabel, QPushButton, QSizePolicy, QVBoxLayout, QWidget

from candor.core.calibration.result import PointResult
from candor.core.calibration.run import RunResult
from candor.core.quantities import engineering
from candor.core.quantities.show import decimals, plain, scaled, trimmed
from candor.core.reading.reading import Reading
from candor.core.uncertainty.budget import Budget
from candor.core.uncertainty.simulate import Simulation, simulate
from candor.core.verdict.rules import Rule
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.frame.explained import Explained
from candor.desktop.frame.local_numbers import local
from candor.desktop.frame.place_crop import PlaceCrop
from candor.desktop.frame.theme import Theme, label, repolish
from candor.desktop.widgets.controls import Column, button, line
from candor.desktop.widgets.flow import flow
from candor.desktop.widgets.glyphs import Glyph
from candor.desktop.widgets.row_list import Row, RowList
from candor.desktop.widgets.worker import Work
from candor.notebook.store import Notebook
from candor.notebook.work.job import Job
from candor.packs.model import Pack
from candor.words.results import (
    reading_words,
    say_coverage,
    say_result,
    say_risk,
    say_rule,
    say_simulation,
    short_error,
    what_would_change,
)

DRAWS = 1_000_000
Section = tuple[str, list[str]]


class Bars(QWidget):
    """A budget as bars, the largest first."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._rows: tuple[tuple[str, float, str], ...] = ()
        self.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Fixed)

    def show_budget(self, budget: Budget, unit: str) -> None:
        """Show every contribution with its standard uncertainty."""
        self._rows = tuple((c.name, c.size, engineering(c.size, unit, 2)) for c in budget.largest_first())
        self.setAccessibleName("Budget")
        self.setAccessibleDescription("; ".join(f"{name}: {words}" for name, _, words in self._rows))
        self.setToolTip("\n".join(f"{c.name}: {c.reason}" for c in budget.largest_first()))
        self.updateGeometry()
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(self._theme.px(200), self._theme.px(21) * len(self._rows))

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        theme, step = self._theme, self._theme.px(21)
        largest = max((size for _, size, _ in self._rows), default=0.0)
        numbers = max((theme.width_of(words) for _, _, words in self._rows), default=0.0)
        names = max((theme.width_of(name) for name, _, _ in self._rows), default=0.0)
        start = min(names + theme.px(14), self.width() - numbers - theme.px(36))
        room = self.width() - start - numbers - theme.px(10)
        painter.setFont(theme.font())
        for index, (name, size, words) in enumerate(self._rows):
            middle = index * step + step / 2
            painter.setPen(theme.colour("ink"))
            cut = painter.fontMetrics().elidedText(name, Qt.TextElideMode.ElideRight, int(start) - theme.px(8))
            box = QRectF(0, index * step, self.width(), step)
            painter.drawText(box, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft, local(cut))
            painter.drawText(box, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight, local(words))
            wide = max(room * size / largest, 1.5) if largest > 0 else 1.5
            painter.fillRect(QRectF(QPointF(start, middle - theme.px(3)), QPointF(start + wide, middle + theme.px(4))),
                             theme.colour("petrol"))  # fmt: skip


class Because(QWidget):
    """The reasons panel.

    Signals
    -------
    rule(str)
        Another decision rule was chosen for the job.
    strike(int)
        A reading was struck, by the number of its entry.
    """

    rule = Signal(str)
    strike = Signal(int)

    def __init__(self, theme: Theme, in_hand: JobInHand, notebook: Notebook) -> None:
        super().__init__()
        self.setObjectName("panel")
        self.place = PlaceCrop(theme, in_hand, notebook)
        self._theme = theme
        self._result: PointResult | None = None
        self._work = Work(self)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        self.area = Column(theme.px(16), theme.px(7))
        self.area.setAccessibleName("Because")
        outer.addWidget(self.area)
        self._build()
        self._wire()
        self.show_words("", [])

    def _build(self) -> None:
        theme, column = self._theme, self.area.column
        self.heading = label("because", "soft")
        column.addWidget(self.heading)
        self.glyph = Glyph(theme, 17)
        self.word = label("", "verdict", bold=True)
        self.number = label("", "reading", wrap=False)
        head = QHBoxLayout()
        head.setSpacing(theme.px(8))
        head.addWidget(self.glyph)
        head.addWidget(self.word, 1)
        head.addWidget(self.number)
        column.addLayout(head)
        self.sentence = label()
        column.addWidget(self.sentence)
        self.point_part = QWidget()
        self.point_part.setObjectName("body")
        self._build_point(QVBoxLayout(self.point_part))
        column.addWidget(self.point_part)
        self.rest = label("", "soft")
        column.addWidget(self.rest)
        column.addWidget(self.place)
        self.sections: list[QLabel] = []
        self.sections_end = column.count()
        column.addStretch()
        self.explained = Explained()
        column.addWidget(self.explained)
        self.whole_part = QWidget()
        self.whole_part.setObjectName("body")
        whole = QVBoxLayout(self.whole_part)
        whole.setContentsMargins(0, 0, 0, 0)
        whole.addWidget(line())
        whole.addWidget(label("the whole", "soft"))
        row = QHBoxLayout()
        self.whole_glyph = Glyph(theme, 13)
        self.whole_words = label("", "text")
        row.addWidget(self.whole_glyph, 0, Qt.AlignmentFlag.AlignTop)
        row.addWidget(self.whole_words, 1)
        whole.addLayout(row)
        column.addWidget(self.whole_part)
        self.whole_part.hide()

    def _build_point(self, part: QVBoxLayout) -> None:
        theme = self._theme
        part.setContentsMargins(0, 0, 0, 0)
        part.setSpacing(theme.px(7))
        self.bars_title = label("", "soft")
        self.bars = Bars(theme)
        self.factor = label("", "note")
        self.change_title = label("what would change this", "soft")
        self.change = label("", "text")
        self.rule_words = label("", "note")
        self.rules: dict[str, QPushButton] = {}
        choices = QHBoxLayout()
        choices.setSpacing(theme.px(6))
        group = QButtonGroup(self)
        for rule in Rule:
            made = button(str(rule), f"Decide by the rule “{rule}”", name="choice")
            made.setCheckable(True)
            made.clicked.connect(lambda _=False, chosen=str(rule): self.rule.emit(chosen))
            group.addButton(made)
            choices.addWidget(made)
            self.rules[rule] = made
        choices.addStretch()
        self.readings_title = label("readings here", "soft")
        self.readings = RowList(theme, "Readings at this point")
        self.readings.setToolTip("Delete strikes the one chosen")
        self.readings.offers = lambda entry: (
            (("Strike the reading", "Del", lambda: self.strike.emit(int(entry))),) if entry.isdigit() else ()
        )
        self.readings.keyPressEvent = self._readings_key  # type: ignore[method-assign]
        self.simulate = button("Check by simulation", "Draw every contribution a million times", name="quiet")
        self.simulated = label("", "note")
        self.risk = button("Shop-wide risk", "False accepts over all such instruments", name="quiet")
        self.risk.setCheckable(True)
        self.risk_words = label("", "note")
        for above in (self.bars_title, self.bars, self.factor, self.change_title, self.change):
            part.addWidget(above)
        part.addLayout(choices)
        for below in (self.rule_words, self.readings_title, self.readings):
            part.addWidget(below)
        part.addLayout(flow(theme.px(14), self.simulate, self.risk))
        part.addWidget(self.simulated)
        part.addWidget(self.risk_words)

    def _wire(self) -> None:
        self.simulate.clicked.connect(self._start_simulation)
        self.risk.clicked.connect(self._show_risk)
        self._work.answered.connect(self._show_simulation)
        self._theme.changed.connect(self._fit_readings)

    def finish(self) -> None:
        """Stop the work in hand."""
        self._work.finish()
        self.explained.finish()
        self.place.finish()

    # --- what is shown --------------------------------------------------------------------------------

    def show_point(self, result: PointResult, preview: bool, apart: tuple[tuple[Reading, float], ...] = ()) -> None:
        """Give the reasons of a point; `preview` where the last reading is not taken yet.

        `apart` are readings at another line, with its volts: they are listed, and count for the influence of the line alone.
        """
        if result != self._result:
            self._work.cancel()
            self._say_simulated("")
            self.simulate.setText("Check by simulation")
        self._result = result
        self.place.show_for("")
        self.point_part.show()
        self.rest.setText("")
        self._show_sections(())
        self.glyph.show()
        verdict, unit = result.verdict, result.unit
        self.glyph.show_outcome(verdict.outcome)
        self.word.setText(f"{result.word[:1].upper()}{result.word[1:]}")
        self.heading.setText("because, if this reading is taken" if preview else "because")
        self.number.setText(short_error(result))
        self.number.setToolTip("Error in per cent of full scale, or of its limit")
        self.sentence.setText(say_result(result))
        factor, symbol = scaled(unit, result.verdict.error, result.coverage.expanded)
        expanded = plain(result.coverage.expanded / factor, decimals(result.coverage.expanded / factor))
        self.bars_title.setText(
            "" if result.seen else f"where the ± {expanded} {symbol} comes from".replace("  ", " ")
        )
        self.bars.show_budget(result.budget, unit)
        self.factor.setText(say_coverage(result))
        self.change.setText(what_would_change(result))
        self.rule_words.setText(say_rule(result))
        self.rules[verdict.rule].setChecked(True)
        self._show_readings(result, apart)
        self._show_risk()

    def _show_readings(self, result: PointResult, apart: tuple[tuple[Reading, float], ...]) -> None:
        rows = []
        for reading, volts in (*((r, 0.0) for r in result.readings), *apart):
            way = {"up": " from below", "down": " from above", "": ""}[reading.direction]
            shown = reading.word or reading_words(result.point, reading)
            under = f"entry {reading.entry}" if reading.entry else "in hand, not taken"
            line = f" · at {trimmed(volts, 4)} V line" if volts else ""
            rows.append(Row(str(reading.entry or "draft"), f"{shown}{way}{line} · {under}"))
        self.readings.show_rows(tuple(rows), "")
        self.readings_title.setText("readings here (Delete strikes)" if rows else "no reading here")
        self._fit_readings()

    def _fit_readings(self) -> None:
        self.readings.fit(6)

    def _readings_key(self, event: object) -> None:
        key = getattr(event, "key", lambda: 0)()
        item = self.readings.currentItem()
        if key in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace) and item is not None:
            row = item.data(Qt.ItemDataRole.UserRole)
            if row.key.isdigit():
                self.strike.emit(int(row.key))
            return
        RowList.keyPressEvent(self.readings, event)  # type: ignore[arg-type]

    def show_whole(self, run: RunResult | None, job: Job | None = None, pack: Pack | None = None) -> None:
        """Give the verdict of the whole run; with job and pack, what explains its errors."""
        self.whole_part.setVisible(run is not None)
        self.explained.show_run(job, pack, run)
        if run is not None:
            self.whole_glyph.show_outcome(run.outcome)
            self.whole_words.setText(f"{run.word.capitalize()}. {run.sentence}.")

    def show_words(
        self, title: str, paragraphs: list[str], shape: str = "", tint: str = "", sections: tuple[Section, ...] = ()
    ) -> None:
        """Say something that has no budget, such as why a hazard bars the way; sections follow under their headings."""
        self._result = None
        self._work.cancel()
        self.heading.setText("because")
        self.point_part.hide()
        self.glyph.setVisible(bool(shape))
        if shape:
            self.glyph.show_shape(shape)
        self.word.setText(title)
        self.number.setText("")
        self.sentence.setText(paragraphs[0] if paragraphs else "")
        self.rest.setText("\n\n".join(paragraphs[1:]))
        self._show_sections(sections)
        self.place.show_for(" ".join((title, *paragraphs)))

    def _show_sections(self, sections: tuple[Section, ...]) -> None:
        """Reuse the labels that are there: the panel changes with every part walked to."""
        wanted: list[tuple[str, str]] = []
        for heading, texts in sections:
            wanted.append((heading, "soft"))
            wanted += [(text, "note" if index else "text") for index, text in enumerate(texts)]
        while len(self.sections) < len(wanted):
            made = label("", "text")
            self.area.column.insertWidget(self.sections_end + len(self.sections), made)
            self.sections.append(made)
        for index, made in enumerate(self.sections):
            text, role = wanted[index] if index < len(wanted) else ("", "text")
            if made.property("role") != role:
                made.setProperty("role", role)
                repolish(made)
            made.setText(text)
            made.setContentsMargins(0, self._theme.px(7) if role == "soft" else 0, 0, 0)
            made.setVisible(bool(text))

    # --- on demand ------------------------------------------------------------------------------------

    def _start_simulation(self) -> None:
        if self._result is None:
            return
        if self.simulate.text() == "Stop the simulation":
            self._work.cancel()
            self.simulate.setText("Check by simulation")
            self._say_simulated("Stopped.")
            return
        budget = self._result.budget
        self.simulate.setText("Stop the simulation")
        self._say_simulated("Drawing …")
        self._work.start(lambda should_stop: simulate(budget, DRAWS, should_stop=should_stop))

    def _show_simulation(self, answer: Simulation) -> None:
        self.simulate.setText("Check by simulation")
        if self._result is None:
            return
        self._say_simulated(say_simulation(answer, self._result))

    def _say_simulated(self, text: str) -> None:
        self.simulated.setText(text)
        self.simulated.setVisible(bool(text))

    def _show_risk(self) -> None:
        self.risk_words.setVisible(self.risk.isChecked())
        self.risk_words.setText(say_risk(self._result) if self.risk.isChecked() and self._result else "")
