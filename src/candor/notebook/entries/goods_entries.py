"""What a piece is, whoever has it."""

from __future__ import annotations

from dataclasses import fields
from typing import Annotated, Any

from pydantic import Field, model_validator

from candor.core.parts.component import Component
from candor.core.parts.part import VALUED, Kind
from candor.core.worded import worded
from candor.notebook.entries.body import Nested
from candor.notebook.entries.fields_entries import NotBelow, Text


class Goods(Nested):
    """What a piece is, whoever has it."""

    what: Kind
    value: NotBelow = 0.0
    type: str = ""
    tolerance: NotBelow = 0.0
    make: str = ""
    volts: NotBelow = 0.0
    watts: NotBelow = 0.0
    safety: str = ""
    celsius: NotBelow = 0.0

    @model_validator(mode="after")
    def _has_its_value(self) -> Goods:
        if self.what in VALUED and not self.value > 0:
            raise ValueError(worded("entries.value_a_has_one_above", what=self.what))
        return self

    @property
    def component(self) -> Component:
        """It as the core knows pieces."""
        return Component(**self.said_of_it())

    def said_of_it(self) -> dict[str, Any]:
        """Return what is said of the piece itself, by the core's names."""
        said = {name: getattr(self, name) for name in Goods.model_fields}
        return {"kind": said.pop("what"), **said}


def goods_of(component: Component) -> dict[str, Any]:
    """Return a component as the fields that say the same of it."""
    said = {field.name: getattr(component, field.name) for field in fields(Component)}
    return {"what": said.pop("kind"), **said}


class NeedLine(Goods):
    """So many of one kind to put in a part's place."""

    text: Text
    count: Annotated[int, Field(ge=1, le=1000)] = 1
    supplier: str = ""
    price: NotBelow = 0.0
    stock: str = ""
