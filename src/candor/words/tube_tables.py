"""What was calculated of tables of tubes, in words: who matches whom, and a tester's correction."""

from __future__ import annotations

from typing import Any

from candor.core.quantities.show import trimmed
from candor.core.tubes.matching import Balance
from candor.words.tubes_words import say_balance, say_doubted


def say_matching(told: dict[str, Any]) -> str:
    """Return the same as lines."""
    lines = []
    for one in told.get("pairs", told.get("sets", ())):
        said = "" if one["told_apart"] else ", cannot be told apart"
        lines.append(
            f"{' and '.join(one['tubes'])}: {trimmed(one['mismatch'], 4)} ± {trimmed(one['U'], 2)} apart{said}"
        )
    lines.append(f"total {trimmed(told['total'], 4)}")
    lines += [f"left over: {', '.join(told['left_over'])}"] if told["left_over"] else []
    lines += [f"cannot be told apart: {', '.join(group)}" for group in told["cannot_be_told_apart"]]
    for name, of in told["balance"].items():
        lines.append(f"{name}: {say_balance(Balance(of['share'], of['U'], of['within']))}")
    return "\n".join(lines)


def say_correction(told: dict[str, Any]) -> str:
    """Say a correction: its line, who contradicts, and each tube."""
    lines = [
        f"figure = {trimmed(told['intercept'], 4)} + {trimmed(told['slope'], 5)} x shown, through {told['through']} known tubes, "
        f"from {trimmed(told['from'], 4)} to {trimmed(told['to'], 4)}."
    ]
    lines += [f"{name} contradicts the others and was left out." for name in told["contradict"]]
    lines += [say_doubted(told["doubted"])] if told["doubted"] else []
    for tube in told["tubes"]:
        what = tube.get("why") or f"{trimmed(tube['figure'], 4)} ± {trimmed(tube['U'], 2)}"
        lines.append(f"{tube['tube']}: shown {trimmed(tube['shown'], 4)}: {what}")
    return "\n".join(lines)
