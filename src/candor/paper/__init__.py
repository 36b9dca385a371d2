"""Certificates, as PDF and as JSON with the same content."""
