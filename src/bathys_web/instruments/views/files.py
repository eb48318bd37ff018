"""Readings out of a CSV file: sent, looked at, taken."""

from typing import Any
from uuid import UUID

from django.contrib.auth.decorators import login_required
from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.utils import timezone
from django.views.decorators.http import require_http_methods

from bathys.instruments import (
    CHANNEL_KINDS,
    MOST_FILE_BYTES,
    CsvShape,
    read_csv,
    shape_of,
    text_of,
)
from bathys.shelf import BadCell
from bathys_web.config.requests import SignedInRequest
from bathys_web.instruments.actions.take_file import (
    drop_file,
    keep_file,
    kept_file,
    take_file,
)
from bathys_web.instruments.models import BoardChannel
from bathys_web.plans.models import SavedPlan
from bathys_web.plans.numbers import whole_number
from bathys_web.plans.pages import units_for
from bathys_web.plans.storing import plan_of
from bathys_web.plans.views.own import own_plan

__all__ = ["readings_file"]

_TOLD = 8


@require_http_methods(["GET", "POST"])
@login_required
def readings_file(request: SignedInRequest, key: UUID) -> HttpResponse:
    """Send a file of readings, say what its columns are, and have it taken.

    Parameters
    ----------
    request : SignedInRequest
        The request: a ``file``; or ``act`` is ``look``, ``take`` or ``drop``, with ``times``,
        ``zone``, ``order`` and what each ``column`` is
    key : UUID
        Key of the plan

    Returns
    -------
    HttpResponse
        The page
    """
    saved = own_plan(request, key)
    channels = list(BoardChannel.objects.filter(board__plan=saved).select_related("board"))
    act = request.POST.get("act", "")
    if act == "drop":
        drop_file(request.user)
        return redirect("instruments", saved.key)
    context: dict[str, Any] = {"error": ""}
    sent = request.FILES.get("file")
    try:
        if request.method == "POST" and not act:
            if sent is None or (sent.size or 0) > MOST_FILE_BYTES:
                limit = f"{MOST_FILE_BYTES // 1_000_000} MB"
                raise BadCell(f"Choose a CSV file of at most {limit}; part a longer one.")
            text = text_of(sent.read())
            shape_of(text)
            keep_file(saved, request.user, text)
            return redirect("readings_file", saved.key)
        kept = kept_file(saved, request.user)
        if kept is not None:
            context |= _looked_at(request, saved, kept, channels)
    except BadCell as bad:
        context["error"] = str(bad)
    plan = plan_of(saved.current)
    context |= {
        "saved": saved,
        "plan": plan,
        "units": units_for(request, plan),
        "has_channels": bool(channels),
    }
    status = 422 if context["error"] else 200
    return render(request, "instruments/file.html", context, status=status)


def _looked_at(
    request: SignedInRequest, saved: SavedPlan, text: str, channels: list[BoardChannel]
) -> dict[str, Any]:
    """The file as it is read by what was said of it, and what came of it if it is taken."""
    posted = request.POST
    order = posted.get("order", "")
    shape = shape_of(text, {"day": True, "month": False}.get(order))
    times = whole_number(posted.get("times")) if "times" in posted else shape.times
    zone = posted.get("zone", "").strip() or timezone.get_current_timezone_name()
    by_pk = {channel.pk: channel for channel in channels}
    chosen = {
        n: by_pk[pk]
        for n in range(len(shape.heads))
        if (pk := _asked(posted, n, shape, channels)) in by_pk and n != times
    }
    names = plan_of(saved.current).names
    told: dict[str, Any] = {
        "shape": shape,
        "times": times,
        "zone": zone,
        "order": "day" if shape.is_day_first else "month",
        "columns": [
            {"number": n, "head": head, "chosen": chosen[n].pk if n in chosen else 0}
            for n, head in enumerate(shape.heads)
        ],
        "channels": [
            {
                "pk": c.pk,
                "words": f"{c.board.name}: {CHANNEL_KINDS[c.kind].title}, "
                f"{names.get(c.part, c.part)}{f' ({c.unit})' if c.unit else ''}",
            }
            for c in channels
        ],
    }
    if posted.get("act") == "take":
        if times < 0 or not chosen:
            raise BadCell("Say which column tells the time, and what at least one other is.")
        told["taken"] = take_file(text, times, chosen, zone, shape.is_day_first)
        drop_file(request.user)
    elif times >= 0:
        told["sample"] = [
            {
                "row": r.row,
                "head": shape.heads[r.column] if r.column >= 0 else "",
                "at": r.at,
                "value": r.value,
                "why": r.why,
            }
            for _, r in zip(
                range(_TOLD), read_csv(text, shape, times, tuple(chosen), zone), strict=False
            )
        ]
    return told


def _asked(posted: Any, column: int, shape: CsvShape, channels: list[BoardChannel]) -> int:
    """What a column is: as was said, or the channel of the same name."""
    field = f"column-{column}"
    if field in posted:
        return whole_number(posted.get(field))
    head = shape.heads[column].lower()
    return next((c.pk for c in channels if c.key.lower() == head), 0)
