"""How sentences speak of a part: by a slot, so that what users typed stays out of templates."""

from typing import Protocol

__all__ = ["Named", "named"]


class Named(Protocol):
    """A part of a plan."""

    @property
    def id(self) -> str:
        """Its identifier."""


def named(part: Named) -> str:
    """The slot for a part's name in a sentence, such as ``{P1:words}``.

    Filled from ``Plan.words`` when the sentence is shown; never by the name itself, which may hold
    braces of its own.

    Parameters
    ----------
    part : Named
        The part

    Returns
    -------
    str
        The slot
    """
    return f"{{{part.id}:words}}"
