"""The instruments of a plan, and where boards send what they read."""

from uuid import UUID

from django.conf import settings
from django.contrib.auth.decorators import login_required
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils import timezone
from django.utils.dateparse import parse_time
from django.views.decorators.csrf import csrf_exempt
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from bathys.evaluation import Evaluation
from bathys.instruments import CHANNEL_KINDS, unit_labels, usual_channels
from bathys.scenarios.failures import failures_of
from bathys.units import System, UnreadableQuantity, entry, read, unit_of
from bathys_web.config.requests import SignedInRequest
from bathys_web.instruments.actions.keep_board import (
    BoardRefused,
    NewChannel,
    add_board,
    add_channel,
    add_fault,
    delete_board,
    delete_channel,
    set_channel,
    take_token_back,
)
from bathys_web.instruments.actions.keep_watch import BadWatch, keep_watch, see_incident
from bathys_web.instruments.actions.take_message import MOST_MESSAGE_BYTES, take_message
from bathys_web.instruments.actions.take_readings import MOST_READINGS, BadToken, board_of
from bathys_web.instruments.chart import SPANS, chart_of
from bathys_web.instruments.expecting import Expected, expected_answer
from bathys_web.instruments.models import Board, BoardChannel
from bathys_web.instruments.page import instruments_context
from bathys_web.plans.models import SavedPlan
from bathys_web.plans.numbers import whole_number
from bathys_web.plans.pages import units_for
from bathys_web.plans.storing import assessment_of
from bathys_web.plans.views.own import own_plan

__all__ = [
    "board",
    "channel_page",
    "describe_board",
    "instruments",
    "keep_settings",
    "new_board",
    "receive",
    "rig_fault",
    "see",
]

_TOKEN = "new_board_token"  # noqa: S105 - the name of a field, not a token


def _channels(saved: SavedPlan) -> list[BoardChannel]:
    return list(BoardChannel.objects.filter(board__plan=saved).exclude(board__token_hash=None))


def _page(
    request: SignedInRequest, saved: SavedPlan, errors: dict[str, str], status: int = 200
) -> HttpResponse:
    found = assessment_of(saved.current).evaluation
    units, rows = units_for(request, found.plan), _channels(saved)
    answer = expected_answer(saved, rows)
    context = {
        "saved": saved,
        "plan": found.plan,
        "units": units,
        "errors": errors,
        "typed": request.POST if errors else {},
        "token": request.session.pop(_TOKEN, None),
        "address": request.build_absolute_uri("/api/readings/"),
        "answer": answer,
        "length_unit": unit_of("length", units),
        **instruments_context(saved, found, answer, timezone.now(), units),
    }
    return render(request, "instruments/instruments.html", context, status=status)


@require_GET
@login_required
def instruments(request: SignedInRequest, key: UUID) -> HttpResponse:
    """What is wrong, and what is read beside what should be.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        Key of the plan

    Returns
    -------
    HttpResponse
        The page
    """
    return _page(request, own_plan(request, key), {})


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
        return _page(request, saved, {"board": str(refused)}, 422)
    expected_answer(saved, _channels(saved), request.user)
    if not is_simulated:
        request.session[_TOKEN] = {"name": name[:40], "token": token, "channel": channels[0].key}
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
        return _page(request, saved, {f"board-{pk}": str(refused)}, 422)
    left = _channels(saved)
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
    answer = expected_answer(saved, _channels(saved))
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


@require_POST
@login_required
def see(request: SignedInRequest, key: UUID) -> HttpResponse:
    """Somebody has seen what is wrong: it is not told again.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        Key of the plan

    Returns
    -------
    HttpResponse
        To the page
    """
    saved = own_plan(request, key)
    see_incident(saved, request.user, timezone.now())
    return redirect("instruments", saved.key)


@require_POST
@login_required
def keep_settings(request: SignedInRequest, key: UUID) -> HttpResponse:
    """Keep who is told, and when not.

    Parameters
    ----------
    request : SignedInRequest
        The request: ``mails``, ``quiet_from``, ``quiet_until``, ``also_to``
    key : UUID
        Key of the plan

    Returns
    -------
    HttpResponse
        To the page; the page with a sentence at each field that is wrong
    """
    saved = own_plan(request, key)
    errors: dict[str, str] = {}
    minutes = {f: _minute(request, f, errors) for f in ("quiet_from", "quiet_until")}
    also_to = request.POST.get("also_to", "").strip()
    zone = timezone.get_current_timezone_name()
    try:
        if not errors:
            mails = request.POST.get("mails") == "1"
            quiet = (minutes["quiet_from"], minutes["quiet_until"])
            keep_watch(saved, request.user, mails, also_to, quiet, zone)
    except BadWatch as bad:
        errors["also_to"] = str(bad)
    return _page(request, saved, errors, 422) if errors else redirect("instruments", saved.key)


def _minute(request: SignedInRequest, field: str, errors: dict[str, str]) -> int:
    try:
        found = parse_time(request.POST.get(field, "").strip())
    except ValueError:
        found = None
    if found is None:
        errors[field] = "Write a time of the day such as 22:00."
        return 0
    return 60 * found.hour + found.minute


@require_POST
@login_required
def rig_fault(request: SignedInRequest, key: UUID) -> HttpResponse:
    """Let something fail on the simulated board.

    Parameters
    ----------
    request : SignedInRequest
        The request: ``failure``, its kind and its place
    key : UUID
        Key of the plan

    Returns
    -------
    HttpResponse
        To the page; the page with a sentence if it cannot be
    """
    saved = own_plan(request, key)
    found = assessment_of(saved.current).evaluation
    simulated = saved.boards.filter(is_simulated=True).first()
    wanted = request.POST.get("failure", "")
    failure = next((f for f in failures_of(found.plan) if f"{f.kind} {f.place}" == wanted), None)
    if simulated is None or failure is None:
        return _page(request, saved, {"fault": "Choose one of the list."}, 422)
    simulated.plan = saved
    add_fault(simulated, request.user, failure, timezone.now())
    return redirect("instruments", saved.key)


def _token_of(request: HttpRequest) -> str:
    scheme, _, token = request.headers.get("Authorization", "").partition(" ")
    return token.strip() if scheme.lower() == "bearer" else ""


def _refused(why: str, status: int) -> JsonResponse:
    headers = {"WWW-Authenticate": "Bearer"} if status == 401 else {}
    return JsonResponse({"error": why}, status=status, headers=headers)


@csrf_exempt
@require_POST
def receive(request: HttpRequest) -> HttpResponse:
    """Take what a board sends. It needs no account, but the board's token.

    Parameters
    ----------
    request : HttpRequest
        The request: JSON with ``readings``

    Returns
    -------
    HttpResponse
        JSON: how many are ``kept``, how many were ``known``, which are ``refused`` and why, and
        what ``time`` it is
    """
    sent = whole_number(request.headers.get("Content-Length"))
    if sent > MOST_MESSAGE_BYTES:
        return _refused(f"Send {MOST_READINGS} readings at most at a time.", 413)
    answer = take_message(request.body, _token_of(request))
    headers = {"WWW-Authenticate": "Bearer"} if answer.status == 401 else {}
    return JsonResponse(answer.told, status=answer.status, headers=headers)


@require_GET
def describe_board(request: HttpRequest) -> HttpResponse:
    """What a board is to send, and what time it is.

    Parameters
    ----------
    request : HttpRequest
        The request, with the board's token

    Returns
    -------
    HttpResponse
        JSON
    """
    try:
        mine = board_of(_token_of(request))
    except BadToken as bad:
        return _refused(str(bad), 401)
    channels = [
        {"channel": c.key, "measures": CHANNEL_KINDS[c.kind].title, "unit": c.unit}
        for c in mine.channels.all()
    ]
    address = settings.PUBLIC_URL.rstrip("/") or request.build_absolute_uri("/").rstrip("/")
    return JsonResponse(
        {
            "board": mine.name,
            "channels": channels,
            "send_to": f"{address}/api/readings/",
            "time": timezone.now().isoformat(),
        }
    )
