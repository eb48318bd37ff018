"""Pipe cut from stock lengths."""

from typing import Any

from django.http import QueryDict

from bathys.build import KERF, STOCK, BadStock, PipeNeed, cut_list, pipe_pieces
from bathys.pipeline import Assessment
from bathys.units import System, UnreadableQuantity, own_system, read, show
from bathys_web.plans.offer_context import OfferContext

__all__ = ["cuts_list"]

_USUAL = {"metric": "3 m", "us": "10 ft"}
_LONGEST = 40


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
    usual = _USUAL[own_system(units, "length")]
    typed = asked.get("stock", "").strip()[:_LONGEST] or usual
    stock, error = read(usual, "length", units), ""
    try:
        stock = read(typed, "length", units)
    except UnreadableQuantity as wrong:
        error = str(wrong)
    else:
        if not STOCK[0] <= stock <= STOCK[1]:
            low, high = (show(x, "length", units) for x in STOCK)
            stock, error = read(usual, "length", units), f"It must be between {low} and {high}."
    needs = pipe_pieces(found.evaluation)
    return {
        "typed": typed,
        "error": error,
        "stock": show(stock, "length", units),
        "kerf": show(KERF, "length", units),
        "pipes": [_pipe(need, stock, units) for need in needs if not need.is_by_bore],
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


def _pipe(need: PipeNeed, stock: float, units: System) -> dict[str, Any]:
    try:
        packing = cut_list(need.pieces, stock, KERF)
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
            {
                "pieces": ", ".join(
                    f"{p.name} {show(p.length, 'length', units)}" for p in s.pieces
                ),
                "left": show(s.left, "length", units),
            }
            for s in packing.stocks
        ],
    }
