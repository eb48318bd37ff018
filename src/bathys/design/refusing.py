"""Why a brief cannot be met, and what would free it."""

from collections.abc import Mapping
from typing import Any

__all__ = ["DesignRefused", "milder"]


class DesignRefused(Exception):
    """A wish is in the way.

    Parameters
    ----------
    wish : str
        Field of the brief that is in the way
    sentence : str
        Why and by how much, with slots
    figures : mapping of str to (float or str)
        For the slots, in SI
    frees : mapping of str to object, optional
        The smallest change of the brief that frees it, by field, in SI; none where none is known
    """

    def __init__(
        self,
        wish: str,
        sentence: str,
        figures: Mapping[str, float | str] | None = None,
        frees: Mapping[str, Any] | None = None,
    ) -> None:
        super().__init__(sentence)
        self.wish, self.sentence = wish, sentence
        self.figures, self.frees = dict(figures or {}), dict(frees or {})


def milder(one: DesignRefused | None, two: DesignRefused) -> DesignRefused:
    """The refusal that asks for less, of two with the same wish in the way; else the first.

    Parameters
    ----------
    one : DesignRefused or None
        The first; none yet
    two : DesignRefused
        Another

    Returns
    -------
    DesignRefused
        One of them
    """
    if one is None:
        return two
    asked, less = one.frees.get(one.wish), two.frees.get(one.wish)
    is_less = isinstance(asked, float) and isinstance(less, float) and less < asked
    return two if is_less and one.wish == two.wish else one
