"""Waveforms: samples of a digital oscilloscope into times, levels, shapes and spectra, each with its uncertainty."""
