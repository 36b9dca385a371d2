"""The file: its tables, chain, opening, checking."""
