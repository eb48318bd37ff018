"""Shells of vessels, one file each."""
