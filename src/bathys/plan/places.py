"""Places: where a run begins or ends, named ``T1.return`` for a port, ``P1.out`` for a pump's or an
outlet's end, ``X1.tail`` for a siphon's, and by its id for a junction."""

from functools import lru_cache

__all__ = ["part_id"]


@lru_cache(maxsize=8192)
def part_id(place: str) -> str:
    """The part that a place belongs to; a junction is its own place.

    Parameters
    ----------
    place : str
        Such as ``T1.return``

    Returns
    -------
    str
        The part's id, such as ``T1``
    """
    return place.partition(".")[0]
