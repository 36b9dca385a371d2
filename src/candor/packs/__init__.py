"""Packs: what Candor knows of a type of instrument, and the procedure it unfolds into."""
