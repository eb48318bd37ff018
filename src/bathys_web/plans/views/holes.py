"""The holes of a plan: their fittings and sides in one list, beside the drawings they come to."""

from collections.abc import Sequence
from typing import Any
from uuid import UUID

from django.contrib.auth.decorators import login_required
from django.http import Http404, HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_GET, require_http_methods

from bathys.build import (
    FLOOR,
    Hole,
    HoleChoice,
    HoleRefused,
    check_choice,
    choose_holes,
    holes_of,
    offered_fittings,
    own_fittings,
)
from bathys.documents import SIDE_WORDS
from bathys.drawing.drilling import board_pictures, drilling_pictures
from bathys.drawing.stations import labels_of
from bathys.parts.wall_fittings import WALL_FITTINGS
from bathys.plan import Plan
from bathys.plan.wall_hole import SIDES, WallHole
from bathys.shelf import ShelfPart
from bathys.units import System, UnreadableQuantity, fill_sentence, read, show_tape
from bathys_web.config.requests import SignedInRequest
from bathys_web.plans.actions.keep_own_part import own_parts_of
from bathys_web.plans.models import Revision, SavedPlan
from bathys_web.plans.pages import units_for
from bathys_web.plans.plan_status import plan_statuses_of
from bathys_web.plans.storing import assessment_of
from bathys_web.plans.views.own import own_plan, refusal_of

__all__ = ["drilling_picture", "holes"]

_LONGEST = 40
_BOXES = ("fitting", "side", "across", "drill")


@require_GET
@login_required
def drilling_picture(request: SignedInRequest, key: UUID, vessel: str) -> HttpResponse:
    """Where one vessel is drilled, as a file that stands by itself.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        Key of the plan
    vessel : str
        Id of the vessel

    Returns
    -------
    HttpResponse
        An SVG document

    Raises
    ------
    Http404
        If nothing is drilled there
    """
    found = assessment_of(own_plan(request, key).current).evaluation
    units = units_for(request, found.plan)
    pictures = (*drilling_pictures(found, units), *board_pictures(found, units))
    picture = next((p for p in pictures if p.name == vessel), None)
    if picture is None:
        raise Http404
    return HttpResponse(picture.svg, content_type="image/svg+xml")


def _key(hole: Hole) -> str:
    return f"{hole.run.id}.{'start' if hole.is_start else 'end'}"


@require_http_methods(["GET", "POST"])
@login_required
def holes(request: SignedInRequest, key: UUID) -> HttpResponse:
    """All holes in one list; posted, what is chosen of them is kept.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        Key of the plan

    Returns
    -------
    HttpResponse
        The page; with what was typed, and why it cannot be so, where it cannot
    """
    saved = own_plan(request, key)
    head = saved.current
    if request.method == "GET":
        return _page(request, saved, head)
    found = assessment_of(head).evaluation
    units = units_for(request, found.plan)
    choices, errors = [], dict[str, str]()
    for hole in holes_of(found):
        choice = _choice(request, hole, units, errors)
        if choice is not None:
            choices.append(choice)
    if errors:
        return _page(request, saved, head, errors)

    def edit(plan: Plan) -> tuple[Plan, str]:
        return choose_holes(plan, choices), "Holes: fittings and sides chosen"

    refused = refusal_of(request, saved, edit)
    if refused is not None:
        newest, words, status = refused
        return _page(request, saved, newest, {"": words}, status)
    return redirect(request.path)


def _choice(
    request: SignedInRequest, hole: Hole, units: System, errors: dict[str, str]
) -> HoleChoice | None:
    """What was posted of a hole; none if it was not asked, or cannot be read."""
    key = _key(hole)
    if f"fitting:{key}" not in request.POST:
        return None
    told = (hole.run.start_hole if hole.is_start else hole.run.end_hole) or WallHole()
    across = _length(request, f"across:{key}", _shown(hole, units), told.across, units, errors)
    shown_drill = _drilled(hole, units)
    drill = _length(request, f"drill:{key}", shown_drill, told.drill, units, errors)
    fitting = request.POST[f"fitting:{key}"]
    mine = next((o for o in own_parts_of(request.user) if o.key == fitting), None)
    if mine is not None:
        fitting = mine.word("like")
        if request.POST.get(f"drill:{key}", "").strip() in ("", shown_drill):
            drill = mine.number("hole")
    if any(f"{name}:{key}" in errors for name in ("across", "drill")):
        return None
    side = request.POST.get(f"side:{key}", hole.side)
    choice = HoleChoice(hole, fitting, side, across, drill)
    try:
        check_choice(choice)
    except HoleRefused as refused:
        words = fill_sentence(refused.sentence, refused.figures, units, {})
        errors[f"{refused.field}:{key}"] = words
    return choice


def _length(
    request: SignedInRequest,
    box: str,
    shown: str,
    told: float | None,
    units: System,
    errors: dict[str, str],
) -> float | None:
    """A length as typed [m]: as it was told where nothing was changed, none where it is empty."""
    typed = request.POST.get(box, "").strip()[:_LONGEST]
    if not typed:
        return None
    if typed == shown:
        return told
    try:
        return read(typed, "length", units)
    except UnreadableQuantity as error:
        errors[box] = str(error)
    return None


def _drilled(hole: Hole, units: System) -> str:
    return show_tape(hole.diameter, units) if hole.diameter else ""


def _shown(hole: Hole, units: System) -> str:
    return show_tape(hole.across, units).replace(",", "")


def _page(
    request: SignedInRequest,
    saved: SavedPlan,
    head: Revision,
    errors: dict[str, str] | None = None,
    status: int = 0,
) -> HttpResponse:
    assessed = assessment_of(head)
    found = assessed.evaluation
    units = units_for(request, found.plan)
    wrong = errors or {}
    typed = request.POST if wrong else {}
    own = own_parts_of(request.user)
    rows = [_row(found.plan, hole, units, typed, wrong, own) for hole in holes_of(found)]
    context = {
        "saved": saved,
        "head": head,
        "plan": found.plan,
        "units": units,
        "standing": plan_statuses_of([head])[0],
        "rows": rows,
        "open": sum(not row["hole"].is_chosen for row in rows),
        "sides": [(side, SIDE_WORDS[side]) for side in SIDES],
        "pictures": drilling_pictures(found, units),
        "error": wrong.get("", ""),
        "is_wrong": bool(wrong),
        "said": [
            fill_sentence(f.sentence, f.figures, units, found.plan.names)
            for f in assessed.findings
            if f.rule.id == "G8"
        ],
    }
    return render(request, "plans/holes.html", context, status=status or (422 if wrong else 200))


def _row(
    plan: Plan,
    hole: Hole,
    units: System,
    typed: Any,
    wrong: dict[str, str],
    own: Sequence[ShelfPart],
) -> dict[str, Any]:
    key = _key(hole)
    labels = labels_of(plan)
    return {
        "hole": hole,
        "key": key,
        "vessel": f"{labels[hole.vessel.id]} {hole.vessel.name}",
        "what": f"{hole.name}, {labels[hole.run.id]} {hole.run.name}",
        "pipe": hole.run.bore.size.nominal if hole.run.bore.size is not None else "",
        "in_floor": hole.side == FLOOR,
        "fittings": [
            *((kind, WALL_FITTINGS[kind].name) for kind in offered_fittings(hole)),
            *(
                (o.key, f"{o.name}, {show_tape(o.number('hole'), units)}")
                for o in own_fittings(hole, own)
            ),
        ],
        "fitting": typed.get(f"fitting:{key}", hole.fitting),
        "side": typed.get(f"side:{key}", hole.side),
        "across": typed.get(f"across:{key}", _shown(hole, units)),
        "drill": typed.get(f"drill:{key}", _drilled(hole, units)),
        "wrong": {name: wrong.get(f"{name}:{key}", "") for name in _BOXES},
    }
