"""Valves of a run, one file each."""
