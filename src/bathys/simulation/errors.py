"""What the simulation refuses."""

__all__ = ["NotSimulated"]


class NotSimulated(ValueError):
    """A layout or a time that the simulation does not follow; its message says why."""
