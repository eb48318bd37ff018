"""How wide the bell over a standpipe is made, and how much its slots let through."""

from bathys.parts.bores import PipeSize, pipe_sizes
from bathys.physics import area_of

__all__ = ["SLOTS_OVER_PIPE", "bell_over"]

_BELL = 1.9  # inside of the bell over the standpipe's: nominal sizes twice as large are a bit less
_ANNULUS = 1.5  # area about the standpipe over its own (common practice)
SLOTS_OVER_PIPE = 2.0
"""Area of all slots over the standpipe's (common practice)."""


def bell_over(standard: str, pipe: PipeSize) -> PipeSize | None:
    """The smallest pipe of a standard that makes a bell over a standpipe.

    Parameters
    ----------
    standard : str
        A pipe standard
    pipe : PipeSize
        The standpipe

    Returns
    -------
    PipeSize or None
        The bell's; none if the standard has none so wide
    """
    for size in pipe_sizes(standard):
        gap = area_of(size.bore) - area_of(pipe.outside_diameter)
        if size.bore >= _BELL * pipe.bore and gap >= _ANNULUS * area_of(pipe.bore):
            return size
    return None
