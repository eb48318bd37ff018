"""Boards of a plan and what each measures: added, changed, looked at as charts, deleted."""

from uuid import UUID

from django.contrib.auth.decorators import login_required
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils import timezone
from django.views.decorators.http import require_http_methods, require_POST

from bathys.evaluation import Evaluation
from bathys.instruments import CHANNEL_KINDS, unit_labels, usual_channels
from bathys.units import System, UnreadableQuantity, entry, read, unit_of
from bathys_web.config.requests import SignedInRequest
from bathys_web.instruments.actions.keep_board import (
    BoardRefused,
    NewChannel,
    add_board,
    add_channel,
    delete_board,
    delete_channel,
    set_channel,
    take_token_back,
)
from bathys_web.instruments.chart import SPANS, chart_of
from bathys_web.instruments.expecting import Expected, expected_answer
from bathys_web.instruments.models import Board, BoardChannel
from bathys_web.instruments.views.page import NEW_TOKEN, channels_of, instruments_page
from bathys_web.plans.models import SavedPlan
from bathys_web.plans.pages import units_for
from bathys_web.plans.storing import assessment_of
from bathys_web.plans.views.own import own_plan

__all__ = ["board", "channel_page", "new_board"]


@require_POST
@login_required
def new_board(request: SignedInRequest, key: UUID) -> HttpResponse:
    """Add a board.

    Parameters
    ----------
    request : SignedInRequest
        The request: its ``name``, what it ``measures``, and whether it is ``simulated``
    key : UUID
        Key of the plan

    Returns
    -------
    HttpResponse
        To the page, which tells the token once; the page with a sentence if it cannot be
    """
    saved = own_plan(request, key)
    found = assessment_of(saved.current).evaluation
    usual = {f"{c.kind} {c.part}": c for c in usual_channels(found)}
    is_simulated = request.POST.get("simulated") == "1"
    chosen = list(usual) if is_simulated else request.POST.getlist("measures")
    channels = [
        NewChannel(usual[value].key.lower(), usual[value].kind, usual[value].part)
        for value in dict.fromkeys(chosen)
        if value in usual
    ]
    name = "Simulated board" if is_simulated else request.POST.get("name", "")
    try:
        _, token = add_board(saved, request.user, name, channels, is_simulated=is_simulated)
    except BoardRefused as refused:
        return instruments_page(request, saved, {"board": str(refused)}, 422)
    expected_answer(saved, channels_of(saved), request.user)
    if not is_simulated:
        request.session[NEW_TOKEN] = {"name": name[:40], "token": token, "channel": channels[0].key}
    return redirect("instruments", saved.key)


def _own_board(request: SignedInRequest, saved: SavedPlan, pk: int) -> Board:
    return get_object_or_404(Board.objects.select_related("plan"), pk=pk, plan=saved)


@require_POST
@login_required
def board(request: SignedInRequest, key: UUID, pk: int) -> HttpResponse:
    """Do something with a board.

    Parameters
    ----------
    request : SignedInRequest
        The request: ``act`` is ``delete``, ``take_back`` its token, or ``channel`` to add one
    key : UUID
        Key of the plan
    pk : int
        Number of the board

    Returns
    -------
    HttpResponse
        To the page; the page with a sentence if it cannot be
    """
    saved = own_plan(request, key)
    mine, act = _own_board(request, saved, pk), request.POST.get("act", "")
    found = assessment_of(saved.current).evaluation
    try:
        if act == "delete":
            delete_board(mine, request.user)
        elif act == "take_back":
            take_token_back(mine, request.user)
        elif act == "channel":
            add_channel(mine, request.user, _new_channel(request, found))
        else:
            raise BoardRefused("Choose what is to be done with the board.")
    except BoardRefused as refused:
        return instruments_page(request, saved, {f"board-{pk}": str(refused)}, 422)
    left = channels_of(saved)
    if left:
        expected_answer(saved, left, request.user)
    return redirect("instruments", saved.key)


def _new_channel(request: SignedInRequest, found: Evaluation) -> NewChannel:
    kind, _, part = request.POST.get("what", "").partition(" ")
    if kind not in CHANNEL_KINDS or part not in set(CHANNEL_KINDS[kind].parts(found)):
        raise BoardRefused("Choose what it measures, and where.")
    units = units_for(request, found.plan)
    mark = _length(request, "mark", "The height of a float contact", units)
    return NewChannel(request.POST.get("key", ""), kind, part, mark=mark)


def _length(request: SignedInRequest, field: str, called: str, units: System) -> float:
    text = request.POST.get(field, "").strip()
    try:
        return read(text, "length", units) if text else 0.0
    except UnreadableQuantity as error:
        raise BoardRefused(f"{called}: {error}") from None


@require_http_methods(["GET", "POST"])
@login_required
def channel_page(request: SignedInRequest, key: UUID, pk: int) -> HttpResponse:
    """Readings of one channel as a chart; posted, its unit and offset are kept, or it is deleted.

    Parameters
    ----------
    request : SignedInRequest
        The request: ``span`` of the chart; ``act``, ``unit``, ``offset`` and ``mark``
    key : UUID
        Key of the plan
    pk : int
        Number of the channel

    Returns
    -------
    HttpResponse
        The page
    """
    saved = own_plan(request, key)
    rows = BoardChannel.objects.select_related("board__plan")
    channel = get_object_or_404(rows, pk=pk, board__plan=saved)
    found = assessment_of(saved.current).evaluation
    units, error = units_for(request, found.plan), ""
    if request.method == "POST":
        try:
            return _changed(request, saved, channel, units)
        except BoardRefused as refused:
            error = str(refused)
    span = request.GET.get("span", "day")
    answer = expected_answer(saved, channels_of(saved))
    expected = answer.result if answer.is_done else None
    band = expected.bands.get(str(pk)) if isinstance(expected, Expected) else None
    kind = CHANNEL_KINDS[channel.kind]
    name = found.plan.names.get(channel.part, channel.part)
    chosen = span if span in SPANS else "day"
    context = {
        "saved": saved,
        "plan": found.plan,
        "units": units,
        "channel": channel,
        "kind": kind,
        "name": name,
        "error": error,
        "labels": unit_labels(channel.kind),
        "offset": request.POST.get("offset")
        or entry(channel.offset, _difference(kind.quantity), units),
        "mark": entry(channel.mark, "length", units),
        "quantity": kind.quantity,
        "shown_unit": unit_of(_difference(kind.quantity), units),
        "spans": [(k, words[0]) for k, words in SPANS.items()],
        "span": chosen,
        **chart_of(channel, name, band, chosen, timezone.now(), units),
    }
    return render(request, "instruments/channel.html", context, status=422 if error else 200)


def _difference(quantity: str) -> str:
    """What a difference of a quantity is typed as: of temperatures it has no zero to start from."""
    return "ratio" if quantity == "temperature" else quantity


def _changed(
    request: SignedInRequest, saved: SavedPlan, channel: BoardChannel, units: System
) -> HttpResponse:
    if request.POST.get("act") == "delete":
        delete_channel(channel, request.user)
        return redirect("instruments", saved.key)
    quantity = _difference(CHANNEL_KINDS[channel.kind].quantity)
    text = request.POST.get("offset", "").strip()
    try:
        offset = read(text, quantity, units) if text else 0.0
    except UnreadableQuantity as error:
        raise BoardRefused(str(error)) from None
    mark = _length(request, "mark", "The height of a float contact", units)
    set_channel(channel, request.user, request.POST.get("unit", ""), offset, mark)
    return redirect("instrument", saved.key, channel.pk)
