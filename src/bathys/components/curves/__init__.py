"""Kinds of pump curves."""
