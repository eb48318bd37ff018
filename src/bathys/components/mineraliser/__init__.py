"""The weekly round of a mineralising drum."""
