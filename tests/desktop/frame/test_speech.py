"""What is said aloud."""

from __future__ import annotations

from candor.desktop.frame.speech import Speech


def test_speech_without_the_program_says_so():
    assert "not installed" in Speech(program="no-such-program-here").toggle()


def test_speech_runs_the_program_it_is_given(qtbot):
    speech = Speech(program="true")
    speech.say("silent while off")
    assert speech.toggle() == "Speech is on."
    speech.say("seventy-five")
    speech.stop()
    assert speech.toggle() == "Speech is off."
