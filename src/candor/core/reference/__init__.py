"""Reference standards: what each is good for by function, chains of them, detectors and loading, age and choice."""
