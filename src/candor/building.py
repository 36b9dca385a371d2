"""The command line of who changes packs, kinds or grammars: what is made of them at build."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from candor.durably import write_durably


def building(app: typer.Typer) -> None:
    """Add these commands to those of packs."""

    @app.command("compile")
    def compile_(
        source: Annotated[Path, typer.Argument(help="Folder of YAML packs.")],
        target: Annotated[Path, typer.Argument(help="Where their JSON goes.")],
    ) -> None:
        """Compile packs to JSON, which loads at once, with an index of what there is."""
        from candor.packs.bundled import compile_packs

        for path in compile_packs(source, target):
            print(path)

    @app.command("compile-kinds")
    def compile_kinds_(
        source: Annotated[Path, typer.Argument(help="Folder of YAML kinds of instrument.")],
        target: Annotated[Path, typer.Argument(help="The JSON file they become.")],
    ) -> None:
        """Compile kinds of instrument to one JSON file, each with what it borrows."""
        from candor.packs.kinds_of_instrument import compile_kinds

        text = compile_kinds(source)
        target.parent.mkdir(exist_ok=True)
        write_durably(target, text.encode())
        print(target)

    @app.command("grammars")
    def grammars_(
        target: Annotated[Path, typer.Argument(help="The module of their tables, src/candor/core/parsers.py.")],
    ) -> None:
        """Make the tables of the parsers anew, after a grammar was changed."""
        from candor.core.circuit.netlist import line_grammar
        from candor.core.grammar import module_of
        from candor.core.quantities.formula import GRAMMAR

        write_durably(target, module_of({"netlist": line_grammar(), "formula": GRAMMAR}).encode())
        print(target)
