"""Keep a builder's prices, and what they have at hand."""

from collections.abc import Iterable, Mapping
from dataclasses import replace

from django.contrib.auth.models import User
from django.db import transaction

from bathys.shelf import (
    MEASURES,
    MOST_OWNED,
    MOST_PRICE,
    MOST_PRICES,
    Price,
    PriceList,
    ShelfItem,
    offcuts_of,
    per_unit,
)
from bathys.units import System, UnreadableQuantity, read
from bathys_web.plans.actions.keep_own_part import own_parts_of
from bathys_web.plans.models import OwnPrices

__all__ = ["BadPrices", "keep_prices", "prices_of", "take_prices"]

_LONGEST_CURRENCY = 6
_BOXES = (("price", MOST_PRICE), ("owned", MOST_OWNED))


class BadPrices(ValueError):
    """What was typed cannot be kept.

    Attributes
    ----------
    errors : dict of str
        Sentence by field: ``currency``, ``price:KEY`` or ``owned:KEY``
    """

    def __init__(self, errors: dict[str, str]) -> None:
        super().__init__("; ".join(errors.values()))
        self.errors = errors


def prices_of(user: User) -> PriceList:
    """A builder's prices.

    Parameters
    ----------
    user : User
        Whose

    Returns
    -------
    PriceList
        Empty if they gave none
    """
    found = OwnPrices.objects.filter(owner=user).first()
    known = PriceList.empty() if found is None else found.as_list()
    return replace(known, offcuts=offcuts_of(own_parts_of(user)))


def keep_prices(
    user: User, typed: Mapping[str, str], items: Iterable[ShelfItem], units: System
) -> None:
    """Keep what was typed into boxes.

    Parameters
    ----------
    user : User
        Who asks
    typed : mapping of str to str
        By field: ``currency``, ``price:KEY`` and ``owned:KEY``; a field that is not there stays as
        it is, an empty one is cleared. Prices are for what :func:`bathys.shelf.per_unit` tells,
        and so much is at hand of it
    items : iterable of ShelfItem
        Things that may be meant
    units : System
        The reader's units

    Raises
    ------
    BadPrices
        With a sentence for each field; nothing is kept
    """
    told, errors = _read_boxes(typed, items)
    currency = typed.get("currency")
    if currency is not None:
        currency = currency.strip()
        if len(currency) > _LONGEST_CURRENCY or not currency.isprintable():
            errors["currency"] = f"Use up to {_LONGEST_CURRENCY} letters, such as EUR or $."
    if errors:
        raise BadPrices(errors)
    with transaction.atomic():
        kept = _locked(user)
        prices = dict(kept.prices)
        for item, boxes in told:
            factor = MEASURES[per_unit(item.measure, units)][1]
            price, owned = kept.of(item.key), kept.owned(item.key)
            if "price" in boxes:
                price = None if boxes["price"] is None else boxes["price"] / factor
            if "owned" in boxes:
                owned = (boxes["owned"] or 0.0) * factor
            if price is None and not owned:
                prices.pop(item.key, None)
            else:
                prices[item.key] = Price(item, price, owned)
        _store(user, kept.currency if currency is None else currency, prices)


def take_prices(user: User, rows: Iterable[Price]) -> None:
    """Take rows of a file: each replaces what was known of its item.

    Parameters
    ----------
    user : User
        Who asks
    rows : iterable of Price
        The rows

    Raises
    ------
    BadPrices
        If the list would get too long; nothing is kept
    """
    with transaction.atomic():
        kept = _locked(user)
        prices = dict(kept.prices)
        for row in rows:
            if row.price is None and not row.owned:
                prices.pop(row.item.key, None)
            else:
                prices[row.item.key] = row
        _store(user, kept.currency, prices)


def _read_boxes(
    typed: Mapping[str, str], items: Iterable[ShelfItem]
) -> tuple[list[tuple[ShelfItem, dict[str, float | None]]], dict[str, str]]:
    """What each box says, for every item with one; and a sentence for each that says nothing."""
    told, errors = list[tuple[ShelfItem, dict[str, float | None]]](), dict[str, str]()
    for item in items:
        boxes: dict[str, float | None] = {}
        for box, most in _BOXES:
            text = typed.get(f"{box}:{item.key}")
            if text is None:
                continue
            try:
                boxes[box] = _number(text.strip(), most)
            except UnreadableQuantity as error:
                errors[f"{box}:{item.key}"] = str(error)
        if boxes:
            told.append((item, boxes))
    return told, errors


def _number(text: str, most: float) -> float | None:
    if not text:
        return None
    value = read(text, "price")
    if not 0.0 <= value <= most:
        raise UnreadableQuantity(f"It must be between 0 and {most:.0f}.")
    return value


def _locked(user: User) -> PriceList:
    """The list, which nobody else changes until it is stored."""
    empty = {"data": PriceList.empty().as_data}
    OwnPrices.objects.get_or_create(owner=user, defaults=empty)
    return OwnPrices.objects.select_for_update().get(owner=user).as_list()


def _store(user: User, currency: str, prices: Mapping[str, Price]) -> None:
    if len(prices) > MOST_PRICES:
        raise BadPrices({"": f"There is room for {MOST_PRICES} prices; clear some first."})
    data = PriceList(currency, prices).as_data
    OwnPrices.objects.filter(owner=user).update(data=data)
