"""The day: what is done when, by whose hands and with which shared thing, so that promises are kept."""
