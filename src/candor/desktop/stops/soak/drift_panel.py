"""Over the years: what it drifts by, when it is due, adjust or leave."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QSizePolicy, QVBoxLayout, QWidget

from candor.core.errors import CandorError
from candor.desktop.bench.clock import Clock
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.shop_in_hand import Shop
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.because import Because
from candor.desktop.frame.chart_menu import ChartMenu
from candor.desktop.frame.file_names import open_name
from candor.desktop.frame.theme import Theme, label
from candor.desktop.rooms.from_file import Preview
from candor.desktop.widgets.controls import button
from candor.desktop.widgets.fanchart import FanChart
from candor.desktop.widgets.flow import flow
from candor.desktop.widgets.order_choice import OrderChoice
from candor.desktop.widgets.row_list import Row, RowList
from candor.desktop.widgets.worker import Work
from candor.notebook.soak.drifting import POINT_ORDERS, DriftView, drift_asked, drift_view, due_choices
from candor.notebook.soak.past_import import counted, preview_past
from candor.notebook.storage.files import read_bytes_of
from candor.notebook.store import Notebook
from candor.notebook.work.job import Job
from candor.sitting.commands import soak_commands
from candor.words.drift_lines import drift_words
from candor.words.drift_words import advice_word, say_advice, say_due

HOW = (
    "Results from before",
    [
        "Each line is matched to its test point: by its key (dc+/150/75), or by function and name. One that "
        "names none is a history "
        "of its own.",
        "What is there already is recognised by point, day and error, and not taken in again.",
        "An error a hundred times its limit is asked about: write “really” behind it where it is so.",
    ],
)


class DriftPanel(QWidget):
    """The instrument's history over all its jobs, its fan, and when it is due.

    Signals
    -------
    calculated()
        The history was calculated, or could not be.
    previewAsked(object)
        A table is shown as it is understood, before anything of it is taken in.
    """

    calculated = Signal()
    previewAsked = Signal(object)

    def __init__(
        self,
        theme: Theme,
        *,
        in_hand: JobInHand,
        writer: Writer,
        voice: Voice,
        shop: Shop,
        notebook: Notebook,
        clock: Clock,
    ) -> None:
        super().__init__()
        self._in_hand, self._writer, self._voice, self._shop = in_hand, writer, voice, shop
        self._notebook, self._clock = notebook, clock
        self._view: DriftView | None = None
        self._asked: tuple[object, ...] = ()
        self._point = ""
        self.due = label("", "text", bold=True)
        self.why = label("", "text")
        self.chart = FanChart(theme)
        self.chart_menu = ChartMenu(self.chart, "drift", voice)
        self.said = label("", "text")  # of the point that is chosen, whole
        self.order = OrderChoice("Order of the points", POINT_ORDERS)
        self.points = RowList(theme, "Points")
        self.methods = {
            method: button(title, f"Due by {title.lower()}: printed on the certificate")
            for method, title in (
                ("forecast", "Take this day"),
                ("staircase", "By the staircase"),
                ("custom", "By custom"),
            )
        }
        self.kept = label("", "soft")
        self.take_in = button(
            "History from a file …",
            "Results from before: date, point, error, U, limit, when. One alone is jotted: past 2021-03-04 …",
        )
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(6))
        for widget in (self.due, self.why, self.chart, self.said):
            column.addWidget(widget)
        column.addLayout(flow(theme.px(8), self.order))
        column.addWidget(self.points)
        column.addWidget(self.kept)
        column.addLayout(flow(theme.px(8), *self.methods.values(), self.take_in))
        column.setStretchFactor(self.chart, 1)  # on a large screen the chart grows
        column.addStretch()
        self.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Expanding)
        self._work = Work(self)
        self._work.answered.connect(self._show)
        self._work.failed.connect(self._refuse)
        self.points.picked.connect(self._choose)
        self.order.changed.connect(lambda _: self._show(self._view))
        self.take_in.clicked.connect(self._ask)
        for method, made in self.methods.items():
            made.clicked.connect(lambda _=False, by=method: self._keep(by))

    def finish(self) -> None:
        """Stop the work in hand."""
        self._work.finish()

    def show_job(self) -> None:
        """Calculate the history anew where something was written; beside the window."""
        job = self._in_hand.job
        if job is None:
            return
        due = job.soak.due
        self.kept.setText(
            f"For the certificate: due {due.body.on:%d %b %Y}, by {due.body.method}." if due is not None else ""
        )
        self.kept.setVisible(due is not None)
        asked = (job.id, self._notebook.revision(), self._clock.now().date())
        if asked == self._asked:
            return
        self._asked = asked
        self.due.setText("The history is calculated …")
        path, who, known, today = (
            self._notebook.path,
            self._notebook.who,
            self._shop.standards,
            self._clock.now().date(),
        )

        def calculate(should_stop: Callable[[], bool]) -> DriftView | None:
            held = Notebook(path, who)  # its own: a connection belongs to the thread that opened it
            try:
                gathered = drift_asked(held, job, known)
            finally:
                held.close()
            return None if should_stop() else drift_view(gathered, today)

        self._work.start(calculate)

    def _refuse(self, sentence: str) -> None:
        self.due.setText(sentence)
        self.calculated.emit()

    @property
    def view(self) -> DriftView | None:
        """What was calculated last."""
        return self._view

    def _show(self, found: object) -> None:
        if not isinstance(found, DriftView):
            return
        self._view = found
        self.due.setText(f"Due {found.day:%d %b %Y}")
        self.why.setText(drift_words(found) + "".join(f"\n{f}" for f in found.faults))
        names = [p.name for p in found.points]
        if self._point not in names:
            self._point = found.due.worst or (names[0] if names else "")
        rows = []
        for point in found.in_order(self.order.choice):
            advice = found.advice.get(point.name)
            count = sum(len(s.results) for s in point.segments)
            under = f"{count} result{'s' if count != 1 else ''}" + (
                f" · {advice_word(advice).lower()}" if advice else ""
            )
            rows.append(
                Row(
                    point.name,
                    point.name,
                    under,
                    "half" if advice and advice.adjust else "full" if advice else "ring",
                )
            )
        self.points.show_rows(tuple(rows), self._point)
        self.points.fit(5)
        for widget in (self.points, self.chart):
            widget.setVisible(bool(rows))
        self.order.setVisible(len(rows) > 1)
        self._choose(self._point)
        self.calculated.emit()

    def choose(self, name: str) -> None:
        """Show a point, in the list too."""
        self._point = name
        if self._view is not None:
            self._show(self._view)

    def _choose(self, name: str) -> None:
        self._point = name
        found = self._view
        point = next((p for p in found.points if p.name == name), None) if found is not None else None
        advice = found.advice.get(name) if found is not None else None
        self.said.setText(say_advice(advice) if advice is not None else "")
        self.said.setVisible(advice is not None)
        self.chart.show_point(point, found.forecasts.get(name) if found else None, found.day if found else None)

    def _keep(self, method: str) -> None:
        pack = self._in_hand.pack
        if self._view is None or pack is None:
            return
        found = next(
            (d for m, d in due_choices(self._view, pack.kind, self._clock.now().date()).items() if m == method), None
        )
        if found is None:
            self._voice.refuse("There is no history to say it from. Nothing was written.")
            return
        self._writer.do(soak_commands.set_due(found.on, method, say_due(found)))

    def _ask(self) -> None:
        name = open_name(self, "History", "Tables (*.csv *.tsv *.txt)")
        if name:
            self.read_file(Path(name))

    def read_file(self, path: Path) -> None:
        """Take in results from before the first job here."""
        job = self._in_hand.job
        if job is None:
            return
        try:
            content = read_bytes_of(path, "a history")
        except CandorError as error:
            self._voice.refuse(error)
            return
        self.previewAsked.emit(self._previewed(path.name, job, content))

    def _previewed(self, name: str, job: Job, content: bytes) -> Preview:
        found = preview_past(content, self._clock.now().date(), self._in_hand.pack, job)
        return Preview(
            title=f"{name}: {', '.join(counted(found))}", noun="result", lines=found.lines, faults=found.faults,
            bodies=found.bodies, why=HOW, source=content, again=partial(self._previewed, name, job),
        )  # fmt: skip

    def explain(self, because: Because) -> None:
        """Say what the forecast rests on."""
        because.show_whole(None)
        found = self._view
        words = [
            "A segment ends at each adjustment or part change. An instrument that arrived dead has no as-found value: it is "
            "missing, not zero.",
            "The fan contains the true error half of the time (inner) and 95 times in 100 (outer). The instrument is due when the "
            "probability that every point is in tolerance falls below 95 %.",
            "In tolerance and far from the limit: leave it. Adjusting ends a history.",
        ]
        because.show_words(
            "How long it will stay so", [*words, f"Prior: {found.prior.words}."] if found is not None else words
        )
