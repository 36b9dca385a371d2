"""Nodes: what each should be and is, what resistors carry, and what does not add up."""

from __future__ import annotations

from operator import is_
from pathlib import Path

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QVBoxLayout, QWidget

from candor.core.errors import CandorError
from candor.core.jot.line import understand_at
from candor.core.parts.mains import WORSE
from candor.core.quantities import engineering
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.shop_in_hand import Shop
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.because import Because
from candor.desktop.frame.file_names import open_names
from candor.desktop.frame.theme import Theme, label
from candor.desktop.frame.thumbnails import PICTURES, PhotoStrip, attach_photos
from candor.desktop.widgets.answer_lines import AnswerLines
from candor.desktop.widgets.caution import Caution
from candor.desktop.widgets.circuit_chain import CircuitChain
from candor.desktop.widgets.controls import button
from candor.desktop.widgets.field import Field
from candor.desktop.widgets.flow import flow
from candor.desktop.widgets.row_list import Row, RowList
from candor.notebook.store import Notebook
from candor.notebook.trace.on_board import explain_board
from candor.notebook.trace.trace_view import NodeLine, NodesView, chain_of, nodes_view
from candor.notebook.work.job import Job
from candor.words.board_words import say_on_board
from candor.words.trace_words import say_load, say_node, say_sum, say_tubes

LIVE = (
    "Under power: clip on with power off and discharged where you can, one hand behind your back, somebody else in "
    "the house. Never from "
    "pin to pin on a picture tube. Local codes and licensed practice come first."
)
MOST_LINES = 8
SHAPES = {"as expected": "full", "low": "cross", "high": "cross", "should be 0": "cross", "not expected": "half"}


class NodesPanel(QWidget):
    """The list of nodes.

    Signals
    -------
    chosenAnew()
        Another node is in hand.
    """

    chosenAnew = Signal()

    def __init__(
        self, theme: Theme, *, in_hand: JobInHand, writer: Writer, voice: Voice, shop: Shop, notebook: Notebook
    ) -> None:
        super().__init__()
        self._in_hand, self._writer, self._voice, self._shop = in_hand, writer, voice, shop
        self._chosen, self._notebook = "", notebook
        self._seen: tuple[tuple[object, ...], float, NodesView] | None = (
            None  # what the view was made of, and the view
        )
        self.caution = Caution(theme)
        self.summary = label("", "heading", bold=True)
        self.list = RowList(theme, "Nodes", wrap=True)
        self.read = Field()
        self.read.setPlaceholderText("n5 182 with 10M: a node as read; n5 by drawing 180 V at 2000 ohm/V on 300 V")
        self.read.setAccessibleName("A node as read or as drawn")
        self.words = label("", "text")
        self.chain = CircuitChain(theme)
        self.photo = button("A photo of it …", "Where the node in hand is found on the board", name="choice")
        self.photos = PhotoStrip(theme)
        self.explained = AnswerLines("what explains what was read", MOST_LINES, say_on_board)
        self.loads = RowList(theme, "What resistors carry", wrap=True)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(7))
        for widget in (self.caution, self.summary, self.read, self.explained, self.chain, self.list):
            column.addWidget(widget)
        self.caution.say(LIVE)  # where it stands: said before, it would flash up as a window of its own
        column.addLayout(flow(theme.px(8), self.photo))
        for under in (self.photos, self.words, self.loads):
            column.addWidget(under)
        column.addStretch()
        self.read.returnPressed.connect(self._write)
        self.list.picked.connect(self.choose)
        self.chain.picked.connect(self.choose)
        self.photo.clicked.connect(self._ask_photo)

    def view(self) -> NodesView | None:
        """Everything that is known of the nodes."""
        job = self._in_hand.job
        if job is None:
            return None
        line = job.calibrate.conditions.get("line_volts")
        mains = self._shop.settings.mains or WORSE
        ratio = line.body.value / mains.volts if line is not None and self._shop.settings.mains else 1.0
        asked = (job, self._in_hand.parts(), self._in_hand.sister_nodes())
        if self._seen is None or self._seen[1] != ratio or not all(map(is_, self._seen[0], asked)):
            self._seen = asked, ratio, nodes_view(*asked, ratio)
        return self._seen[2]

    def show_job(self) -> None:
        """Show how the nodes stand."""
        view = self.view()
        if view is None:
            return
        judged = [x for x in view.lines if x.judged is not None]
        off = [x for x in judged if x.judged is not None and SHAPES[x.judged.state] == "cross"]
        if not view.lines:
            self.summary.setText("No node is known yet")
        else:
            self.summary.setText(f"{len(judged)} of {len(view.lines)} nodes read, {len(off)} not as expected")
        rows = [self._row(x) for x in sorted(view.lines, key=_rank)]
        self.list.show_rows(tuple(rows), self._chosen)
        self.list.setVisible(bool(rows))
        self.list.fit(9)
        job = self._in_hand.job
        self.photo.setVisible(bool(self._chosen))
        self.photos.show_photos(self._notebook.photo_folder, job.trace.photos.get(self._chosen, ()) if job else ())
        self._draw_chain(view)
        self._explain(job)
        said = [
            *say_tubes(view.tubes),
            *map(say_sum, view.sums),
        ]
        self.words.setText("\n".join(said))
        self.words.setVisible(bool(said))
        loads = sorted(view.loads, key=lambda x: (not x.is_over, -abs(x.watts)))
        self.loads.show_rows(
            tuple(Row(x.name, say_load(x), shape="cross" if x.is_over else "full") for x in loads), ""
        )
        self.loads.setVisible(bool(loads))
        self.loads.fit(6)

    def _explain(self, job: Job | None) -> None:
        """Calculate anew what explains the readings where one of them, the circuit or a mark in a photo is another."""
        parts = self._in_hand.parts()
        if job is None or parts is None or parts.circuit is None:
            self.explained.ask((), None)
            return
        asked = (
            job.id,
            parts.circuit.netlist,
            job.trace.read,
            job.trace.pairs,
            job.trace.tubes,
            job.places,
            job.power.rails,
            job.stay.changes,
        )
        self.explained.ask(asked, lambda should_stop: explain_board(job, parts, should_stop))

    def _draw_chain(self, view: NodesView) -> None:
        """The node in hand, else the first that is off, between its rail and the chassis."""
        job, parts = self._in_hand.job, self._in_hand.parts()
        ranked = sorted(view.lines, key=_rank)
        node = self._chosen or (ranked[0].node if ranked and _rank(ranked[0])[0] == 0 else "")
        if job is None or parts is None:
            return
        said: dict[str, tuple[str, str]] = {"0": ("0 V", "soft")}
        for x in view.lines:
            if x.judged is not None:
                said[x.node] = (
                    engineering(x.judged.open_volts, "V", 3),
                    "brick" if SHAPES[x.judged.state] == "cross" else "ink",
                )
            elif x.expected is not None:
                said[x.node] = f"({engineering(x.expected.volts, 'V', 3)})", "soft"
        for line in parts.lines:
            said[line.part.ref] = engineering(line.part.nominal, "ohm", 3) if line.part.kind == "resistor" else "", ""
        self.chain.show_chain(chain_of(job, parts, node), said, node)

    def _ask_photo(self) -> None:
        names = open_names(self, "Photos of the node", PICTURES)
        self.attach([Path(name) for name in names])

    def attach(self, paths: list[Path]) -> None:
        """Attach pictures to the node in hand, which was read or is drawn."""
        job = self._in_hand.job
        entry = (job.trace.read.get(self._chosen) or job.trace.drawn.get(self._chosen)) if job is not None else None
        attach_photos(
            paths, entry.id if entry else "", missing="Read the node first, or write what the drawing says, then add its photo.",
            writer=self._writer, voice=self._voice, notebook=self._notebook,
        )  # fmt: skip

    def _row(self, x: NodeLine) -> Row:
        names = f" · {', '.join(x.aliases)}" if x.aliases else ""
        if x.judged is not None:
            return Row(
                x.node, f"{x.node}{names}", say_node(x.judged), SHAPES[x.judged.state], strong=x.node == self._chosen
            )
        want = (
            f"should be {engineering(x.expected.volts, 'V', 3)}" if x.expected is not None else "not known, not read"
        )
        return Row(x.node, f"{x.node}{names}", want, "ring", strong=x.node == self._chosen)

    def choose(self, node: str) -> None:
        """Take a node in hand: its reading is typed next."""
        self._chosen = node
        self.show_job()
        self.read.setText(f"{node} ")
        self.read.setFocus()
        self.chosenAnew.emit()

    def _write(self) -> None:
        job, text = self._in_hand.job, self.read.text().strip()
        if job is None or not text:
            return
        try:
            jot = understand_at("trace", f"node {text}")
            if jot is None:
                self._voice.refuse("Give a node and its voltage. Example: n5 182 with 10M")
                return
            if self._writer.jot(jot):
                self.read.clear()
        except CandorError as error:
            self._voice.refuse(error)

    def explain(self, because: Because) -> None:
        """Say what the node in hand should be and why."""
        view = self.view()
        because.show_whole(None)
        line = next((x for x in view.lines if x.node == self._chosen), None) if view else None
        if line is None or line.judged is None:
            because.show_words(
                "Nodes",
                [
                    "Expected: the drawing's figure, corrected for this line voltage and for the meter it assumed, ±20 % where "
                    "it gives no tolerance. Without one: calculated from the network, ±25 %. Failing that: a healthy instrument "
                    "of this type [common practice, no source].",
                    "Candor takes the load of your meter out of each reading: 10 MΩ unless you give another.",
                    "Currents must add up at every node. Where they do not, Candor says what would explain it, and how likely "
                    "that is.",
                ],
            )  # fmt: skip
            return
        because.show_words(line.node, [say_node(line.judged)], SHAPES[line.judged.state])


def _rank(line: NodeLine) -> tuple[int, str]:
    if line.judged is None:
        return (2, line.node)
    return (0 if SHAPES[line.judged.state] == "cross" else 1, line.node)
