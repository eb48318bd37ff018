"""What can be bought: one name for each thing, by which its price is found again."""

from dataclasses import dataclass
from functools import cache
from typing import Literal

from bathys.parts.bores import pipe_sizes, standards
from bathys.parts.containers import Container, containers
from bathys.parts.media import CARRIERS, MEDIA

__all__ = [
    "SECTIONS",
    "Measure",
    "ShelfItem",
    "container_item",
    "fitting_item",
    "medium_item",
    "pipe_item",
    "plain_item",
    "shelf_items",
]

Measure = Literal["each", "length", "volume"]
"""What a price is for: one, a length of it, or a volume of it."""

SECTIONS = (
    "Vessels",
    "Pumps and air",
    "Pipe and hose",
    "Fittings and valves",
    "Wall fittings",
    "Media and carriers",
    "Sundries",
)
"""Of a shop, in the order of lists."""

_LONGEST = 120  # of a key, as it is stored


@dataclass(frozen=True, slots=True)
class ShelfItem:
    """A thing that can be bought.

    Attributes
    ----------
    key : str
        By which its price is found again, such as ``container:tote-1000``
    section : str
        One of :data:`SECTIONS`
    name : str
        Its name for people
    measure : Measure
        What its price is for
    """

    key: str
    section: str
    name: str
    measure: Measure = "each"


def container_item(container: Container) -> ShelfItem:
    """A container.

    Parameters
    ----------
    container : Container
        The container

    Returns
    -------
    ShelfItem
        It, on the shelf
    """
    return ShelfItem(f"container:{container.key}", "Vessels", container.name)


def pipe_item(standard: str, nominal: str) -> ShelfItem:
    """Pipe of one size.

    Parameters
    ----------
    standard, nominal : str
        As in ``parts.bores``

    Returns
    -------
    ShelfItem
        It, sold by its length
    """
    key = f"pipe:{standard}:{nominal}"
    return ShelfItem(key, "Pipe and hose", f"{nominal}, {standard}", "length")


def medium_item(kind: str) -> ShelfItem:
    """A growing medium, or carriers.

    Parameters
    ----------
    kind : str
        As in ``parts.media``

    Returns
    -------
    ShelfItem
        It, sold by its volume
    """
    known = MEDIA.get(kind) or CARRIERS[kind]
    return ShelfItem(f"medium:{kind}", "Media and carriers", known.name.capitalize(), "volume")


def fitting_item(kind: str, name: str, size: str) -> ShelfItem:
    """A fitting or a valve of one size.

    Parameters
    ----------
    kind : str
        Its kind
    name : str
        Its name in the trade
    size : str
        As it is asked for in a shop

    Returns
    -------
    ShelfItem
        It, sold by the piece
    """
    key = f"fitting:{kind}:{size}"[:_LONGEST]
    return ShelfItem(key, "Fittings and valves", f"{name.capitalize()}, {size}")


def plain_item(section: str, kind: str, name: str, measure: Measure = "each") -> ShelfItem:
    """Anything else.

    Parameters
    ----------
    section : str
        One of :data:`SECTIONS`
    kind : str
        What its key begins with
    name : str
        Its name for people
    measure : Measure
        What its price is for

    Returns
    -------
    ShelfItem
        It, on the shelf
    """
    return ShelfItem(f"{kind}:{name}"[:_LONGEST], section, name, measure)


@cache
def shelf_items() -> tuple[ShelfItem, ...]:
    """All that is known without a plan.

    Returns
    -------
    tuple of ShelfItem
        Containers, pipe of every size, media and carriers
    """
    pipes = (pipe_item(s, size.nominal) for s in standards() for size in pipe_sizes(s))
    return (
        *(container_item(c) for c in containers()),
        *pipes,
        *(medium_item(kind) for kind in (*MEDIA, *CARRIERS)),
    )
