"""What is still owed before power: parts that are planned and not fitted, and the joints to re-solder, done as one change."""

from __future__ import annotations

from PySide6.QtWidgets import QHBoxLayout, QWidget

from candor.core.errors import CandorError
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.theme import Theme, label
from candor.desktop.widgets.controls import button
from candor.notebook.work.barriers import planned_not_fitted
from candor.sitting.commands import arrive_commands


class Outstanding(QWidget):
    """One line under the list; nothing where nothing is owed."""

    def __init__(self, theme: Theme, *, in_hand: JobInHand, writer: Writer) -> None:
        super().__init__()
        self._in_hand, self._writer = in_hand, writer
        self.words = label("", "text")
        self.done = button("Re-soldered", "All of these joints, as one change", name="quiet")
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(theme.px(8))
        row.addWidget(self.words, 1)
        row.addWidget(self.done)
        self.done.clicked.connect(self._resolder)

    def show_job(self) -> None:
        """Show what is owed."""
        job = self._in_hand.job
        planned = planned_not_fitted(job) if job is not None else ()
        joints = job.unit.joints if job is not None else ()
        said = []
        if planned:
            refs = ", ".join(e.body.ref for e in planned[:8]) + (" …" if len(planned) > 8 else "")
            said.append(f"{len(planned)} parts still to fit: {refs}. Do not power it before they are in.")
        if joints:
            places = ", ".join(e.body.where for e in joints[:6]) + (" …" if len(joints) > 6 else "")
            said.append(f"To re-solder: {len(joints)} ({places}).")
        self.words.setText(" ".join(said))
        self.done.setVisible(bool(joints))
        self.setVisible(bool(said))

    def _resolder(self) -> None:
        if self._in_hand.job is not None:
            try:
                self._writer.do(arrive_commands.resolder(self._in_hand.job))
            except CandorError:
                self.show_job()  # another window was faster: nothing is left to re-solder
