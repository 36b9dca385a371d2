"""The shop beside the job in hand: stock, orders, what all jobs need, time and money."""

from __future__ import annotations

from typing import TYPE_CHECKING

from candor.notebook.job import fold

if TYPE_CHECKING:
    from candor.desktop.bench import Bench
    from candor.notebook.orders import Need, Order
    from candor.notebook.stock import StockItem


class Shop:
    """Asks the notebook what the whole shop has and needs; keeps nothing."""

    def __init__(self, bench: Bench) -> None:
        self._bench = bench

    def stock(self) -> tuple[StockItem, ...]:
        """Return what is on hand."""
        from candor.notebook.stock import stock  # this and the orders: only where parts are in hand

        return stock(self._bench.notebook.entries_of(""))

    def orders(self) -> tuple[Order, ...]:
        """Return the orders of the shop, the newest first."""
        from candor.notebook.orders import orders

        return orders(self._bench.notebook.entries_of(""))

    def instruments(self) -> dict[str, str]:
        """Return the instrument of every job that has not gone home."""
        return {x.job: f"{x.name} {x.serial}".strip() for x in self._bench.lines if x.group != "gone home"}

    def open_needs(self) -> tuple[Need, ...]:
        """Return what the jobs need and nobody has ordered or fitted yet."""
        from candor.notebook.orders import open_needs

        kinds = ("replacement", "change", "strike", "unstrike")
        return open_needs(self._bench.notebook.entries_of_kinds(kinds), self.instruments(), self.orders())

    def name(self) -> str:
        """Return the name of the shop, or nothing."""
        return fold("", self._bench.notebook.entries_of("")).details.get("shop", "")

    def money(self) -> tuple[str, str]:
        """Say time and parts of the job in hand against the price agreed."""
        from candor.notebook.orders import money_of, say_money

        job = self._bench.job
        if job is None:
            return "", ""
        record = job.parts
        ordered = money_of(job.id, self.orders())
        return say_money(record.agreed, record.an_hour, record.minutes, record.money, ordered)
