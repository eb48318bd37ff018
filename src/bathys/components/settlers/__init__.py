"""Settlers, one file each."""
