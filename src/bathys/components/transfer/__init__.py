"""Water carried by the clock."""
