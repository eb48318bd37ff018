"""Tables of what is bought, and of what could be bought instead."""

import math

from bathys.build import ShoppingList, alternatives_of, shopping_list
from bathys.documents.tables import Amount, Cell, Table, named_in
from bathys.drawing.stations import labels_of
from bathys.evaluation import Evaluation
from bathys.shelf import MEASURES, PriceList, money, per_unit
from bathys.units import System

__all__ = ["alternatives", "shopping"]

_LITTLE = 10.0  # metres, feet, litres or gallons that are bought to the tenth


def shopping(found: Evaluation, stock: float, prices: PriceList, units: System) -> Table:
    """What to buy, with what it costs.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    stock : float
        Length in which pipe is sold, [m]
    prices : PriceList
        What things cost, and what is at hand
    units : System
        The reader's units

    Returns
    -------
    Table
        By section of the shop, added up
    """
    bought = shopping_list(found, stock, prices)
    rows = []
    for line in bought.lines:
        word = per_unit(line.item.measure, units)
        factor = MEASURES[word][1]
        price = prices.of(line.item.key)
        parts = ", ".join(labels_of(found.plan).get(p, p) for p in line.parts)
        amount: Cell = (
            math.ceil(line.buys - 1e-9)
            if line.item.measure == "each"
            else f"{_up(line.buys / factor)} {word}"
        )
        rows.append(
            (
                line.item.section,
                line.item.name,
                parts or None,
                f"{line.stocks} length{'s' if line.stocks != 1 else ''}, {amount}"
                if line.stocks
                else amount,
                None if price is None else Amount(price * factor, "money"),
                None if line.cost is None else Amount(line.cost, "money"),
            )
        )
    currency = f" ({bought.currency})" if bought.currency else ""
    return Table(
        "shopping",
        "What to buy",
        ("Section", "What", "For", "How much", f"Price{currency}", f"Cost{currency}"),
        tuple(rows),
        " ".join(
            filter(
                None,
                (
                    _budget(found, bought),
                    f"{len(bought.without_price)} things have no price yet."
                    if bought.without_price
                    else "",
                    "Not on the list: stands, timber, liner, fish, feed, seed, test kits and "
                    "tools.",
                ),
            )
        ),
        total=5,
    )


def alternatives(found: Evaluation, prices: PriceList) -> Table:
    """What could be bought instead.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    prices : PriceList
        What things cost

    Returns
    -------
    Table
        Without rows where nothing saves enough
    """
    currency = f" ({prices.currency})" if prices.currency else ""
    rows = []
    for row in alternatives_of(found, prices):
        take = row.take.removesuffix("s") if row.count == 1 else row.take
        count = f"{row.count} {take}" if row.count else f"{row.take} pipe"
        years = "–" if row.years is None else f"{row.years:.1f} years"
        rows.append(
            (
                named_in(found, row.run),
                count,
                f"for {row.instead}",
                Amount(row.head, "head"),
                Amount(row.energy, "energy"),
                Amount(row.saves, "money"),
                None if row.costs is None else Amount(row.costs, "money"),
                years,
            )
        )
    return Table(
        "alternatives",
        "What could be bought instead",
        (
            "Run",
            "Buy",
            "Instead",
            "Loses less",
            "Less a year",
            f"Saves a year{currency}",
            f"Costs more{currency}",
            "Paid after",
        ),
        tuple(rows),
        "At the flow as it is. It is saved only if the pump is turned down then, or a smaller one "
        "bought; else more water goes round.",
    )


def _budget(found: Evaluation, bought: ShoppingList) -> str:
    """What is left of the budget, or by how much it is passed."""
    budget = found.plan.brief.budget
    if budget is None:
        return ""
    left = budget - bought.total
    words = money(abs(left), bought.currency)
    if left < 0.0:
        return f"The budget of {money(budget, bought.currency)} is passed by {words}."
    return f"Of the budget of {money(budget, bought.currency)}, {words} are left."


def _up(amount: float) -> str:
    """An amount that is bought, rounded up: to whole ones, small ones to a tenth."""
    if amount >= _LITTLE:
        return f"{math.ceil(amount - 1e-9)}"
    return f"{math.ceil(10.0 * amount - 1e-9) / 10.0:.1f}"
