"""One test point, and a whole run of them: from readings to verdicts."""
