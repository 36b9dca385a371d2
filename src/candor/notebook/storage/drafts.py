"""What is about to be written: its words without control characters, and whether it makes something safe."""

from __future__ import annotations

import contextlib
from dataclasses import replace

from pydantic import ValidationError
from pydantic_core import PydanticSerializationError

from candor.notebook.entries.body import Body
from candor.notebook.entries.entry import Draft
from candor.notebook.entries.power_entries import EventSeen, MeterProved, MetersOff, PluggedOut, RailRead, StateBegun
from candor.notebook.entries.runs_entries import RunEnded
from candor.notebook.entries.soak_entries import SwitchedOff
from candor.notebook.entries.sources_entries import SourceApplied, SourceReleased
from candor.notebook.storage.plain import plain_json


def plain_draft(draft: Draft) -> Draft:
    """Return a draft without control characters in its words."""
    with contextlib.suppress(PydanticSerializationError, UnicodeEncodeError):  # said when it is written
        text = draft.body.model_dump_json()
        if (plain := plain_json(text)) != text:
            with contextlib.suppress(ValidationError):  # words of nothing else: they stay as they are
                return replace(draft, body=type(draft.body).model_validate_json(plain))
    return draft


def makes_safe(body: Body) -> bool:
    """Whether an entry is of what is switched off, ended, or read until it is safe: that is never refused."""
    if isinstance(body, StateBegun):
        return body.line_volts == 0
    if isinstance(body, SourceApplied):
        return body.value == 0
    return isinstance(body, _ENDS)


_ENDS = (PluggedOut, RailRead, EventSeen, MeterProved, MetersOff, SourceReleased, RunEnded, SwitchedOff)
