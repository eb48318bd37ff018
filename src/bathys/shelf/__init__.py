"""What can be bought, what it costs, and how much of it is at hand already.

Public: :func:`shelf_items`, :class:`PriceList`, :func:`read_prices`, :func:`write_prices`,
:func:`money`.
"""

from bathys.shelf.items import (
    SECTIONS,
    Measure,
    ShelfItem,
    container_item,
    fitting_item,
    medium_item,
    pipe_item,
    plain_item,
    shelf_items,
)
from bathys.shelf.price_files import MOST_BYTES, PricesRead, RowError, read_prices, write_prices
from bathys.shelf.prices import (
    MEASURES,
    MOST_OWNED,
    MOST_PRICE,
    MOST_PRICES,
    Price,
    PriceList,
    as_typed,
    money,
    per_unit,
)

__all__ = [
    "MEASURES",
    "MOST_BYTES",
    "MOST_OWNED",
    "MOST_PRICE",
    "MOST_PRICES",
    "SECTIONS",
    "Measure",
    "Price",
    "PriceList",
    "PricesRead",
    "RowError",
    "ShelfItem",
    "as_typed",
    "container_item",
    "fitting_item",
    "medium_item",
    "money",
    "per_unit",
    "pipe_item",
    "plain_item",
    "read_prices",
    "shelf_items",
    "write_prices",
]
