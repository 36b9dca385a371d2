"""Power: may it see mains, the way up, what the supply will do, and what is safe afterwards."""
