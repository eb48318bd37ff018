"""The ground plan: looked at, and changed by dragging, by keys or by what is typed."""

import math
import re
from uuid import UUID

from django.contrib.auth.decorators import login_required
from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.template.loader import render_to_string
from django.utils.text import slugify
from django.views.decorators.http import require_GET, require_http_methods

from bathys.drawing.ground_plan import draw_ground_plan
from bathys.drawing.isometric import isometric_svg
from bathys.edits import EditRefused
from bathys.units import System, UnreadableQuantity, read, show
from bathys_web.config.requests import SignedInRequest
from bathys_web.plans.actions.add_revision import StaleEdit
from bathys_web.plans.actions.lay_ground import GroundChange, change_ground
from bathys_web.plans.actions.step_history import newest_child, redo, undo
from bathys_web.plans.ground_page import better_context, ground_context
from bathys_web.plans.models import Revision, SavedPlan
from bathys_web.plans.pages import units_for
from bathys_web.plans.plan_status import plan_statuses_of
from bathys_web.plans.storing import assessment_of, plan_of
from bathys_web.plans.views.own import CHANGED_ELSEWHERE, base_of, own_plan

__all__ = ["better_place", "ground", "ground_picture", "isometric_picture"]

_BOXES: dict[str, tuple[tuple[str, str], ...]] = {
    "place": (("x", "length"), ("y", "length"), ("turned", "angle")),
    "place_joint": (("x", "length"), ("y", "length")),
    "size_mark": (("x", "length"), ("y", "length"), ("length", "length"), ("width", "length")),
    "site": (("length", "length"), ("width", "length")),
}
"""Boxes of a form, by what it does."""

_LONGEST, _MOST_CORNERS = 2000, 40
_FULL_TURN = 360.0


class _Unread(ValueError):
    """What was typed cannot be read, by field."""

    def __init__(self, errors: dict[str, str]) -> None:
        super().__init__("; ".join(errors.values()))
        self.errors = errors


@require_http_methods(["GET", "POST"])
@login_required
def ground(request: SignedInRequest, key: UUID) -> HttpResponse:
    """The ground plan; posted, something on it is changed.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        Key of the plan

    Returns
    -------
    HttpResponse
        The page, or its changed part
    """
    saved = own_plan(request, key)
    picked = (request.POST or request.GET).get("part", "")[:40]
    if request.method == "GET":
        return _page(request, saved, saved.current, picked)
    units = units_for(request, plan_of(saved.current))
    try:
        head, picked = _changed(request, saved, picked, units)
    except _Unread as unread:
        return _page(request, saved, saved.current, picked, unread.errors)
    except EditRefused as refused:
        where = "outline" if request.POST.get("verb") == "outline" else ""
        return _page(request, saved, saved.current, picked, {where: str(refused)})
    except StaleEdit as stale:
        return _page(request, saved, stale.newest, picked, {"": CHANGED_ELSEWHERE}, 409)
    if not request.htmx:
        return redirect(f"{request.path}?part={picked}")
    return _page(request, saved, head, picked)


def _changed(
    request: SignedInRequest, saved: SavedPlan, picked: str, units: System
) -> tuple[Revision, str]:
    """The revision that stands after what was asked, and what is picked then."""
    verb, base = request.POST.get("verb", ""), base_of(request)
    if verb in ("undo", "redo"):
        step = undo if verb == "undo" else redo
        return step(saved, request.user, base), picked
    if verb == "mark":
        kind = request.POST.get("kind", "")
        head = change_ground(saved, request.user, base, GroundChange("mark", kind))
        now = plan_of(head).ground
        return head, now.marks[-1].id if now is not None and now.marks else ""
    numbers, heights = _numbers(request, verb, units)
    change = GroundChange("place" if verb == "place_joint" else verb, picked, numbers, heights)
    head = change_ground(saved, request.user, base, change)
    return head, "" if verb == "drop_mark" else picked


Heights = tuple[float | None, ...]


def _numbers(
    request: SignedInRequest, verb: str, units: System
) -> tuple[tuple[float, ...], Heights]:
    """What was dragged, in metres; or what was typed, in the reader's units."""
    dragged = request.POST.get("at")
    if dragged is not None:
        try:
            numbers = tuple(float(word) for word in dragged.split(",") if word)
        except ValueError:
            numbers = (math.nan,)
        if not all(math.isfinite(n) for n in numbers) or len(numbers) > 2 * _MOST_CORNERS:
            raise _Unread({"": "It was dropped where no place is; try again."})
        if len(numbers) % 2 and not (verb == "place" and len(numbers) == 3):
            raise _Unread({"": "It was dropped where no place is; try again."})
        return numbers, _dragged_heights(request.POST.get("heights", ""))
    if verb in ("route", "outline"):
        name = "corners" if verb == "route" else verb
        return _corners(request.POST.get(name, "")[:_LONGEST], units, name)
    found, errors = [], {}
    for name, quantity in _BOXES.get(verb, ()):
        try:
            value = read(request.POST.get(name, ""), quantity, units)
        except UnreadableQuantity as error:
            errors[name] = str(error)
            continue
        if quantity == "angle":
            value %= _FULL_TURN
        elif name in ("length", "width") and value < 0.01:
            errors[name] = f"It must be at least {show(0.01, 'length', units)}."
        found.append(value)
    if errors:
        raise _Unread(errors)
    return tuple(found), ()


def _dragged_heights(text: str) -> Heights:
    """Heights of the corners of a dragged route [m], empty where none is told."""
    try:
        found = tuple(float(word) if word else None for word in text.split(",")[:_MOST_CORNERS])
    except ValueError:
        return ()
    return found if all(z is None or math.isfinite(z) for z in found) else ()


def _corners(text: str, units: System, box: str) -> tuple[tuple[float, ...], Heights]:
    """Corners as typed: one a line, from the left, from the near edge, and perhaps its height."""
    numbers: list[float] = []
    heights: list[float | None] = []
    for row, line in enumerate(filter(str.strip, text.splitlines()), start=1):
        words = [w for w in re.split(r"[;,]\s+|;|\t|\s+and\s+", line.strip()) if w]
        if len(words) not in ((2, 3) if box == "corners" else (2,)):
            more = "; a third is its height" if box == "corners" else ""
            wanted = f"two lengths, such as 1.2 m, 3.4 m{more}"
            raise _Unread({box: f"Row {row} wants {wanted}."})
        try:
            numbers += [read(w, "length", units) for w in words[:2]]
            heights.append(read(words[2], "length", units) if len(words) > 2 else None)
        except UnreadableQuantity as error:
            raise _Unread({box: f"Row {row}: {error}"}) from None
    if len(numbers) > 2 * _MOST_CORNERS:
        raise _Unread({box: f"There is room for {_MOST_CORNERS} corners."})
    return tuple(numbers), tuple(heights)


def _page(
    request: SignedInRequest,
    saved: SavedPlan,
    head: Revision,
    picked: str,
    errors: dict[str, str] | None = None,
    status: int = 0,
) -> HttpResponse:
    found = assessment_of(head)
    plan = found.evaluation.plan
    typed = {k: str(v)[:_LONGEST] for k, v in request.POST.items()} if errors else {}
    if request.POST.get("verb") == "site":
        typed["site"] = "1"
    units = units_for(request, plan)
    context = {
        **ground_context(found, units, picked, typed, errors or {}, request.path),
        "saved": saved,
        "head": head,
        "plan": plan,
        "units": units,
        "standing": plan_statuses_of([head])[0],
        "can_redo": newest_child(head) is not None,
    }
    template = "plans/_ground.html" if request.htmx else "plans/ground.html"
    return render(request, template, context, status=status or (422 if errors else 200))


@require_GET
@login_required
def better_place(request: SignedInRequest, key: UUID) -> HttpResponse:
    """Where a sump would save pipe.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        Key of the plan

    Returns
    -------
    HttpResponse
        The place, or that there is none
    """
    saved = own_plan(request, key)
    plan = plan_of(saved.current)
    context = {
        "better": better_context(plan, units_for(request, plan)),
        "saved": saved,
        "head": saved.current,
        "plan": plan,
        "in_page": bool(request.htmx),
    }
    template = "plans/_ground_better.html"
    if not request.htmx:
        return render(request, "plans/offers/page.html", {**context, "template": template})
    return render(request, template, context)


@require_GET
@login_required
def ground_picture(request: SignedInRequest, key: UUID) -> HttpResponse:
    """The ground plan as a file that stands by itself.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        Key of the plan

    Returns
    -------
    HttpResponse
        An SVG document
    """
    saved = own_plan(request, key)
    found = assessment_of(saved.current).evaluation
    units = units_for(request, found.plan)
    picture = draw_ground_plan(found, units)
    text = render_to_string(
        "plans/ground_file.svg",
        {"picture": picture, "plan": found.plan},
    )
    name = f"{slugify(found.plan.name) or 'plan'}-from-above.svg"
    headers = {"Content-Disposition": f'attachment; filename="{name}"'}
    return HttpResponse(text, content_type="image/svg+xml", headers=headers)


@require_GET
@login_required
def isometric_picture(request: SignedInRequest, key: UUID) -> HttpResponse:
    """The layout as it stands, as a file that stands by itself.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        Key of the plan

    Returns
    -------
    HttpResponse
        An SVG document
    """
    saved = own_plan(request, key)
    text = isometric_svg(assessment_of(saved.current).evaluation)
    return HttpResponse(text, content_type="image/svg+xml")
