"""The builder's own air pumps, media, pipes and wall fittings; and all own parts as a file."""

from collections.abc import Callable, Mapping
from typing import Any

from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.contrib.auth.models import User
from django.db import transaction
from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.views.decorators.http import require_GET, require_POST

from bathys.shelf import (
    MOST_BYTES,
    OWN_PART_KINDS,
    BadOwnPart,
    OwnPartRow,
    RowError,
    ShelfPart,
    exactly,
    read_own_parts,
    typed_of,
    write_own_parts,
)
from bathys.units import System, entry, unit_of
from bathys_web.config.requests import SignedInRequest
from bathys_web.plans.actions.keep_container import BadContainer, keep_container
from bathys_web.plans.actions.keep_own_part import drop_own_part, keep_own_part, own_parts_of
from bathys_web.plans.actions.keep_pump import BadPump, keep_pump
from bathys_web.plans.models import OwnContainer, OwnPart, OwnPump
from bathys_web.plans.pages import units_for

__all__ = [
    "delete_own_part",
    "keep_part_of_ones_own",
    "own_part_sections",
    "own_parts_csv",
    "read_own_part_file",
    "take_own_part_file",
]

_ShowPage = Callable[[SignedInRequest, str, Mapping[str, str]], HttpResponse]


def own_part_sections(
    user: User, units: System, kind: str, typed: Mapping[str, str], errors: Mapping[str, str]
) -> list[dict[str, Any]]:
    """A list and a form for each kind of part, for the page of parts.

    Parameters
    ----------
    user : User
        Whose
    units : System
        The reader's units
    kind : str
        Kind whose form was posted; empty if none was
    typed, errors : mapping of str to str
        What was typed in it, and what is wrong, by field

    Returns
    -------
    list of dict
        Variables of the template
    """
    known = own_parts_of(user)
    sections = []
    for key, about in OWN_PART_KINDS.items():
        told, wrong = (typed, errors) if key == kind else ({}, {})
        fields = [("name", "Name", "", ())] + [
            (f.name, f.label, f.quantity, f.choices) for f in about.fields
        ]
        sections.append(
            {
                "about": about,
                "rows": [
                    {
                        "key": p.key.removeprefix("own-"),
                        "name": p.name,
                        "figures": _figures(p, units),
                    }
                    for p in known
                    if p.kind == key
                ],
                "boxes": [
                    {
                        "name": name,
                        "label": label,
                        "choices": choices,
                        "typed": told.get(name, ""),
                        "error": wrong.get(name, ""),
                    }
                    for name, label, _, choices in fields
                ],
            }
        )
    return sections


def _figures(part: ShelfPart, units: System) -> list[tuple[bool, str]]:
    """Each whether it is a number, and in words."""
    return [
        (True, f"{entry(part.number(f.name), f.quantity, units)} {unit_of(f.quantity, units)}")
        if f.quantity
        else (False, dict(f.choices).get(part.word(f.name), ""))
        for f in OWN_PART_KINDS[part.kind].fields
    ]


def keep_part_of_ones_own(
    request: SignedInRequest, kind: str, show_page: _ShowPage
) -> HttpResponse:
    """Take a part of the builder's own.

    Parameters
    ----------
    request : SignedInRequest
        The request
    kind : str
        One of ``OWN_PART_KINDS``
    show_page : callable
        Shows the page of parts again, with what is wrong by field

    Returns
    -------
    HttpResponse
        The page of parts

    Raises
    ------
    Http404
        If there is no such kind
    """
    if kind not in OWN_PART_KINDS:
        raise Http404
    try:
        keep_own_part(request.user, kind, request.POST.dict(), units_for(request))
    except BadOwnPart as bad:
        return show_page(request, kind, bad.errors)
    return redirect(f"/parts/#own-{kind}")


@require_POST
@login_required
def delete_own_part(request: SignedInRequest, pk: int) -> HttpResponse:
    """Drop one.

    Parameters
    ----------
    request : SignedInRequest
        The request
    pk : int
        Key of the part

    Returns
    -------
    HttpResponse
        The page of parts
    """
    part = get_object_or_404(OwnPart, pk=pk, owner=request.user)
    drop_own_part(part, request.user)
    return redirect(f"/parts/#own-{part.kind}")


def _all_rows(user: User) -> list[OwnPartRow]:
    """Everything that is a builder's own, as it would be typed."""
    rows = []
    for pump in OwnPump.objects.filter(owner=user):
        points = "\n".join(f"{exactly(q, 'flow')} at {exactly(h, 'head')}" for q, h in pump.points)
        typed = {
            "name": pump.name,
            "max_flow": exactly(pump.max_flow, "flow"),
            "max_head": exactly(pump.max_head, "head"),
            "power": exactly(pump.power, "power"),
            "points": points,
        }
        rows.append(OwnPartRow(0, "pump", typed))
    for container in OwnContainer.objects.filter(owner=user):
        shape = container.shape
        across = shape["diameter"] if shape["kind"] == "cylinder" else shape["length"]
        typed = {
            "name": container.name,
            "across": exactly(across, "length"),
            "width": exactly(shape["width"], "length") if "width" in shape else "",
            "tall": exactly(shape["height"], "length"),
        }
        rows.append(OwnPartRow(0, "container", typed))
    return rows + [typed_of(part) for part in own_parts_of(user)]


@require_GET
@login_required
def own_parts_csv(request: SignedInRequest) -> HttpResponse:
    """All parts of the builder's own, as a file that can be read again.

    Parameters
    ----------
    request : SignedInRequest
        The request

    Returns
    -------
    HttpResponse
        A CSV file
    """
    text = write_own_parts(_all_rows(request.user))
    headers = {"Content-Disposition": 'attachment; filename="bathys-parts.csv"'}
    return HttpResponse(text, content_type="text/csv; charset=utf-8", headers=headers)


def _in_words(row: OwnPartRow) -> str:
    """What a row says but for its name, choices by their words."""
    about = OWN_PART_KINDS.get(row.kind)
    choices = {f.name: dict(f.choices) for f in about.fields} if about is not None else {}
    said = {k: choices.get(k, {}).get(v, v) for k, v in row.typed.items() if k != "name"}
    return ", ".join(v for v in said.values() if v)


def _kept(user: User, row: OwnPartRow, units: System) -> str:
    """Keep what a row says; returns what is wrong with it, or nothing."""
    try:
        if row.kind == "pump":
            keep_pump(user, dict(row.typed), units)
        elif row.kind == "container":
            keep_container(user, row.typed, units)
        else:
            keep_own_part(user, row.kind, row.typed, units)
    except (BadPump, BadContainer, BadOwnPart) as bad:
        return "; ".join(f"“{field}”: {words}" for field, words in bad.errors.items())
    return ""


class _OnlyTried(Exception):
    """Nothing is to be kept."""


def _tried(
    user: User, data: bytes, units: System, keeps: bool
) -> tuple[list[OwnPartRow], list[RowError]]:
    """Keep every row of a file that can be, or only find out which could."""
    rows, errors = read_own_parts(data)
    good = []
    try:
        with transaction.atomic():
            for row in rows:
                wrong = _kept(user, row, units)
                if wrong:
                    errors.append(RowError(row.number, wrong))
                else:
                    good.append(row)
            if not keeps:
                raise _OnlyTried
    except _OnlyTried:
        pass
    return good, sorted(errors, key=lambda e: e.row)


@require_POST
@login_required
def read_own_part_file(request: SignedInRequest) -> HttpResponse:
    """Show what a file of parts would add before it does.

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
    units = units_for(request)
    good, errors = (
        ([], [])
        if upload is None
        else _tried(request.user, upload.read(MOST_BYTES + 1), units, keeps=False)
    )
    context = {
        "rows": [
            {
                "kind": row.kind.replace("_", " "),
                "name": row.typed["name"],
                "figures": _in_words(row),
            }
            for row in good
        ],
        "errors": errors,
        "wrong": "Choose a CSV file first." if upload is None else "",
        "text": write_own_parts(good),
        "units": units,
    }
    status = 422 if upload is None or (errors and not good) else 200
    return render(request, "plans/own_part_file.html", context, status=status)


@require_POST
@login_required
def take_own_part_file(request: SignedInRequest) -> HttpResponse:
    """Take the rows of a file of parts that was shown.

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
    good, _ = _tried(request.user, data, units_for(request), keeps=True)
    messages.success(request, f"{len(good)} of your parts are kept.")
    return redirect("/parts/#own-file")
