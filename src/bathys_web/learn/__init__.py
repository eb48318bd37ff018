"""Pages to learn from: help, tour, glossary."""
