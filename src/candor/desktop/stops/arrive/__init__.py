"""The walk round the instrument."""
