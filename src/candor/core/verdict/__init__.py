"""Limits, decision rules, what would settle a doubt, and risk."""
