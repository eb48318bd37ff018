"""The builder's own prices: typed on the page of parts or beside a shopping list, or as a file."""

from collections.abc import Mapping
from itertools import groupby
from typing import Any
from uuid import UUID

from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.utils.text import slugify
from django.views.decorators.http import require_GET, require_POST

from bathys.build import shopping_list
from bathys.drawing.stations import labels_of
from bathys.shelf import (
    MOST_BYTES,
    SECTIONS,
    Price,
    PriceList,
    ShelfItem,
    as_typed,
    plain_item,
    read_prices,
    shelf_items,
    write_prices,
)
from bathys.units import System
from bathys_web.config.requests import SignedInRequest
from bathys_web.plans.actions.keep_prices import BadPrices, keep_prices, prices_of, take_prices
from bathys_web.plans.models import OwnPump
from bathys_web.plans.offers import list_offers
from bathys_web.plans.offers.stock_length import StockLength
from bathys_web.plans.pages import units_for
from bathys_web.plans.storing import assessment_of
from bathys_web.plans.views.own import asked_of, offer_context_of, own_plan

__all__ = [
    "keep_plan_prices",
    "known_items",
    "price_sections",
    "prices_csv",
    "read_price_file",
    "shopping_csv",
    "take_price_file",
]


def known_items(request: SignedInRequest, prices: PriceList) -> list[ShelfItem]:
    """All that a price can be given for, without a plan.

    Parameters
    ----------
    request : SignedInRequest
        The request
    prices : PriceList
        The visitor's prices

    Returns
    -------
    list of ShelfItem
        By section: what is known, the visitor's pumps, and what they priced before
    """
    pumps = (
        plain_item("Pumps and air", "machine", p.name)
        for p in OwnPump.objects.filter(owner=request.user)
    )
    items = {i.key: i for i in (*shelf_items(), *pumps)}
    items.update((p.item.key, p.item) for p in prices.prices.values())
    order = {section: n for n, section in enumerate(SECTIONS)}
    return sorted(items.values(), key=lambda item: order[item.section])


def price_sections(
    request: SignedInRequest, units: System, errors: Mapping[str, str]
) -> dict[str, Any]:
    """Boxes for all prices, by section of the shop.

    Parameters
    ----------
    request : SignedInRequest
        The request; what it posts stays in the boxes
    units : System
        The reader's units
    errors : mapping of str to str
        Sentences by field

    Returns
    -------
    dict of str to object
        Variables of the template
    """
    prices = prices_of(request.user)
    sections = []
    for section, items in groupby(known_items(request, prices), lambda item: item.section):
        rows = [_row(item, prices, units, request.POST if errors else {}, errors) for item in items]
        sections.append(
            {
                "name": section,
                "rows": rows,
                "priced": sum(bool(row["price"]) for row in rows),
                "is_open": any(row["price_error"] or row["owned_error"] for row in rows),
            }
        )
    return {
        "price_sections": sections,
        "currency": request.POST.get("currency", prices.currency) if errors else prices.currency,
        "currency_error": errors.get("currency", ""),
        "price_wrong": errors.get("", ""),
    }


def _row(
    item: ShelfItem,
    prices: PriceList,
    units: System,
    typed: Mapping[str, str],
    errors: Mapping[str, str],
) -> dict[str, Any]:
    word, price, owned = as_typed(item, prices, units)
    return {
        "key": item.key,
        "name": item.name,
        "per": word,
        "price": typed.get(f"price:{item.key}", price),
        "owned": typed.get(f"owned:{item.key}", owned),
        "price_error": errors.get(f"price:{item.key}", ""),
        "owned_error": errors.get(f"owned:{item.key}", ""),
    }


@require_POST
@login_required
def keep_plan_prices(request: SignedInRequest, key: UUID) -> HttpResponse:
    """Keep prices typed beside a plan's shopping list, and add it up again.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        Key of the plan

    Returns
    -------
    HttpResponse
        The list
    """
    saved, asked = own_plan(request, key), asked_of(request)
    found = assessment_of(saved.current)
    plan = found.evaluation.plan
    units = units_for(request, plan)
    stock = StockLength.of(asked, units)
    lines = shopping_list(found.evaluation, stock.metres).lines
    errors: dict[str, str] = {}
    try:
        keep_prices(request.user, request.POST.dict(), [line.item for line in lines], units)
    except BadPrices as bad:
        errors = bad.errors
    context = list_offers("shopping", found, asked, units, offer_context_of(request, saved))
    if errors:
        context["currency"] = asked.get("currency", "")
        for row in (row for section in context["sections"] for row in section["rows"]):
            for box in ("price", "owned"):
                field = f"{box}:{row['key']}"
                row[box] = asked.get(field, row[box])
                row[f"{box}_error"] = errors.get(field, "")
    page = {
        **context,
        "saved": saved,
        "head": saved.current,
        "plan": plan,
        "numbers": labels_of(plan),
        "template": "plans/offers/shopping.html",
        "kept": not errors,
        "wrong": errors.get("", "")
        or ("Nothing is kept yet: some boxes cannot be read." if errors else ""),
        "currency_error": errors.get("currency", ""),
        "in_page": bool(request.htmx),
    }
    return render(request, page["template"] if request.htmx else "plans/offers/page.html", page)


@require_GET
@login_required
def shopping_csv(request: SignedInRequest, key: UUID) -> HttpResponse:
    """A plan's shopping list as CSV, which the page of parts reads as prices.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        Key of the plan

    Returns
    -------
    HttpResponse
        A CSV file
    """
    saved = own_plan(request, key)
    found = assessment_of(saved.current)
    units = units_for(request, found.evaluation.plan)
    prices = prices_of(request.user)
    bought = shopping_list(found.evaluation, StockLength.of(request.GET, units).metres, prices)
    rows = [Price(line.item, prices.of(line.item.key), line.owned) for line in bought.lines]
    amounts = {line.item.key: line.buys for line in bought.lines}
    name = slugify(found.evaluation.plan.name) or "plan"
    return _file(write_prices(rows, units, amounts), f"{name}-shopping.csv")


@require_GET
@login_required
def prices_csv(request: SignedInRequest) -> HttpResponse:
    """All that a price can be given for, with the builder's prices.

    Parameters
    ----------
    request : SignedInRequest
        The request

    Returns
    -------
    HttpResponse
        A CSV file
    """
    prices = prices_of(request.user)
    rows = [prices.prices.get(item.key, Price(item, None)) for item in known_items(request, prices)]
    return _file(write_prices(rows, units_for(request)), "bathys-prices.csv")


def _file(text: str, name: str) -> HttpResponse:
    headers = {"Content-Disposition": f'attachment; filename="{name}"'}
    return HttpResponse(text, content_type="text/csv; charset=utf-8", headers=headers)


@require_POST
@login_required
def read_price_file(request: SignedInRequest) -> HttpResponse:
    """Show what a price list would change before it does.

    Parameters
    ----------
    request : SignedInRequest
        The request

    Returns
    -------
    HttpResponse
        Rows that can be taken, and a sentence for each that cannot
    """
    upload = request.FILES.get("file")
    if upload is None:
        return _preview(request, b"", "Choose a CSV file first.")
    return _preview(request, upload.read(MOST_BYTES + 1), "")


@require_POST
@login_required
def take_price_file(request: SignedInRequest) -> HttpResponse:
    """Take the rows of a price list that was shown.

    Parameters
    ----------
    request : SignedInRequest
        The request, with the rows as they were shown

    Returns
    -------
    HttpResponse
        The page of parts
    """
    data = request.POST.get("rows", "").encode()
    found = read_prices(data)
    try:
        take_prices(request.user, found.prices)
    except BadPrices as bad:
        return _preview(request, data, bad.errors[""])
    messages.success(request, f"{len(found.prices)} rows are taken into your prices.")
    return redirect("/parts/#prices")


def _preview(request: SignedInRequest, data: bytes, wrong: str) -> HttpResponse:
    units = units_for(request)
    found, prices = read_prices(data), prices_of(request.user)
    rows = [
        {
            "now": _row(price.item, PriceList("", {price.item.key: price}), units, {}, {}),
            "before": _row(price.item, prices, units, {}, {}),
        }
        for price in found.prices
    ]
    context = {
        "rows": rows,
        "errors": [] if wrong and not data else found.errors,
        "wrong": wrong,
        "text": write_prices(found.prices, units),
        "units": units,
    }
    status = 422 if wrong or (found.errors and not rows) else 200
    return render(request, "plans/price_file.html", context, status=status)
