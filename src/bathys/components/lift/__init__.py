"""The solids lift."""
