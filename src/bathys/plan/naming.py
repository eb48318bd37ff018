"""How sentences speak of a part: by a slot, so that what users typed stays out of templates."""

from typing import Protocol

__all__ = ["Named", "named", "within_sentence"]


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


def within_sentence(name: str) -> str:
    """A name as it stands within a sentence: its first letter small, unless it is a label or an
    abbreviation.

    Parameters
    ----------
    name : str
        Name of a part, such as ``Grow bed B2``

    Returns
    -------
    str
        Such as ``grow bed B2``
    """
    return name[:1].lower() + name[1:] if name[1:2].islower() else name
