"""The length in which pipe is sold, as a page asks for it."""

from dataclasses import dataclass
from typing import Self

from django.http import QueryDict

from bathys.build import STOCK
from bathys.units import System, UnreadableQuantity, own_system, read, show

__all__ = ["StockLength"]

_USUAL = {"metric": "3 m", "us": "10 ft"}
_LONGEST = 40


@dataclass(frozen=True, slots=True)
class StockLength:
    """A stock length as typed.

    Attributes
    ----------
    typed : str
        What was typed, or what is usual
    metres : float
        Its length, that of what is usual where it cannot be read, [m]
    error : str
        Why it cannot be read; empty if it can
    """

    typed: str
    metres: float
    error: str

    @classmethod
    def of(cls, asked: QueryDict, units: System) -> Self:
        """As a page asks.

        Parameters
        ----------
        asked : QueryDict
            What was asked; its ``stock`` is read
        units : System
            The reader's units

        Returns
        -------
        StockLength
            The length
        """
        usual = _USUAL[own_system(units, "length")]
        typed = asked.get("stock", "").strip()[:_LONGEST] or usual
        try:
            metres = read(typed, "length", units)
        except UnreadableQuantity as wrong:
            return cls(typed, read(usual, "length", units), str(wrong))
        if not STOCK[0] <= metres <= STOCK[1]:
            low, high = (show(x, "length", units) for x in STOCK)
            error = f"It must be between {low} and {high}."
            return cls(typed, read(usual, "length", units), error)
        return cls(typed, metres, "")
