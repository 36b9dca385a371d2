"""Procedure, dial, ribbon and the arm's-length view."""
