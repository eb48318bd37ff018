"""A builder's own prices, and what they have at hand."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any, Self, get_args

from bathys.shelf.items import SECTIONS, Measure, ShelfItem
from bathys.units import System, own_system

__all__ = [
    "MEASURES",
    "MOST_OWNED",
    "MOST_PRICE",
    "MOST_PRICES",
    "Price",
    "PriceList",
    "as_typed",
    "money",
    "per_unit",
]

MOST_PRICES = 400
"""Rows a price list may have."""
MOST_PRICE = 1e6
"""Of one price [-]."""
MOST_OWNED = 1e5
"""Of one thing: pieces, metres or litres [-]."""

MEASURES: dict[str, tuple[Measure, float]] = {
    "each": ("each", 1.0),
    "m": ("length", 1.0),
    "ft": ("length", 0.3048),
    "L": ("volume", 1e-3),
    "gal": ("volume", 3.785411784e-3),
}
"""Words that a price may be for, with how much of it in SI that is [-, m, m³]."""

_WORDS: dict[Measure, dict[str, str]] = {
    "each": {"metric": "each", "us": "each"},
    "length": {"metric": "m", "us": "ft"},
    "volume": {"metric": "L", "us": "gal"},
}
_QUANTITY: dict[Measure, str] = {"each": "count", "length": "length", "volume": "volume"}


@dataclass(frozen=True, slots=True)
class Price:
    """What one thing costs.

    Attributes
    ----------
    item : ShelfItem
        The thing
    price : float or None
        For one, a metre or a cubic metre; none if it is not known
    owned : float
        How much is at hand already: pieces, [m] or [m³]
    """

    item: ShelfItem
    price: float | None
    owned: float = 0.0


@dataclass(frozen=True, slots=True)
class PriceList:
    """Prices of one builder.

    Attributes
    ----------
    currency : str
        What they are in, as it is written beside a price
    prices : mapping of str to Price
        By the key of their item
    offcuts : mapping of str to tuple of float
        Lengths of pipe at hand, by the key of its item, [m]
    """

    currency: str
    prices: Mapping[str, Price]
    offcuts: Mapping[str, tuple[float, ...]] = field(default_factory=dict)

    @classmethod
    def empty(cls, currency: str = "") -> Self:
        """A list without prices.

        Parameters
        ----------
        currency : str
            What prices are in

        Returns
        -------
        PriceList
            The list
        """
        return cls(currency, {})

    def of(self, key: str) -> float | None:
        """Price of a thing.

        Parameters
        ----------
        key : str
            Key of its item

        Returns
        -------
        float or None
            For one, a metre or a cubic metre, [-]; none if it is not known
        """
        found = self.prices.get(key)
        return None if found is None else found.price

    def owned(self, key: str) -> float:
        """How much of a thing is at hand.

        Parameters
        ----------
        key : str
            Key of its item

        Returns
        -------
        float
            Pieces, [m] or [m³]
        """
        found = self.prices.get(key)
        return 0.0 if found is None else found.owned

    @property
    def as_data(self) -> dict[str, Any]:
        """The list as JSON data."""
        return {
            "currency": self.currency,
            "prices": [
                {
                    "key": p.item.key,
                    "section": p.item.section,
                    "name": p.item.name,
                    "measure": p.item.measure,
                    "price": p.price,
                    "owned": p.owned,
                }
                for p in self.prices.values()
            ],
            "offcuts": {key: list(lengths) for key, lengths in self.offcuts.items()},
        }

    @classmethod
    def from_data(cls, data: Mapping[str, Any]) -> Self:
        """A list from what :attr:`as_data` gave.

        Parameters
        ----------
        data : mapping of str to object
            JSON data

        Returns
        -------
        PriceList
            The list

        Raises
        ------
        KeyError
            If a field is missing
        ValueError
            If a section or measure is not known
        """
        prices = {}
        for row in data["prices"]:
            if row["section"] not in SECTIONS or row["measure"] not in get_args(Measure):
                raise ValueError(f"“{row['key']}” is of no known section or measure")
            item = ShelfItem(row["key"], row["section"], row["name"], row["measure"])
            prices[item.key] = Price(item, row["price"], row["owned"])
        offcuts = {key: tuple(lengths) for key, lengths in data.get("offcuts", {}).items()}
        return cls(data["currency"], prices, offcuts)


def per_unit(measure: Measure, units: System) -> str:
    """The word for what a price is for.

    Parameters
    ----------
    measure : Measure
        What it is for
    units : System
        The reader's units

    Returns
    -------
    str
        A key of :data:`MEASURES`
    """
    return _WORDS[measure][own_system(units, _QUANTITY[measure])]


def as_typed(item: ShelfItem, known: PriceList, units: System) -> tuple[str, str, str]:
    """What a price is for, the price, and how much is at hand, as boxes and files have them.

    Parameters
    ----------
    item : ShelfItem
        The thing
    known : PriceList
        What is known of it
    units : System
        The reader's units

    Returns
    -------
    (str, str, str)
        A key of :data:`MEASURES`, and two numbers; empty for what is not known
    """
    word = per_unit(item.measure, units)
    factor = MEASURES[word][1]
    price, owned = known.of(item.key), known.owned(item.key)
    return (
        word,
        "" if price is None else f"{price * factor:.10g}",
        f"{owned / factor:.10g}" if owned else "",
    )


def money(amount: float, currency: str) -> str:
    """An amount of money in words.

    Parameters
    ----------
    amount : float
        The amount, [-]
    currency : str
        What it is in; may be empty

    Returns
    -------
    str
        With two places, such as ``12.50 EUR``

    Examples
    --------
    >>> money(1234.5, "EUR")
    '1234.50 EUR'
    """
    return f"{amount:.2f} {currency}".rstrip()
