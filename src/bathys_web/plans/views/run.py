"""The log of a plan that runs: quick entries, what is due, and what was measured."""

import csv
import io
from datetime import datetime
from typing import Any
from uuid import UUID, uuid4

from django.conf import settings
from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.db.models import Exists, OuterRef
from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils import timezone
from django.utils.dateparse import parse_datetime
from django.utils.text import slugify
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from bathys.cells import harmless
from bathys.edits import EditRefused
from bathys.evaluation import Evaluation
from bathys.fieldlog import ENTRY_KINDS, BadEntry, EntryKind, fish_bounds_of, read_entry
from bathys.units import System, unit_of
from bathys_web.config.requests import SignedInRequest
from bathys_web.plans.actions.add_revision import StaleEdit
from bathys_web.plans.actions.follow_stock import follow_stock
from bathys_web.plans.actions.keep_entry import BadMoment, drop_entry, keep_entry, spoon_of
from bathys_web.plans.actions.keep_photo import BadPhoto, keep_photo, small_photo
from bathys_web.plans.destinations import destinations
from bathys_web.plans.entry_form import entry_form
from bathys_web.plans.harm_ahead import harm_ahead
from bathys_web.plans.models import LogEntry, LogPhoto, SavedPlan
from bathys_web.plans.pages import units_for
from bathys_web.plans.run_page import entry_words, run_context
from bathys_web.plans.storing import assessment_of
from bathys_web.plans.trial_page import trials_due
from bathys_web.plans.views.own import CHANGED_ELSEWHERE, base_of, own_plan

__all__ = ["delete_entry", "enter", "entry_photo", "log_csv", "run"]

_HAS_PHOTO = Exists(LogPhoto.objects.filter(entry=OuterRef("pk")))
_COLUMNS = ("at", "kind", "part", "field", "value", "unit", "note")


def _entries(saved: SavedPlan) -> list[LogEntry]:
    return list(LogEntry.objects.filter(plan=saved).annotate(has_photo=_HAS_PHOTO))


@require_GET
@login_required
def run(request: SignedInRequest, key: UUID) -> HttpResponse:
    """What is due, what can be entered, and what was.

    Parameters
    ----------
    request : SignedInRequest
        The request; with a ``part``, what can be measured there
    key : UUID
        Key of the plan

    Returns
    -------
    HttpResponse
        The page
    """
    saved = own_plan(request, key)
    found = assessment_of(saved.current).evaluation
    units = units_for(request, found.plan)
    part = request.GET.get("part", "")
    kinds = [k for k in ENTRY_KINDS.values() if k.key != "job" and list(k.parts(found))]
    own = [k for k in kinds if part in k.parts(found)] if part in found.plan.names else []
    entries, now = _entries(saved), timezone.now()
    harm = harm_ahead(saved, found, entries, now)
    context = {
        "saved": saved,
        "head": saved.current,
        "plan": found.plan,
        "units": units,
        "kinds": own or kinds,
        "harm": harm if harm is not None and harm.is_fitted else None,
        "harm_days": max(round((harm.until - now).total_seconds() / 86400.0), 0) if harm else 0,
        "calendar": _calendar_address(request, saved),
        "has_boards": saved.boards.exists(),
        "is_alarmed": saved.incidents.filter(ended=None).exists(),
        "at_part": {"id": part, "name": found.plan.names[part]} if own else None,
        "trials_due": [
            row
            for trial in saved.trials.select_related("plan__head", "other__head")
            for row in trials_due(trial, now)
        ],
        **run_context(found, entries, now, units, harm.until if harm else None),
    }
    return render(request, "plans/run.html", context)


def _calendar_address(request: SignedInRequest, saved: SavedPlan) -> str:
    """Where a calendar reads the plan's jobs; empty where it is not shared."""
    if saved.calendar is None:
        return ""
    path, public = reverse("calendar_feed", args=[saved.calendar]), settings.PUBLIC_URL.rstrip("/")
    return f"{public}{path}" if public else request.build_absolute_uri(path)


@require_POST
@login_required
def take_stock(request: SignedInRequest, key: UUID) -> HttpResponse:
    """Make the plan's fish those that the log tells of.

    Parameters
    ----------
    request : SignedInRequest
        The request, with the revision that was looked at
    key : UUID
        Key of the plan

    Returns
    -------
    HttpResponse
        To the log
    """
    saved = own_plan(request, key)
    try:
        follow_stock(saved, request.user, base_of(request), timezone.now())
        messages.success(request, "The plan has the fish of today now. Its figures follow.")
    except EditRefused as refused:
        messages.error(request, str(refused))
    except StaleEdit:
        messages.error(request, CHANGED_ELSEWHERE)
    return redirect("run", saved.key)


@require_http_methods(["GET", "POST"])
@login_required
def enter(request: SignedInRequest, key: UUID, kind: str) -> HttpResponse:
    """The form of one kind of entry; posted, it is kept.

    Parameters
    ----------
    request : SignedInRequest
        The request: ``part``, its fields, ``at`` if it was not now, ``note``, and its ``entry`` key
    key : UUID
        Key of the plan
    kind : str
        Key of the kind

    Returns
    -------
    HttpResponse
        The form; to the log once it is kept
    """
    saved, about = own_plan(request, key), ENTRY_KINDS.get(kind)
    found = assessment_of(saved.current).evaluation
    units = units_for(request, found.plan)
    parts = list(about.parts(found)) if about is not None else []
    if about is None or not parts:
        raise Http404
    if request.method == "GET":
        return _form(request, saved, (about, found), units, {})
    part = request.POST.get("part", "")
    errors = dict[str, str]() if part in parts else {"part": "Choose one of the list."}
    values: dict[str, Any] = {}
    try:
        bounds = fish_bounds_of(found.plan, part)
        values = read_entry(about, request.POST.dict(), units, spoon_of(saved, part), bounds)
    except BadEntry as bad:
        errors |= bad.errors
    at, photo = _moment(request.POST.get("at", ""), errors), _photo(request, errors)
    if not errors:
        try:
            what = (kind, part, values)
            entry = keep_entry(saved, request.user, _key_of(request), what, at, _note(request))
            if photo is not None:
                keep_photo(entry, photo)
        except BadMoment as bad:
            errors["at"] = str(bad)
    if errors:
        return _form(request, saved, (about, found), units, errors)
    return redirect("run", saved.key)


def _moment(typed: str, errors: dict[str, str]) -> datetime:
    """When it was; now if nothing is typed."""
    if not typed.strip():
        return timezone.now()
    try:
        found = parse_datetime(typed.strip())
    except ValueError:
        found = None
    if found is None:
        errors["at"] = "Write date and time such as 2030-05-17 08:30."
        return timezone.now()
    return found if timezone.is_aware(found) else timezone.make_aware(found)


def _photo(request: SignedInRequest, errors: dict[str, str]) -> bytes | None:
    """The picture that was sent with it, made small."""
    file = request.FILES.get("photo")
    if file is None or file.file is None:
        return None
    try:
        return small_photo(file.file, file.size or 0)
    except BadPhoto as bad:
        errors["photo"] = str(bad)
        return None


def _key_of(request: SignedInRequest) -> UUID:
    try:
        return UUID(request.POST.get("entry", ""))
    except ValueError:
        return uuid4()


def _note(request: SignedInRequest) -> str:
    return "".join(c for c in request.POST.get("note", "").strip()[:300] if c.isprintable())


def _form(
    request: SignedInRequest,
    saved: SavedPlan,
    about: tuple[EntryKind, Evaluation],
    units: System,
    errors: dict[str, str],
) -> HttpResponse:
    kind, found = about
    typed = (request.POST if request.method == "POST" else request.GET).dict()
    context = {
        "saved": saved,
        "plan": found.plan,
        "units": units,
        "form": entry_form(
            kind, found, units, typed, errors, destinations(saved) if kind.key == "moved" else ()
        ),
        "entry": typed.get("entry", "") or str(uuid4()),
    }
    status = 422 if errors else 200
    return render(request, "plans/enter.html", context, status=status)


@require_POST
@login_required
def delete_entry(request: SignedInRequest, key: UUID, pk: int) -> HttpResponse:
    """Drop an entry that was a mistake.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        Key of the plan
    pk : int
        Key of the entry

    Returns
    -------
    HttpResponse
        To the log
    """
    saved = own_plan(request, key)
    drop_entry(get_object_or_404(LogEntry, pk=pk, plan=saved), request.user)
    return redirect("run", saved.key)


@require_GET
@login_required
def entry_photo(request: SignedInRequest, key: UUID, pk: int) -> HttpResponse:
    """The photo of an entry.

    Parameters
    ----------
    request : SignedInRequest
        The request
    key : UUID
        Key of the plan
    pk : int
        Key of the entry

    Returns
    -------
    HttpResponse
        A JPEG; 404 where it has none
    """
    saved = own_plan(request, key)
    photo = get_object_or_404(LogPhoto, entry_id=pk, entry__plan=saved)
    return HttpResponse(bytes(photo.image), content_type="image/jpeg")


@require_GET
@login_required
def log_csv(request: SignedInRequest, key: UUID) -> HttpResponse:
    """The whole log as a file, a row for each figure.

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
    plan = assessment_of(saved.current).evaluation.plan
    units, file = units_for(request, plan), io.StringIO()
    table = csv.writer(file)
    table.writerow(_COLUMNS)
    for entry in reversed(_entries(saved)):
        kind = ENTRY_KINDS.get(entry.kind)
        if kind is None:
            continue
        for asked in [f for f in kind.fields if f.name in entry.values]:
            words = entry_words(kind, {asked.name: entry.values[asked.name]}, units)
            value = words.removeprefix(f"{asked.label}: ")
            unit = unit_of(asked.quantity, units) if asked.quantity else ""
            cells = (
                f"{entry.at:%Y-%m-%d %H:%M}",
                entry.kind,
                entry.part,
                asked.name,
                value.removesuffix(unit).strip() if unit and "," not in value else value,
                unit,
                entry.note,
            )
            table.writerow([harmless(cell) for cell in cells])
    name = f"{slugify(plan.name) or 'plan'}-log.csv"
    headers = {"Content-Disposition": f'attachment; filename="{name}"'}
    return HttpResponse(file.getvalue(), content_type="text/csv; charset=utf-8", headers=headers)
