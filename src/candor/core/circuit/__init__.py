"""Circuits: a netlist, its network, what should be read between two nodes."""
