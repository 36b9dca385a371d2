"""The schools a job follows: paper, electrolytics, and the limit of leakage."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtWidgets import (
    QButtonGroup,
    QComboBox,
    QPushButton,
)

from candor.core.leakage.capacitor import LeakageRule
from candor.core.parts.policy import Electrolytics, Policy, Resistors, Sight
from candor.desktop.frame.local_numbers import local
from candor.desktop.frame.theme import Theme, label
from candor.desktop.widgets.controls import button
from candor.desktop.widgets.flow import Flow
from candor.words.parts_words import POLICIES


class PolicyRow(Flow):
    """Three choices and a rule, side by side.

    Parameters
    ----------
    chosen : callable
        Called with the field of the policy and what was chosen.
    """

    def __init__(self, theme: Theme, chosen: Callable[[str, object], None]) -> None:
        super().__init__(theme.px(6))
        self._theme = theme
        self.sight: dict[str, QPushButton] = {}
        self.electrolytics: dict[str, QPushButton] = {}
        self.resistors: dict[str, QPushButton] = {}
        self.rule = QComboBox()
        self._groups: list[QButtonGroup] = []
        self._add_choices("paper", Sight, self.sight, lambda value: chosen("sight", value))
        self._add_choices(
            "electrolytics", Electrolytics, self.electrolytics, lambda value: chosen("electrolytics", value)
        )
        self._add_choices("resistors", Resistors, self.resistors, lambda value: chosen("resistors", value))
        for rule in LeakageRule:
            self.rule.addItem(local(f"limit {rule.words.partition(';')[0]}"), rule)
        self.rule.setObjectName("quiet")
        self.rule.setMinimumHeight(theme.px(26))
        self.rule.setAccessibleName("Leakage limit of electrolytics")
        self.rule.setToolTip("Leakage limit of electrolytics: C in µF, V in volts, µA (common practice, no source)")
        self.rule.activated.connect(lambda index: chosen("rule", self.rule.itemData(index)))
        self.addWidget(self.rule)

    def show_policy(self, policy: Policy) -> None:
        """Show what the job follows."""
        self.sight[policy.sight].setChecked(True)
        self.electrolytics[policy.electrolytics].setChecked(True)
        self.resistors[policy.resistors].setChecked(True)
        self.rule.setCurrentIndex(self.rule.findData(policy.rule))

    def _add_choices(
        self,
        word: str,
        kind: type[Sight] | type[Electrolytics] | type[Resistors],
        held: dict[str, QPushButton],
        chosen: Callable[[str], None],
    ) -> None:
        said = label(word, "soft", wrap=False)
        said.setMinimumHeight(self._theme.px(26))
        self.addWidget(said)
        group = QButtonGroup()
        self._groups.append(group)
        for choice in kind:
            made = button(str(choice), POLICIES[choice], name="choice")
            made.setCheckable(True)
            made.clicked.connect(lambda _=False, value=choice: chosen(value))
            group.addButton(made)
            held[choice] = made
            self.addWidget(made)
