"""What is to be bought, with the builder's own prices."""

from itertools import groupby
from typing import Any

from django.http import QueryDict

from bathys.build import VESSEL, ShoppingLine, shopping_list
from bathys.pipeline import Assessment
from bathys.shelf import MEASURES, Measure, as_typed, money, per_unit
from bathys.units import System, show
from bathys.wording.shells import shell_in_words
from bathys_web.plans.offer_context import OfferContext
from bathys_web.plans.offers.stock_length import StockLength

__all__ = ["shopping_offer_list"]


def shopping_offer_list(
    found: Assessment, asked: QueryDict, units: System, context: OfferContext
) -> dict[str, Any]:
    """What to buy by section of the shop, what it costs, and a box for each price.

    Parameters
    ----------
    found : Assessment
        Numbers and findings of a plan
    asked : QueryDict
        What is asked for, as in an address
    units : System
        The reader's units
    context : OfferContext
        What offers need to know of who asks

    Returns
    -------
    dict of str to object
        Variables of the template
    """
    stock = StockLength.of(asked, units)
    bought = shopping_list(found.evaluation, stock.metres, context.prices)
    return {
        "typed": stock.typed,
        "error": stock.error,
        "stock": show(stock.metres, "length", units) if stock.error else stock.typed,
        "currency": bought.currency,
        "sections": [
            {
                "name": section,
                "rows": [_row(line, found, context, units) for line in lines],
                "total": money(bought.total_of(section), bought.currency),
            }
            for section, lines in groupby(bought.lines, lambda line: line.item.section)
        ],
        "total": money(bought.total, bought.currency),
        "without_price": len(bought.without_price),
        "lines": len(bought.lines),
    }


def _row(
    line: ShoppingLine, found: Assessment, context: OfferContext, units: System
) -> dict[str, Any]:
    item = line.item
    word, price, owned = as_typed(item, context.prices, units)
    name = item.name
    if item.key.startswith(f"{VESSEL}:"):  # told in the reader's units
        name = shell_in_words(found.evaluation.plan.vessel(line.parts[0]).shape, units)
    return {
        "key": item.key,
        "name": name,
        "per": word,
        "needed": _amount(line.needed, item.measure, units),
        "buys": _amount(line.buys, item.measure, units),
        "stocks": line.stocks,
        "price": price,
        "owned": owned,
        "cost": "–" if line.cost is None else money(line.cost, context.prices.currency),
        "parts": [found.evaluation.plan.part(id_) for id_ in line.parts],
    }


def _amount(amount: float, measure: Measure, units: System) -> str:
    word = per_unit(measure, units)
    number = f"{amount / MEASURES[word][1]:.3g}"
    return number if measure == "each" else f"{number} {word}"
