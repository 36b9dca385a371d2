"""Adjusters that move each other, in words: the turns that set them at once, or the order and the rounds one by one."""

from __future__ import annotations

from typing import Any

from candor.core.calibration.interacting import OF_THE_PART, Interacting
from candor.core.quantities.show import signed, trimmed


def say_turns(found: Interacting) -> list[str]:
    """Return the turns that set all at once from where it stood at the start, what that leaves, and what rounds would come to."""
    names = " and ".join(found.names)
    if found.beyond:
        if len(found.names) == 1:
            return [
                f"{names[:1].upper()}{names[1:]} would have to go far beyond what was tried: it does not do it alone. "
                "Look for what else is off."
            ]
        return [
            f"{names[:1].upper()}{names[1:]} do nearly the same: what would set them together lies far beyond the turns that were tried. "
            "Try a larger turn, or look for what else is off."
        ]
    unit = "% of its part" if found.unit == OF_THE_PART else found.unit
    turns = ", ".join(f"{n} {signed(t, 2)} {unit}" for n, t in zip(found.names, found.at_once, strict=True))
    left = ", ".join(signed(e, 2) for e in found.left)
    u = f" (±\u00a0{trimmed(found.expanded[0], 2)})" if found.expanded[0] else ""
    lines = [
        f"All at once, from where they stood at the start: {turns}. That leaves {left}{u}. Read all points again after it."
    ]
    order = ", then ".join(f"{name} at point {point + 1}" for name, point in found.order)
    if found.rounds is None:
        worse = (
            "each round makes it worse"
            if found.diverges
            else f"{order} over and over does not bring every error under a fifth of its limit"
        )
        lines.append(f"One by one it does not come to rest: {worse}. Set them at once.")
    elif found.rounds == 1:
        lines.append(f"One by one: {order}. One round is enough.")
    else:
        lines.append(f"One by one: {order}; {found.rounds} rounds.")
    return lines


def turns_json(found: Interacting) -> dict[str, Any]:
    """Return it as fields, with its sentences."""
    return {
        "unit": found.unit,
        "at once": [{"adjuster": n, "turns": round(t, 6)} for n, t in zip(found.names, found.at_once, strict=True)],
        "left": [round(e, 9) for e in found.left], "U": round(found.expanded[0], 6),
        "matrix": [[round(float(v), 9) for v in row] for row in found.matrix],
        "order": [{"adjuster": n, "point": p + 1} for n, p in found.order], "rounds": found.rounds, "diverges": found.diverges, "beyond": found.beyond,
        "sentences": say_turns(found),
    }  # fmt: skip
