"""What the simulation refuses, and what ends it early."""

__all__ = ["Abandoned", "NotSimulated"]


class NotSimulated(ValueError):
    """A layout or a time that the simulation does not follow; its message says why."""


class Abandoned(Exception):
    """What was being followed is not wanted any longer."""
