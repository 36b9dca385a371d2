"""The stop Power: may it be powered, the way up, the supply, on the way, and after."""
