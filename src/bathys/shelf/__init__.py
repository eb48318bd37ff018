"""What can be bought, what it costs, and how much of it is at hand already.

Public: :func:`shelf_items`, :class:`PriceList`, :func:`read_prices`, :func:`write_prices`,
:func:`money`, :func:`read_own_part`.
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
from bathys.shelf.own_part_files import (
    OwnPartRow,
    exactly,
    read_own_parts,
    typed_of,
    write_own_parts,
)
from bathys.shelf.own_parts import (
    OWN_PART_KINDS,
    BadOwnPart,
    OwnField,
    OwnPartKind,
    ShelfPart,
    offcuts_of,
    read_own_part,
)
from bathys.shelf.price_files import PricesRead, read_prices, write_prices
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
from bathys.shelf.tables import MOST_BYTES, BadCell, RowError, decoded

__all__ = [
    "MEASURES",
    "MOST_BYTES",
    "MOST_OWNED",
    "MOST_PRICE",
    "MOST_PRICES",
    "OWN_PART_KINDS",
    "SECTIONS",
    "BadCell",
    "BadOwnPart",
    "Measure",
    "OwnField",
    "OwnPartKind",
    "OwnPartRow",
    "Price",
    "PriceList",
    "PricesRead",
    "RowError",
    "ShelfItem",
    "ShelfPart",
    "as_typed",
    "container_item",
    "decoded",
    "exactly",
    "fitting_item",
    "medium_item",
    "money",
    "offcuts_of",
    "per_unit",
    "pipe_item",
    "plain_item",
    "read_own_part",
    "read_own_parts",
    "read_prices",
    "shelf_items",
    "typed_of",
    "write_own_parts",
    "write_prices",
]
