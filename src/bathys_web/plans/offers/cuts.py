"""Pipe cut from stock lengths."""

from typing import Any

from django.http import QueryDict

from bathys.build import KERF, BadStock, PipeNeed, Stock, cut_list, pipe_pieces
from bathys.pipeline import Assessment
from bathys.shelf import PriceList, pipe_item
from bathys.units import System, show
from bathys_web.plans.offer_context import OfferContext
from bathys_web.plans.offers.stock_length import StockLength

__all__ = ["cuts_list"]


def cuts_list(
    found: Assessment, asked: QueryDict, units: System, context: OfferContext
) -> dict[str, Any]:
    """What to buy of each pipe, and what to cut from each length.

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
    asked_for = StockLength.of(asked, units)
    stock = asked_for.metres
    needs = pipe_pieces(found.evaluation)
    return {
        "typed": asked_for.typed,
        "error": asked_for.error,
        "stock": show(stock, "length", units),
        "kerf": show(KERF, "length", units),
        "pipes": [
            _pipe(need, stock, context.prices, units) for need in needs if not need.is_by_bore
        ],
        "hoses": [
            {
                "bore": show(need.bore, "length", units),
                "length": show(need.length, "length", units),
                "runs": ", ".join(p.name for p in need.pieces),
            }
            for need in needs
            if need.is_by_bore
        ],
    }


def _pipe(need: PipeNeed, stock: float, prices: PriceList, units: System) -> dict[str, Any]:
    at_hand = prices.offcuts.get(pipe_item(need.standard, need.size).key, ())
    try:
        packing = cut_list(need.pieces, stock, KERF, at_hand)
    except BadStock as wrong:
        return {"size": need.size, "standard": need.standard, "error": str(wrong)}
    return {
        "size": need.size,
        "standard": need.standard,
        "length": show(need.length, "length", units),
        "count": len(packing.stocks),
        "least": packing.least,
        "is_least": packing.is_least,
        "couplers": packing.couplers,
        "stocks": [
            *(_bar("an offcut", bar, units) for bar in packing.offcuts),
            *(_bar("a new length", bar, units) for bar in packing.stocks),
        ],
    }


def _bar(what: str, bar: Stock, units: System) -> dict[str, str]:
    pieces = (f"{p.name} {show(p.length, 'length', units)}" for p in bar.pieces)
    return {"what": what, "pieces": ", ".join(pieces), "left": show(bar.left, "length", units)}
