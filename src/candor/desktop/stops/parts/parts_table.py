"""The parts list as it is drawn: state, designator, what it is, what was measured and what that means."""

from __future__ import annotations

from PySide6.QtCore import QModelIndex, QPersistentModelIndex, QPointF, QRect, QSize, Qt
from PySide6.QtGui import QPainter, QResizeEvent
from PySide6.QtWidgets import QStyle, QStyledItemDelegate, QStyleOptionViewItem

from candor.core.late_dataclass import dataclass
from candor.core.parts.part import GROUPS, VALUED
from candor.core.parts.reasons import Action
from candor.desktop.frame.local_numbers import local
from candor.desktop.frame.theme import Theme
from candor.desktop.widgets.glyphs import draw_glyph
from candor.desktop.widgets.row_list import Row, RowList
from candor.notebook.parts.parts_list import PartLine, PartsList
from candor.words.parts_words import say_measured, say_verdict

SHAPES = {Action.REPLACE: "cross", Action.CANNOT_TELL: "half", Action.WATCH: "watch", Action.KEEP: "full"}
WIDE = 600  # px at 100 %: below it what a part is made of moves into the first column


@dataclass(frozen=True)
class PartRow(Row):
    """A part: `text` is its designator, `under` what its measurements mean."""

    words: str = ""
    made: str = ""
    measured: str = ""
    faded: bool = False


class PartTable(RowList):
    """The list; a heading over every group."""

    def __init__(self, theme: Theme) -> None:
        super().__init__(theme, "Parts, riskiest first")
        self.setItemDelegate(_PartDelegate(theme, self))

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Keep the part in hand in sight while the panel below takes or gives room."""
        super().resizeEvent(event)
        self._keep_in_sight()

    def _keep_in_sight(self) -> None:
        if self.currentRow() == 1:
            self.scrollToTop()  # with the heading over it
        elif self.currentItem() is not None:
            self.scrollToItem(self.currentItem())

    def show_live(self, line: PartLine, live: tuple[str, str] | None) -> None:
        """Show one part's row anew, as often as the tester speaks: the others stay as they are."""
        for index, row in enumerate(self._rows):
            if row.key == line.part.ref:
                fresh = part_row(line, live)
                self._rows = (*self._rows[:index], fresh, *self._rows[index + 1 :])
                self._fill(self.item(index), fresh)
                return

    def show_parts(self, parts: PartsList, current: str, note: str, live: dict[str, tuple[str, str]]) -> None:
        """Show every part under its group; `live` holds what the tester says of a part now."""
        rows: list[Row] = []
        for group in GROUPS:
            lines = [x for x in parts.lines if x.part.group == group]
            if lines:
                rows.append(Row("", group))
                rows += [part_row(x, live.get(x.part.ref)) for x in lines]
        moved = current != self._current
        self.show_rows(tuple(rows) or (Row("", note),), current)
        if moved:
            self._keep_in_sight()


def part_row(line: PartLine, live: tuple[str, str] | None = None) -> PartRow:
    """Return how a part stands in the list."""
    part = line.part
    unsaid = "make not said" if part.kind in VALUED else ""
    made = ", ".join(x for x in (part.note or part.make or unsaid, f"can {part.can}" if part.can else "") if x)
    measured, says = say_measured(part, line.measured), say_verdict(line.verdict)
    shape = SHAPES[line.action] if line.action else "full"
    if line.action is Action.CANNOT_TELL and line.measured.nothing:
        shape = "ring"
    word = str(line.action) if line.action else line.fate
    if line.fate == "replaced" and line.changed is not None:
        measured, says = "replaced", f"{line.changed.body.text} · entry {line.changed.number}"
    elif line.fate:
        measured, says, shape = line.fate, "", "note"
    elif line.decided is not None:
        says = f"{line.decided.body.action}, your decision: {line.decided.body.reason}"
    elif line.action is Action.REPLACE and line.choice is not None:
        says = f"{says} · goes in: {line.choice.body.arrangement}"
    elif line.sample and line.measured.nothing:
        says = f"the sample: {says}"
    if live is not None:
        measured, says, shape, word = (*live, "running", "on the tester")
    return PartRow(
        key=part.ref, text=part.ref, under=says, shape=shape, strong=True, says=f"{part.words}, {made}, {measured}, {word}",
        words=part.words, made=made, measured=measured, faded=bool(line.fate),
    )  # fmt: skip


class _PartDelegate(QStyledItemDelegate):
    """Paints the rows in columns; what has no room is cut with an ellipsis and stands whole in the tooltip."""

    def __init__(self, theme: Theme, parent: PartTable) -> None:
        super().__init__(parent)
        self._theme, self._list = theme, parent

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex) -> QSize:
        row: Row = index.data(Qt.ItemDataRole.UserRole)
        return QSize(10, self._theme.px(44 if row.key else 32 if index.row() else 24))

    def paint(
        self, painter: QPainter, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex
    ) -> None:
        theme, row, box = self._theme, index.data(Qt.ItemDataRole.UserRole), option.rect
        painter.save()
        if not isinstance(row, PartRow):
            painter.setFont(theme.font("soft"))
            painter.setPen(theme.colour("soft"))
            painter.drawText(
                box.adjusted(theme.px(18), 0, 0, -theme.px(4)), Qt.AlignmentFlag.AlignBottom, local(row.text)
            )
            painter.restore()
            return
        if option.state & QStyle.StateFlag.State_Selected:
            painter.fillRect(box, theme.colour("panel"))
            painter.fillRect(QRect(box.left(), box.top(), theme.px(3), box.height()), theme.colour("petrol"))
        elif option.state & QStyle.StateFlag.State_MouseOver:
            painter.fillRect(box, theme.colour("inside"))
        centre = QPointF(box.left() + theme.px(25), box.top() + theme.px(15))
        draw_glyph(painter, theme, row.shape, centre, theme.px(5))
        ink = "soft" if row.faded else "ink"
        at, right = theme.px(42), box.right() - theme.px(8)
        wide = box.width() >= theme.px(WIDE)
        self._line(painter, box, at, at + theme.px(54), row.text, ink, "text", bold=True)
        at += theme.px(58)
        if wide:
            self._line(painter, box, at, at + theme.px(124), row.words, ink, "text")
            self._line(painter, box, at + theme.px(128), at + theme.px(254), row.made, "soft", "soft")
            at += theme.px(262)
        else:
            self._line(painter, box, at, at + theme.px(128), row.words, ink, "text")
            self._line(painter, box, at, at + theme.px(128), row.made, "soft", "note", low=True)
            at += theme.px(136)
        self._line(painter, box, at, right, row.measured, ink, "text")
        self._line(painter, box, at, right, row.under, "soft", "soft", low=True)
        painter.restore()

    def _line(
        self, painter: QPainter, box: QRect, left: int, right: int, text: str, colour: str, role: str, *, bold: bool = False,
        low: bool = False,
    ) -> None:  # fmt: skip
        theme = self._theme
        painter.setFont(theme.font(role, bold))
        painter.setPen(theme.colour(colour))
        place = QRect(box.left() + left, box.top() + theme.px(23 if low else 4), max(right - left, 0), theme.px(20))
        shown = painter.fontMetrics().elidedText(text, Qt.TextElideMode.ElideRight, place.width())
        painter.drawText(place, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft, local(shown))
