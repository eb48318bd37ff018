"""The page of parts: the builder's own pumps, and what they pay for things."""

import math
from collections.abc import Mapping
from typing import Any

from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.views.decorators.http import require_http_methods, require_POST

from bathys.parts.curve_picture import AxisMarks, BadPicture, points_off_picture
from bathys.units import System, UnreadableQuantity, read, show, unit_of
from bathys_web.config.requests import SignedInRequest
from bathys_web.plans.actions.keep_container import (
    BadContainer,
    drop_container,
    keep_container,
)
from bathys_web.plans.actions.keep_prices import BadPrices, keep_prices, prices_of
from bathys_web.plans.actions.keep_pump import BadPump, drop_pump, keep_pump
from bathys_web.plans.catalogue import catalogue
from bathys_web.plans.models import OwnContainer, OwnPump
from bathys_web.plans.pages import units_for
from bathys_web.plans.views.own_parts import keep_part_of_ones_own, own_part_sections
from bathys_web.plans.views.prices import known_items, price_sections

__all__ = [
    "delete_own_container",
    "delete_own_pump",
    "keep_own_container",
    "keep_own_part",
    "keep_shelf_prices",
    "own_pumps",
    "parts_page",
    "picture_context",
    "read_curve",
]

_LABELS = {"name": "Name", "max_flow": "Label flow", "max_head": "Label lift", "power": "Power"}
_CONTAINER = {
    "name": "Name",
    "across": "Diameter, or length inside",
    "width": "Width inside; empty if it is round",
    "tall": "Height inside",
}
_QUANTITIES = {"max_flow": "flow", "max_head": "head", "power": "power"}


@require_http_methods(["GET", "POST"])
@login_required
def own_pumps(request: SignedInRequest) -> HttpResponse:
    """List them, and take a new one.

    Parameters
    ----------
    request : SignedInRequest
        The request

    Returns
    -------
    HttpResponse
        The page
    """
    errors: dict[str, str] = {}
    if request.method == "POST":
        typed = {k: request.POST.get(k, "") for k in (*_LABELS, "points")}
        try:
            keep_pump(request.user, typed, units_for(request))
            return redirect("own_pumps")
        except BadPump as bad:
            errors = bad.errors
    return parts_page(request, errors)


def parts_page(
    request: SignedInRequest,
    errors: Mapping[str, str] | None = None,
    price_errors: Mapping[str, str] | None = None,
    container_errors: Mapping[str, str] | None = None,
    own_kind: str = "",
    own_errors: Mapping[str, str] | None = None,
) -> HttpResponse:
    """Pumps, containers, pipe and prices.

    Parameters
    ----------
    request : SignedInRequest
        The request; what it posts stays in the boxes
    errors, price_errors, container_errors : mapping of str to str, optional
        Sentences by field of the form of pumps, of that of prices, and of that of containers
    own_kind : str, optional
        Kind of other part whose form was posted
    own_errors : mapping of str to str, optional
        Sentences by field of that form

    Returns
    -------
    HttpResponse
        The page
    """
    units = units_for(request)
    errors, price_errors = errors or {}, price_errors or {}
    container_errors = container_errors or {}
    fields = [
        {
            "name": name,
            "label": label,
            "typed": request.POST.get(name, "") if errors else "",
            "error": errors.get(name, ""),
            "unit": unit_of(_QUANTITIES[name], units) if name in _QUANTITIES else "",
        }
        for name, label in _LABELS.items()
    ]
    points = request.POST.get("points", "")[:_LONGEST] if errors else ""
    rows = [
        {"pump": p, **{f: show(getattr(p, f), q, units) for f, q in _QUANTITIES.items()}}
        for p in OwnPump.objects.filter(owner=request.user)
    ]
    context = {
        "rows": rows,
        "fields": fields,
        "points": {"typed": points, "error": errors.get("points", "")},
        "picture": picture_context(units, {}, {}),
        "units": units,
        **catalogue(units),
        **price_sections(request, units, price_errors),
        "own_containers": [
            {"row": c, "holds": show(0.001 * c.litres, "volume", units)}
            for c in OwnContainer.objects.filter(owner=request.user)
        ],
        "container_boxes": [
            {
                "name": name,
                "label": label,
                "typed": request.POST.get(name, "") if container_errors else "",
                "error": container_errors.get(name, ""),
            }
            for name, label in _CONTAINER.items()
        ],
        "own_parts": own_part_sections(
            request.user, units, own_kind, request.POST.dict(), own_errors or {}
        ),
    }
    status = 422 if errors or price_errors or container_errors or own_errors else 200
    return render(request, "plans/parts.html", context, status=status)


_PICTURE = ("flow_first", "flow_second", "head_first", "head_second")
_MARKS = ("first", "second")
_LONGEST, _MOST_PRESSED = 4000, 50


def picture_context(
    units: System, typed: Mapping[str, str], errors: Mapping[str, str]
) -> dict[str, Any]:
    """The boxes of the form that reads a curve off a picture.

    Parameters
    ----------
    units : System
        The reader's units
    typed, errors : mapping of str to str
        What was typed, and what is wrong with it, by field

    Returns
    -------
    dict of str to object
        Variables of the template
    """
    labels = tuple(f"{axis} axis, {mark} mark" for axis in ("Flow", "Lift") for mark in _MARKS)
    quantities = ("flow", "flow", "head", "head")
    return {
        "error": errors.get("", ""),
        "boxes": [
            {
                "name": name,
                "label": label,
                "unit": unit_of(quantity, units),
                "typed": typed.get(name, ""),
                "error": errors.get(name, ""),
            }
            for name, label, quantity in zip(_PICTURE, labels, quantities, strict=True)
        ],
    }


@require_POST
@login_required
def read_curve(request: SignedInRequest) -> HttpResponse:
    """Read points of a curve off what was pressed in a picture; the picture itself is not sent.

    Parameters
    ----------
    request : SignedInRequest
        The request: values of four marks, and where was pressed, the marks first

    Returns
    -------
    HttpResponse
        The box of points, filled; or the form, with what is wrong
    """
    units = units_for(request)
    typed = {name: request.POST.get(name, "")[:40] for name in _PICTURE}
    errors: dict[str, str] = {}
    values = []
    for name in _PICTURE:
        try:
            values.append(read(typed[name], "flow" if "flow" in name else "head", units))
        except UnreadableQuantity as error:
            errors[name] = str(error)
    pressed = _pressed(request.POST.get("pressed", ""))
    if not errors and len(pressed) < len(_PICTURE):
        errors[""] = "Press the four marks on the axes first, then points along the curve."
    if not errors:
        try:
            found = points_off_picture(
                AxisMarks(pressed[0], pressed[1], values[0], values[1]),
                AxisMarks(pressed[2], pressed[3], values[2], values[3]),
                pressed[4:],
            )
        except BadPicture as bad:
            errors[""] = str(bad)
        else:
            lines = (
                f"{show(flow, 'flow', units)} at {show(head, 'head', units)}".replace(",", "")
                for flow, head in found
            )
            context = {"points": {"typed": "\n".join(lines), "error": ""}, "is_read": True}
            return render(request, "plans/_curve_points.html", context)
    context = {"points": {"typed": request.POST.get("points", "")[:_LONGEST], "error": ""}}
    context["picture_errors"] = [e for e in errors.values() if e]
    return render(request, "plans/_curve_points.html", context, status=422)


def _pressed(text: str) -> list[tuple[float, float]]:
    """Points as the script sends them: x and y with a comma, one after the other with a space."""
    try:
        pairs = [tuple(float(n) for n in word.split(",")) for word in text.split()[:_MOST_PRESSED]]
    except ValueError:
        return []
    good = all(len(pair) == 2 and all(math.isfinite(n) for n in pair) for pair in pairs)
    return [(pair[0], pair[1]) for pair in pairs] if good else []


@require_POST
@login_required
def keep_shelf_prices(request: SignedInRequest) -> HttpResponse:
    """Keep prices typed on the page of parts.

    Parameters
    ----------
    request : SignedInRequest
        The request

    Returns
    -------
    HttpResponse
        The page of parts
    """
    items = known_items(request, prices_of(request.user))
    try:
        keep_prices(request.user, request.POST.dict(), items, units_for(request))
    except BadPrices as bad:
        return parts_page(request, price_errors=bad.errors)
    messages.success(request, "Your prices are kept.")
    return redirect("/parts/#prices")


@require_POST
@login_required
def keep_own_container(request: SignedInRequest) -> HttpResponse:
    """Take a container of the builder's own.

    Parameters
    ----------
    request : SignedInRequest
        The request

    Returns
    -------
    HttpResponse
        The page of parts
    """
    try:
        keep_container(request.user, request.POST.dict(), units_for(request))
    except BadContainer as bad:
        return parts_page(request, container_errors=bad.errors)
    return redirect("/parts/#containers")


@require_POST
@login_required
def keep_own_part(request: SignedInRequest, kind: str) -> HttpResponse:
    """Take an air pump, a medium, a pipe or a wall fitting of the builder's own.

    Parameters
    ----------
    request : SignedInRequest
        The request
    kind : str
        Its kind

    Returns
    -------
    HttpResponse
        The page of parts
    """

    def again(request: SignedInRequest, kind: str, errors: Mapping[str, str]) -> HttpResponse:
        return parts_page(request, own_kind=kind, own_errors=errors)

    return keep_part_of_ones_own(request, kind, again)


@require_POST
@login_required
def delete_own_container(request: SignedInRequest, pk: int) -> HttpResponse:
    """Drop one.

    Parameters
    ----------
    request : SignedInRequest
        The request
    pk : int
        Key of the container

    Returns
    -------
    HttpResponse
        The page of parts
    """
    drop_container(get_object_or_404(OwnContainer, pk=pk, owner=request.user), request.user)
    return redirect("/parts/#containers")


@require_POST
@login_required
def delete_own_pump(request: SignedInRequest, pk: int) -> HttpResponse:
    """Drop one.

    Parameters
    ----------
    request : SignedInRequest
        The request
    pk : int
        Key of the pump

    Returns
    -------
    HttpResponse
        The page of pumps
    """
    drop_pump(get_object_or_404(OwnPump, pk=pk, owner=request.user), request.user)
    return redirect("own_pumps")
