"""Fish of one age in a tank."""
