"""A paper before it is printed: its pages as they will be, then the printer's own questions, or a file."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QMarginsF, QSizeF, Qt, Signal
from PySide6.QtGui import QImage, QPageLayout, QPageSize, QPixmap
from PySide6.QtPrintSupport import QPrintDialog, QPrinter
from PySide6.QtWidgets import QLabel, QVBoxLayout

from candor.core.severity import Severity
from candor.desktop.bench.voice import Voice
from candor.desktop.frame.because import Because
from candor.desktop.frame.drawn_pdf import Printable, draw_pdf, print_pdf, sizes_of
from candor.desktop.frame.file_names import save_name
from candor.desktop.frame.page import Page
from candor.desktop.frame.theme import Theme, label
from candor.desktop.widgets.controls import Column, button, empty, shortcut
from candor.desktop.widgets.flow import flow
from candor.desktop.widgets.worker import Work
from candor.durably import write_durably

MOST_SHOWN = 40  # pages: more are printed, and not shown here
WIDEST = 760  # px of a page at the text size as designed


class PrintPage(Page):
    """What Ctrl+P shows.

    Signals
    -------
    left()
        Back to where one was.
    drawn()
        The pages are shown.
    """

    left = Signal()
    drawn = Signal()

    def __init__(self, theme: Theme, voice: Voice) -> None:
        super().__init__()
        self._theme, self._voice = theme, voice
        self._paper = Printable("", "", lambda _: b"")
        self._pdf = b""
        self.making, self.printing = Work(self), Work(self)
        self.title = label("", "heading", bold=True)
        self.words = label("", "soft")
        self.print_ = button("Print …", "Choose a printer, pages and copies", "Ctrl+P", "main")
        self.save_ = button("Save as PDF …", "The same as a file", "Ctrl+S")
        self.back = button("Back", "Back to where you were; what is being printed stops", "Esc")
        self.pages = Column(theme.px(10), theme.px(10))
        self.pages.setAccessibleName("The pages as they will be printed")
        column = QVBoxLayout(self)
        column.setContentsMargins(theme.px(18), theme.px(12), theme.px(16), theme.px(12))
        column.setSpacing(theme.px(6))
        column.addWidget(self.title)
        column.addWidget(self.words)
        column.addLayout(flow(theme.px(8), self.print_, self.save_, self.back))
        column.addWidget(self.pages, 1)
        self.making.answered.connect(self._show)
        self.making.failed.connect(self._refuse)
        self.printing.answered.connect(self._printed)
        self.printing.failed.connect(self._voice.refuse)
        self.print_.clicked.connect(self._ask_printer)
        self.save_.clicked.connect(self._ask_name)
        self.back.clicked.connect(self._leave)
        shortcut(self, "Ctrl+P", self.print_.click)
        shortcut(self, "Ctrl+S", self.save_.click)
        shortcut(self, "Esc", self._leave)

    def show_paper(self, paper: Printable) -> None:
        """Make a paper beside the window, and show its pages."""
        self._paper, self._pdf = paper, b""
        self.title.setText(paper.title)
        self.words.setText("The pages are being made …")
        empty(self.pages.column)
        self._allow(False)
        width = min(self._theme.px(WIDEST), max(self.pages.viewport().width() - self._theme.px(24), 200))

        def make(should_stop: Callable[[], bool]) -> tuple[bytes, list[tuple[float, float]], list[QImage]]:
            pdf = paper.make(should_stop)
            return pdf, sizes_of(pdf), draw_pdf(pdf, width, should_stop, MOST_SHOWN)

        self.making.start(make)
        self.explainAsked.emit()

    def enter(self) -> None:
        """Come to it: Enter prints."""
        self.print_.setFocus()

    def _allow(self, may: bool) -> None:
        self.print_.setEnabled(may)
        self.save_.setEnabled(may)

    def _refuse(self, sentence: str) -> None:
        self.words.setText(sentence)
        self._voice.refuse(sentence)
        self.back.setFocus()

    def _show(self, made: object) -> None:
        if not isinstance(made, tuple):
            return
        self._pdf, self._sizes, images = made
        count = len(self._sizes)
        width, height = (round(side) for side in self._sizes[0])
        more = f" The first {len(images)} are shown." if count > len(images) else ""
        self.words.setText(f"{'1 page' if count == 1 else f'{count} pages'}, {width} × {height} mm.{more}")
        empty(self.pages.column)
        for number, image in enumerate(images, 1):
            page = QLabel()
            page.setPixmap(QPixmap.fromImage(image))
            page.setAccessibleName(f"Page {number}")
            page.setAlignment(Qt.AlignmentFlag.AlignLeft)
            self.pages.column.addWidget(page)
        self.pages.column.addStretch()
        self._allow(True)
        self.print_.setFocus()
        self.drawn.emit()

    def printer(self) -> QPrinter:
        """Return a printer set to the paper's own size, with no margin of its own: the pages have theirs."""
        made = QPrinter(QPrinter.PrinterMode.HighResolution)
        made.setDocName(self._paper.title)
        made.setFullPage(True)
        made.setPageSize(QPageSize(QSizeF(*self._sizes[0]), QPageSize.Unit.Millimeter))
        made.setPageMargins(QMarginsF(0, 0, 0, 0), QPageLayout.Unit.Millimeter)
        return made

    def _ask_printer(self) -> None:
        printer = self.printer()
        asking = QPrintDialog(printer, self)
        asking.setWindowTitle(f"Print: {self._paper.title}")
        asking.setMinMax(1, len(self._sizes))
        asking.setOption(QPrintDialog.PrintDialogOption.PrintPageRange, True)
        if asking.exec():
            self.print_on(printer)

    def print_on(self, printer: QPrinter) -> None:
        """Print beside the window."""
        pdf = self._pdf
        where = printer.outputFileName() or printer.printerName() or "the printer"
        self.words.setText(f"Printing on {where} …")
        self.printing.start(lambda should_stop: (print_pdf(pdf, printer, should_stop), where))

    def _printed(self, done: object) -> None:
        if not isinstance(done, tuple):
            return
        count, where = done
        pages = "1 page" if count == 1 else f"{count} pages"
        if count:
            self._voice.say(f"{pages} sent to {where}.", Severity.DONE)
        else:
            self._voice.refuse(f"Nothing was printed: {where} cannot be written to.")
        self.words.setText(f"{pages} sent to {where}." if count else "")

    def _ask_name(self) -> None:
        name = save_name(self, self._paper.title, self._paper.name, "PDF (*.pdf)")
        if name:
            self.save(Path(name))

    def save(self, path: Path) -> None:
        """Write the paper as a file."""
        try:
            write_durably(path, self._pdf)
        except OSError as error:
            self._voice.refuse(f"{path} could not be written: {error.strerror}. Nothing was lost.")
            return
        self._voice.say(f"Saved as {path.name}.", Severity.DONE)

    def _leave(self) -> None:
        self.making.cancel()
        self.printing.cancel()
        self.left.emit()

    def explain(self, because: Because) -> None:
        """Say what the paper rests on."""
        because.show_whole(None)
        because.show_words(
            self._paper.title, [*self._paper.words, "Printed at 300 dots an inch, each page at its own size."]
        )

    def finish(self) -> None:
        """Stop what goes on beside the window."""
        self.making.finish()
        self.printing.finish()
