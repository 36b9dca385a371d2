"""Writing a pack as YAML: what is read back is the same pack."""

from __future__ import annotations

from typing import Any

from candor.packs.load import parse_pack
from candor.packs.model import Pack
from candor.packs.yaml_text import Literal, written


def pack_yaml(pack: Pack) -> str:
    """Return a pack as YAML, without what is as it would be anyway.

    Raises
    ------
    PackError
        Where it is not a pack that could be read back: with every fault, by line.
    """
    data: dict[str, Any] = pack.model_dump(mode="json", exclude_defaults=True)
    data = {"pack": 1, **data}
    if pack.circuit is not None:
        data["circuit"]["netlist"] = Literal(pack.circuit.netlist.rstrip("\n") + "\n")
    text = written(data)
    parse_pack(text, f"{pack.id}.yaml")
    return text
