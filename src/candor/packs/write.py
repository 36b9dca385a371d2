"""Writing a pack as YAML: what is read back is the same pack."""

from __future__ import annotations

import io
from typing import Any

from candor.packs.load import parse_pack
from candor.packs.model import Pack


def pack_yaml(pack: Pack) -> str:
    """Return a pack as YAML, without what is as it would be anyway.

    Raises
    ------
    PackError
        Where it is not a pack that could be read back: with every fault, by line.
    """
    from ruamel.yaml import YAML  # only where a pack is written
    from ruamel.yaml.scalarstring import LiteralScalarString

    data: dict[str, Any] = pack.model_dump(mode="json", exclude_defaults=True)
    data = {"pack": 1, **data}
    if pack.circuit is not None:
        data["circuit"]["netlist"] = LiteralScalarString(pack.circuit.netlist.rstrip("\n") + "\n")
    writer = YAML()
    writer.width = 120
    writer.indent(mapping=2, sequence=4, offset=2)
    out = io.StringIO()
    writer.dump(data, out)
    text = out.getvalue()
    parse_pack(text, f"{pack.id}.yaml")
    return text
