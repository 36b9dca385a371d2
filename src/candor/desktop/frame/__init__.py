"""The window and what stands round the work: route, shelf, reasons, jot line."""
