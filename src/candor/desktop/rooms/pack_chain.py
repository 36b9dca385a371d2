"""The circuit of a description as a chain, beside what is chosen in it."""

from __future__ import annotations

from candor.desktop.widgets.circuit_chain import CircuitChain
from candor.packs.chain_of_circuit import chain_of_circuit
from candor.packs.draft_text import Path
from candor.packs.model import Pack


class PackChain(CircuitChain):
    """From where what is measured is applied, through the chosen part, to the chassis."""

    WIDE, TALL, LINK, HIGH = 64, 24, 66, 42  # px at 100 %: no volts stand in its nodes

    def show_of(self, pack: Pack | None, path: Path) -> None:
        """Show the chain through what is chosen of a circuit, its parts or adjusters; nothing elsewhere."""
        place = path[1] if len(path) > 1 and isinstance(path[1], int) else None
        listed = pack.parts if pack is not None and path[:1] == ("parts",) else ()
        part = listed[place].ref if place is not None and place < len(listed) else ""
        if pack is None or path[:1] not in (("circuit",), ("parts",)):
            self.hide()
            return
        found = chain_of_circuit(pack, part)
        said = {name: (value, "ink") for name, value in found.values.items()}
        self.setAccessibleName("The circuit as a chain" if not part else f"The chain through {part}")
        self.show_chain(found.chain, said, found.node, part.replace(" ", "").upper())
