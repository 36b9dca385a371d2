"""What is usually done on a kind of instrument, where no maker's procedure is known: before the readings, and when it is trimmed.

Common practice, no source: an order that experience keeps. It is advice, to be replaced by the manual's; no certificate asks for
it.
"""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from typing import Annotated, Any

from pydantic import Field

from candor.core.worded import worded
from candor.packs.base import PackModel, Words
from candor.packs.steps import CheckStep, Section, WaitStep

PREPARATION, TRIMS = "usual-preparation", "usual-trims"


class FunctionHint(PackModel):
    """What is usually wrong when a function is read: it stands with its readings, in the order of the list."""

    names: Annotated[tuple[Words, ...], Field(min_length=1, description="what its title holds, one of them")]
    mistake: str = ""
    aim: str = ""
    cautions: tuple[str, ...] = ()
    set: dict[str, str] = Field(default={}, description="controls, and the position of each")
    hold_at_most: Annotated[float, Field(ge=0, description="seconds it may last")] = 0.0

    def is_of(self, title: str) -> bool:
        """Whether it is of a function that is called so: one of its names stands in the title, as words."""
        written = f" {_plain(title)} "
        return any(f" {_plain(name)} " in written for name in self.names)


def _plain(text: str) -> str:
    return " ".join(re.findall(r"[a-z0-9+−-]+", text.casefold().replace(".", "")))


class UsualSection(Section):
    """Steps that are usual for a kind: advice, that no certificate asks for."""

    hints: tuple[FunctionHint, ...] = ()


class UsualSteps(PackModel):
    """What a kind says of the work: the preparation, the functions in the order they are read, and the trims in theirs."""

    preparation: Annotated[
        tuple[Annotated[CheckStep | WaitStep, Field(discriminator="kind")], ...],
        Field(description="before the readings"),
    ] = ()
    functions: Annotated[tuple[FunctionHint, ...], Field(description="in the order they are usually read")] = ()
    trims: Annotated[tuple[CheckStep, ...], Field(description="adjusters in the order they are usually set")] = ()

    def over(self, borrowed: UsualSteps) -> UsualSteps:
        """Return it with what it does not say from another kind."""
        return UsualSteps(
            preparation=self.preparation or borrowed.preparation,
            functions=self.functions or borrowed.functions,
            trims=self.trims or borrowed.trims,
        )

    def sections(self) -> tuple[UsualSection, ...]:
        """Return its sections; none where nothing is said."""
        made = []
        if self.preparation or self.functions:
            steps = self.preparation or (_BEGIN,)
            made.append(
                UsualSection(
                    key=PREPARATION, title="Usual first", phase="preparation", steps=steps, hints=self.functions
                )
            )
        if self.trims:
            made.append(
                UsualSection(
                    key=TRIMS, title=worded("packs.usual_trims_in_order"), phase="adjustment", steps=self.trims
                )
            )
        return tuple(made)


_BEGIN = WaitStep(
    key="usual-warm",
    kind="wait",
    minutes=30,
    title=worded("packs.warm_up_min"),
    do=worded("packs.on_as_it_is_used_leave"),
    aim=worded("packs.readings_that_no_longer_move"),
    mistake=worded("packs.trimming_what_was_still_warming_up"),
)


def hint_of(sections: Sequence[Section], title: str) -> FunctionHint | None:
    """Return what is usually said of a function that is called so."""
    return next((h for h in _hints(sections) if h.is_of(title)), None)


def order_of(sections: Sequence[Section], title: str) -> int:
    """Return the place of a function in the usual order; last where nothing is said of it."""
    return next((i for i, hint in enumerate(_hints(sections)) if hint.is_of(title)), len(_hints(sections)))


def hinted(sections: Sequence[Section], title: str, words: Mapping[str, Any]) -> dict[str, Any]:
    """Return the words of a step with what is usually wrong at a function instead of what is wrong anywhere."""
    hint = hint_of(sections, title)
    if hint is None:
        return dict(words)
    given = hint.model_dump(include={"mistake", "aim", "cautions", "set", "hold_at_most"}, exclude_defaults=True)
    return {**words, **given}


def _hints(sections: Sequence[Section]) -> tuple[FunctionHint, ...]:
    return next((s.hints for s in sections if isinstance(s, UsualSection) and s.hints), ())
