"""Drilled holes."""
