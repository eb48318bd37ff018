"""Signing in."""
