"""An air pump with a manifold."""
