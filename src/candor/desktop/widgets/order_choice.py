"""In which order a list stands: one of some, chosen quietly above it."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Generic, TypeVar

from PySide6.QtCore import SignalInstance
from PySide6.QtWidgets import QComboBox

Order = TypeVar("Order", bound=str)


class OrderChoice(QComboBox, Generic[Order]):
    """A choice among orders, the first as it is opened.

    Parameters
    ----------
    name : str
        What a screen reader says.
    orders : sequence of str
    """

    def __init__(self, name: str, orders: Sequence[Order]) -> None:
        super().__init__()
        self._orders = tuple(orders)
        self.setObjectName("quiet")
        self.setAccessibleName(name)
        self.setToolTip(f"{name}: {', '.join(orders)}")
        self.addItems(list(orders))

    @property
    def choice(self) -> Order:
        """The order in force."""
        return self._orders[self.currentIndex()]

    @property
    def changed(self) -> SignalInstance:
        """Told when another order is chosen."""
        return self.currentIndexChanged
