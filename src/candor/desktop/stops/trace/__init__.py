"""The stop Trace: nodes, ohms, signal, and the ledger of changes."""
