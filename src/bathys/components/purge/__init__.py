"""Sludge let out of a settler at set times."""
