"""The reading in hand says at a trim which part must be what, by what was read and what lies in stock."""

from candor.notebook.entries.calibrate_entries import ReadingTaken
from candor.notebook.entries.parts_entries import PartMeasured
from candor.notebook.entries.shop_entries import StockCounted
from candor.notebook.entries.stay_entries import JobOpened
from candor.packs.bundled import bundled_pack
from candor.packs.procedure import procedure
from workbench import put


def test_at_the_step_that_turns_it(show, notebook):
    pack = bundled_pack("tarnholm-tt7")
    notebook.write("", StockCounted(key="r", what="resistor", value=15e3, tolerance=0.05, make="metal film", count=3))
    job = JobOpened(maker="T", type="T", serial="1", pack_digest=notebook.keep_pack(pack))
    read = ReadingTaken(
        step="line:as-found:line/mark/150", phase="as found", point="line/mark/150", indicated=150, reference=148
    )
    notebook.write("j", job)
    notebook.write("j", read)
    window = show(notebook)
    window.bench.place.go("calibrate", next(s.key for s in procedure(pack) if s.key.startswith("trim-line")))
    assert "By its circuit R30, 1.1249 MΩ, must be 1.1401 MΩ: 15.2 kΩ in series" in window.hand.words()
    assert "15 kΩ 5 % from stock: then the range is off by +0.02 %." in window.hand.words().replace("metal film ", "")
    put(window.bench.writer, PartMeasured(ref="R30", value=1.11e6))
    assert "By its circuit R30, 1.11 MΩ" in window.hand.words()
