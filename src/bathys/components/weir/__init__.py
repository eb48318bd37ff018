"""Weirs: notches in a rim, and a rim that water runs over."""
