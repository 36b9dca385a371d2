"""The shop beside the job in hand: stock, orders, what all jobs need, time and money."""

from __future__ import annotations

from typing import TYPE_CHECKING

from candor.notebook.entries.shop import ShopRecord, shop_record
from candor.notebook.entries.standing import Standing
from candor.notebook.settings import Settings, settings_of

if TYPE_CHECKING:
    from candor.desktop.bench.bench import Bench
    from candor.notebook.stock import StockItem
    from candor.notebook.supplies import Order, Supplies


class Shop:
    """Asks the notebook what the whole shop has and needs; keeps nothing but the last answer until something is written."""

    def __init__(self, bench: Bench) -> None:
        self._bench = bench
        self._supplies: tuple[object, Supplies] | None = None

    def supplies(self) -> Supplies:
        """Return what the whole shop has, needs and awaits."""
        from candor.notebook.supplies import KINDS, supplies  # only where parts are in hand

        asked = (self._bench.notebook.revision(), self.instruments())
        if self._supplies is None or self._supplies[0] != asked:
            self._supplies = asked, supplies(self._bench.notebook.entries_of_kinds(KINDS), asked[1])
        return self._supplies[1]

    def stock(self) -> tuple[StockItem, ...]:
        """Return what is on hand."""
        return self.supplies().stock

    def free_stock(self, ref: str) -> tuple[StockItem, ...]:
        """Return what is on hand and not spoken for, seen from a part of the job in hand."""
        return self.supplies().free(self._bench.job.id if self._bench.job else "", ref)

    def orders(self) -> tuple[Order, ...]:
        """Return the orders of the shop, the newest first."""
        return self.supplies().orders

    def instruments(self) -> dict[str, str]:
        """Return the instrument of every job that has not gone home."""
        return {x.job: f"{x.name} {x.serial}".strip() for x in self._bench.lines if x.group != "gone home"}

    def spares(self) -> tuple[str, str]:
        """Return the spares policy as it was last written: per cent, and up to what price of one."""
        details = self.record().details
        return details.get("spares", ""), details.get("spares_up_to", "")

    def record(self) -> ShopRecord:
        """Return what stands of the shop's own entries."""
        return shop_record(Standing(self._bench.notebook.entries_of("")))

    def settings(self) -> Settings:
        """Return what the shop has said once for all its jobs."""
        return settings_of(self.record().details)

    def name(self) -> str:
        """Return the name of the shop, or nothing."""
        return self.record().details.get("shop", "")

    def money(self) -> tuple[str, str]:
        """Say time and parts of the job in hand against the price agreed."""
        from candor.notebook.orders import money_of, say_money

        job = self._bench.job
        if job is None:
            return "", ""
        record = job.stay
        ordered = money_of(job.id, self.orders())
        return say_money(record.agreed, record.an_hour, record.minutes, record.money, ordered)
