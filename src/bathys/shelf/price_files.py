"""Price lists as CSV files, as spreadsheets of any country write them."""

import csv
import io
import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from bathys.cells import harmless
from bathys.shelf.items import SECTIONS, ShelfItem, shelf_items
from bathys.shelf.prices import (
    MEASURES,
    MOST_OWNED,
    MOST_PRICE,
    MOST_PRICES,
    Price,
    PriceList,
    as_typed,
    per_unit,
)
from bathys.shelf.tables import BadCell, RowError, plain_cell, rows_of
from bathys.units import System, UnreadableQuantity, read

__all__ = ["PricesRead", "read_prices", "write_prices"]

_COLUMNS = ("item", "section", "name", "unit", "price", "owned")
_NEEDED = ("item", "price")
_LONGEST = {"item": 120, "name": 160}
_UNITS = {word.lower(): word for word in MEASURES}


@dataclass(frozen=True, slots=True)
class PricesRead:
    """What a file holds.

    Attributes
    ----------
    prices : tuple of Price
        Rows that can be taken
    errors : tuple of RowError
        Rows that cannot
    """

    prices: tuple[Price, ...]
    errors: tuple[RowError, ...]


def read_prices(data: bytes) -> PricesRead:
    """Read a price list.

    Parameters
    ----------
    data : bytes
        A CSV file: UTF-8, with or without a byte-order mark, or UTF-16; parted by commas,
        semicolons or tabs; decimals with points or commas. The first row names the columns
        ``item``, ``section``, ``name``, ``unit``, ``price`` and ``owned``, in any order;
        ``item`` and ``price`` must be there

    Returns
    -------
    PricesRead
        What can be taken, and a sentence for each row that cannot
    """
    try:
        rows = rows_of(data, _COLUMNS, _NEEDED)
    except BadCell as error:
        return PricesRead((), (RowError(0, str(error)),))
    known = {item.key: item for item in shelf_items()}
    prices, errors = dict[str, Price](), list[RowError]()
    for number, cells in rows:
        try:
            price = _price(cells, known)
        except BadCell as error:
            errors.append(RowError(number, str(error)))
            continue
        if price.item.key in prices:
            errors.append(RowError(number, f"“{price.item.key}” stands in a row before this."))
        elif len(prices) >= MOST_PRICES:
            errors.append(RowError(number, f"There is room for {MOST_PRICES} rows."))
            break
        else:
            prices[price.item.key] = price
    return PricesRead(tuple(prices.values()), tuple(errors))


def _price(cells: dict[str, str], known: dict[str, ShelfItem]) -> Price:
    item = _item(cells, known)
    unit = cells.get("unit", "")
    word = _UNITS.get(unit.lower()) if unit else per_unit(item.measure, "metric")
    if word is None:
        raise BadCell(f"“{unit}” is not a unit of prices; use {', '.join(MEASURES)}.")
    measure, factor = MEASURES[word]
    if measure != item.measure:
        raise BadCell(f"“{item.name}” is not sold by the {word}.")
    price = _number(cells.get("price", ""), "price", MOST_PRICE)
    owned = _number(cells.get("owned", ""), "owned", MOST_OWNED)
    return Price(item, None if price is None else price / factor, (owned or 0.0) * factor)


def _item(cells: dict[str, str], known: dict[str, ShelfItem]) -> ShelfItem:
    key = plain_cell(cells.get("item", ""))
    if not key:
        raise BadCell("“item” is empty.")
    if key in known:
        return known[key]
    name, section = plain_cell(cells.get("name", "")), cells.get("section", "")
    for word, text in (("item", key), ("name", name)):
        if len(text) > _LONGEST[word] or not text.isprintable():
            raise BadCell(f"“{word}” is too long or holds letters that cannot be kept.")
    if section not in SECTIONS:
        raise BadCell(f"“section” must be one of: {'; '.join(SECTIONS)}.")
    if not name:
        raise BadCell("“name” is empty.")
    unit = cells.get("unit", "").lower()
    word = _UNITS.get(unit, "each") if unit else "each"
    return ShelfItem(key, section, name, MEASURES[word][0])


def _number(cell: str, column: str, most: float) -> float | None:
    cell = cell.removeprefix("'")
    if not cell:
        return None
    if cell.startswith("="):
        raise BadCell(f"“{column}” is a formula; store the file with values only.")
    try:
        value = read(cell, "price")
    except UnreadableQuantity as error:
        raise BadCell(f"“{column}”: {error}") from None
    if not 0.0 <= value <= most or not math.isfinite(value):
        raise BadCell(f"“{column}” must be between 0 and {most:.0f}.")
    return value


def write_prices(
    prices: Iterable[Price], units: System, buys: Mapping[str, float] | None = None
) -> str:
    """A price list as CSV, which :func:`read_prices` reads.

    Parameters
    ----------
    prices : iterable of Price
        Its rows
    units : System
        The reader's units
    buys : mapping of str to float, optional
        How much of an item is bought, by its key, for a column ``buy`` that is not read again

    Returns
    -------
    str
        Parted by commas, with decimal points. No cell begins as a formula does
    """
    text = io.StringIO()
    rows = csv.writer(text, lineterminator="\n")
    rows.writerow(_COLUMNS if buys is None else (*_COLUMNS, "buy"))
    for row in prices:
        item = row.item
        word, price, owned = as_typed(item, PriceList("", {item.key: row}), units)
        cells = [
            harmless(item.key),
            item.section,
            harmless(item.name),
            word,
            price,
            owned,
        ]
        if buys is not None:
            cells.append(f"{buys[item.key] / MEASURES[word][1]:.6g}")
        rows.writerow(cells)
    return text.getvalue()
