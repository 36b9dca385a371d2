"""Stock, needs and orders for the tests."""

from __future__ import annotations

from candor.notebook.entries.goods_entries import NeedLine
from candor.notebook.entries.shop_entries import StockCounted
from candor.notebook.parts.supplies import KINDS, supplies


def film(key="f", count=3, **more):
    body = {
        "key": key,
        "what": "capacitor",
        "value": 47e-9,
        "tolerance": 0.1,
        "make": "film",
        "volts": 630,
        "count": count,
    }
    return StockCounted.model_validate({**body, **more})


def need(text="47 nF 630 V film", count=1, key="", supplier="Fenwick", price=0.6, value=47e-9):
    return NeedLine(what="capacitor", value=value, text=text, count=count, stock=key, supplier=supplier, price=price)


def supplied(notebook, jobs=("a", "b")):
    return supplies(notebook.entries_of_kinds(KINDS), {j: j for j in jobs})
