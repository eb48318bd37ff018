"""Topping up by hand."""
