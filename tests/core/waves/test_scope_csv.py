"""Samples as oscilloscopes write them: headers of any kind, time found, decimal commas; and files that are none."""

import json

import numpy as np
import pytest
from typer.testing import CliRunner

from candor.cli import app
from candor.core.errors import CandorError
from candor.core.waves.scope_csv import read_waveforms

TIMES = np.arange(300) * 2e-6
ONE, TWO = np.sin(2 * np.pi * TIMES * 1e4), 0.5 * np.cos(2 * np.pi * TIMES * 1e4)


def rows(text, *columns):
    return "\n".join(text.format(*row) for row in zip(*columns, strict=True))


FILES = {
    "time and two channels": "time,CH1,CH2\n" + rows("{:.7e},{:.5f},{:.5f}", TIMES, ONE, TWO),
    "a long heading": "Kind,bench scope\nSample interval,2e-06\nDay,2026-02-03\n\nTIME,CH1,CH2\n"
    + rows("{:.7e},{:.5f},{:.5f}", TIMES, ONE, TWO),
    "decimal commas": "Zeit;CH1;CH2\ns;V;V\n" + rows("{:.7f};{:.5f};{:.5f}", TIMES, ONE, TWO).replace(".", ","),
    "units in brackets": "Time (us),CH1 (mV),CH2 [V]\n" + rows("{:.3f},{:.2f},{:.5f}", TIMES * 1e6, ONE * 1e3, TWO),
    "a count and an increment": "X,CH1,CH2,Start,Increment\nSequence,Volt,Volt,0.0,2.0e-06\n"
    + rows("{},{:.5f},{:.5f},,", range(300), ONE, TWO),
    "a rate and no time": "Sampling rate:\t500 kHz\nCH1 (V)\tCH2 (V)\n" + rows("{:.5f}\t{:.5f}", ONE, TWO),
    "no heading": rows("{:.7f} {:.5f} {:.5f}", TIMES, ONE, TWO),
    "labels before": "Point,Time,CH1,CH2\n" + rows("S{},{:.7e},{:.5f},{:.5f}", range(300), TIMES, ONE, TWO),
    "a heading beside": "\n".join(
        f"{beside},{row}"
        for beside, row in zip(
            ("Length,300", "Sample interval,2e-06", *[","] * 298), rows("{:.5f},{:.5f}", ONE, TWO).split("\n"), strict=True
        )
    ),
    "quoted": '"x-axis","1","2"\n"second","Volt","Volt"\n' + rows("{:.7e},{:.5e},{:.5e}", TIMES, ONE, TWO),
}  # fmt: skip


@pytest.mark.parametrize("text", FILES.values(), ids=FILES)
def test_every_heading_is_understood(text):
    found = read_waveforms(text)
    assert len(found) == 2
    for wave, values in zip(found, (ONE, TWO), strict=True):
        assert (wave.count, wave.unit) == (300, "V")
        assert wave.interval_s == pytest.approx(2e-6, rel=1e-3)
        assert wave.values == pytest.approx(values, abs=2e-5)


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("a,b\n1,2\n2,3\n3,4\n4,5", "4 samples; at least 8 were expected"),
        (
            "time,v\n" + rows("{},{}", range(20, 0, -1), range(20)),
            "time runs back, or stands still, at sample 2 .19 s",
        ),
        (
            "time,v\n" + rows("{},{}", [*range(9), 40, *range(41, 50)], range(19)),
            "not evenly spaced: 32 s after sample 9",
        ),
        ("time,v\n" + rows("{},{}", range(9), range(9)) + "\n9", "line 11: 1 values; 2 were expected"),
        ("time,v\n" + rows("{},{}", range(9), range(9)) + "\n9,much", "line 11: “9,much” is not a row of numbers"),
        ("nothing\nof use", "no samples in the first 2 lines"),
        ("v\n" + "\n".join("1" for _ in range(20)), "no time was found"),
        ("time\n" + "\n".join(str(i) for i in range(20)), "nothing beside it; a channel was expected"),
    ],
)
def test_what_is_no_table_of_samples(text, words):
    with pytest.raises(CandorError, match=words):
        read_waveforms(text, "f.csv")


def test_the_command_line_answers(tmp_path):
    file = tmp_path / "w.csv"
    file.write_text(FILES["time and two channels"], encoding="utf-8")
    told = json.loads(CliRunner().invoke(app, ["waveform", str(file), "--json"]).stdout)
    assert [t["channel"] for t in told] == ["CH1", "CH2"]
    assert told[0]["figures"]["frequency"]["value"] == pytest.approx(1e4, rel=1e-4)
    assert told[0]["figures"]["frequency"]["U"] > 0
    assert told[0]["levels"]["high"] > told[0]["levels"]["low"]
    assert told[1]["figures"]["phase"]["value"] == pytest.approx(90, abs=0.1)
    assert {u["figure"] for u in told[0]["untold"]} >= {"AM depth"}
    lines = CliRunner().invoke(app, ["waveform", str(file), "--scope", "1 us"]).stdout
    assert "CH1: 300 samples of 2e-06 s" in lines
    assert "rise of the source" in lines


def test_a_long_file_is_never_held_line_by_line():
    import tracemalloc

    text = "t_s,v\n" + "".join(f"{i * 1e-6:.6f},{i % 7}\n" for i in range(40_000))
    tracemalloc.start()
    waves = read_waveforms(text)
    peak = tracemalloc.get_traced_memory()[1]
    tracemalloc.stop()
    assert len(waves[0].values) == 40_000
    assert peak < 6 * len(text)  # split into lines and joined again it was fifteen times as much


def test_lines_may_end_as_they_do_on_any_machine():
    rows = ["t_s,v", *(f"{i * 1e-6:.6f},{i % 7}" for i in range(50))]
    found = [read_waveforms(end.join(rows))[0] for end in ("\n", "\r\n", "\r")]
    assert all((wave.values == found[0].values).all() and wave.interval_s == found[0].interval_s for wave in found)
