"""What the templates need of a plan, gathered once from its assessment."""

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cache
from typing import Any

from django.contrib.auth.models import User
from django.http import HttpRequest

from bathys.drawing import draw_side_view
from bathys.drawing.stations import Station, stations_of
from bathys.edits import ADDABLE, own_parts_for
from bathys.figures import Driver, Figure, drivers_of
from bathys.pipeline import Assessment
from bathys.plan import Plan
from bathys.plan.base import LeadsOn
from bathys.rules import cautions_for
from bathys.units import SYSTEMS, System, fill_equation, fill_sentence, show
from bathys_web.plans.actions.keep_container import own_containers_of
from bathys_web.plans.actions.keep_own_part import own_parts_of
from bathys_web.plans.actions.step_history import newest_child
from bathys_web.plans.benches import BENCHES, Bench, benches_of
from bathys_web.plans.change_summary import moved_by
from bathys_web.plans.choices import container_choices, join_choices, own_container_choices
from bathys_web.plans.inspector import rows_of, site_rows
from bathys_web.plans.inspector.groups import grouped
from bathys_web.plans.models import Revision, SavedPlan
from bathys_web.plans.plan_status import plan_statuses_of
from bathys_web.plans.shown_findings import shown_finding, worst_of
from bathys_web.plans.storing import assessment_of, plan_of
from bathys_web.plans.tinting import shades_for, tints_for

__all__ = [
    "ShownFigure",
    "inspector_context",
    "shown_figure",
    "units_for",
    "workspace_context",
]

SITE = "site"


_DOUBT = re.compile(r" \(or [^)]*\)")  # the band of what is not known better


@dataclass(frozen=True, slots=True)
class ShownFigure:
    """A figure in words."""

    key: str
    label: str
    value: str
    compare: str
    equation: str
    worked: str
    inputs: tuple[tuple[str, str], ...]
    source: str
    kind: str
    drivers: tuple[str, ...]
    found: str

    @property
    def brief(self) -> str:
        """What it is compared with, in one clause without its doubt: the first with a figure in
        it. The rest stands where the figure is explained."""
        clauses = _DOUBT.sub("", self.compare).split("; ")
        return next((c for c in clauses if any(map(str.isdigit, c))), clauses[0])


def units_for(request: HttpRequest, plan: Plan | None = None) -> System:
    """The units the visitor switched to, else the plan's own.

    Parameters
    ----------
    request : HttpRequest
        The request
    plan : Plan, optional
        The plan

    Returns
    -------
    System
        The system
    """
    chosen = request.session.get("units", "")
    if chosen.partition("/")[0] in SYSTEMS:
        return str(chosen)
    return plan.site.units if plan else "metric"


def shown_figure(
    figure: Figure, names: Mapping[str, str], units: System, drivers: Sequence[Driver] = ()
) -> ShownFigure:
    """A figure in words, with what drives it: what its formula tells, unless more is known.

    Parameters
    ----------
    figure : Figure
        The figure
    names : mapping of str to str
        Name of each part, by its id
    units : System
        The reader's units
    drivers : sequence of Driver
        What drives it, if more is known

    Returns
    -------
    ShownFigure
        The figure's words
    """
    effects = [
        (fill_sentence(d.label, d.figures, units, names), 100 * d.effect)
        for d in drivers or drivers_of(figure)
    ]
    told = "{}: {:+.2g} %" if drivers else "1 % more {} makes it {:+.2g} %"
    return ShownFigure(
        figure.key,
        figure.label,
        show(figure.value, figure.quantity, units),
        fill_sentence(figure.compare, figure.compare_with, units, names),
        figure.equation,
        fill_equation(*figure.worked, units),
        tuple((i.label, show(i.value, i.quantity, units)) for i in figure.inputs),
        figure.source,
        figure.kind,
        tuple(told.format(*e) for e in effects),
        figure.formula.found,
    )


def inspector_context(
    plan: Plan, part: str, units: System, owner: User | None = None
) -> dict[str, Any]:
    """The rows of one part, or of the site.

    Parameters
    ----------
    plan : Plan
        The plan
    part : str
        Id of a part, or nothing
    units : System
        The reader's units
    owner : User, optional
        Whose containers may be chosen beside those that ship

    Returns
    -------
    dict of str to object
        Variables of the template
    """
    stations = stations_of(plan)
    station = next((s for s in stations if s.id == part), None)
    if station is None:
        rows, title = cache(lambda: site_rows(plan, units)), "Plan and site"
    else:
        found = next(p for p in getattr(plan, station.group) if p.id == station.id)
        path = f"{station.group}.{station.id}"
        rows, title = cache(lambda: rows_of(plan, found, path, units)), station.name
    addable = _addable(station)
    # Most answers to an edit show no inspector: what takes time is made once a template asks.
    return {
        "rows": rows,
        "row_groups": lambda: grouped(rows(), part),
        "part": station.id if station else SITE,
        "unknown_part": part if station is None and part != SITE else "",
        "part_title": title,
        "title_has_id": station is not None and title.split()[-1:] == [station.id],
        "part_holds": show(plan.vessel(station.id).shape.capacity, "volume", units)
        if station is not None and station.group == "vessels"
        else "",
        "stations": stations,
        "numbers": {s.id: s.label for s in stations},
        "part_station": station,
        "benches": benches_of(plan),
        "ends": [s for s in stations if s.group in ("vessels", "junctions") and s.id != part]
        if station is not None and _may_lead_on(plan, station)
        else [],
        "addable": addable,
        "joins": cache(
            lambda: join_choices(plan, addable[0][0], station.id if station is not None else "")
        ),
        "containers": cache(
            lambda: [
                *(own_container_choices(own_containers_of(owner), units) if owner else []),
                *container_choices(units),
            ]
        )
        if station is not None and station.group == "vessels"
        else [],
        "own_parts": cache(
            lambda: (
                own_parts_for(plan.part(station.id), own_parts_of(owner))
                if station is not None and owner
                else ()
            )
        ),
    }


def _may_lead_on(plan: Plan, station: Station) -> bool:
    """Whether a run may begin at a part."""
    if plan.is_outfall(station.id):
        return False
    part = plan.part(station.id)
    if isinstance(part, LeadsOn):
        return plan.run_of(part) is None
    return station.group in ("vessels", "junctions")


def _addable(station: Station | None) -> list[tuple[str, str]]:
    """What may be added: in a vessel what stands in one, else what stands by itself."""
    inside = station is not None and station.group == "vessels"
    return [(kind, words) for kind, (words, stands, _) in ADDABLE.items() if stands == inside]


def _pins(assessment: Assessment) -> dict[str, str]:
    """Gravest finding of each place, notes left out: they come gravest first."""
    pins: dict[str, str] = {}
    for finding in assessment.findings:
        if finding.severity != "note":
            pins.setdefault(finding.place, finding.severity)
    return pins


def _first_bench(request: HttpRequest, plan: Plan) -> Bench:
    """The bench that was asked for, else the first that has anything to say."""
    asked = BENCHES.get(request.GET.get("bench", ""))
    return asked if asked is not None and asked.shows(plan) else benches_of(plan)[0]


def workspace_context(
    request: HttpRequest,
    saved: SavedPlan,
    head: Revision,
    part: str = SITE,
    before: Revision | None = None,
) -> dict[str, Any]:
    """Everything on the plan page.

    Parameters
    ----------
    request : HttpRequest
        For the visitor's units
    saved : SavedPlan
        The plan
    head : Revision
        Its revision to show
    part : str
        Id of the part in the inspector, or ``site``
    before : Revision, optional
        The revision that stood in the page until now, for what was moved

    Returns
    -------
    dict
        The templates' context
    """
    plan = plan_of(head)
    units = units_for(request, plan)
    assessment = assessment_of(head)
    owner = request.user if isinstance(request.user, User) else None
    context = inspector_context(plan, part, units, owner)
    found = assessment.evaluation
    findings = [shown_finding(f, plan, units) for f in assessment.findings]
    tint = (request.POST or request.GET).get("tint", "")[:20]
    scene = draw_side_view(found, context["stations"], units, _pins(assessment))
    return {
        **context,
        "saved": saved,
        "head": head,
        "plan": plan,
        "units": units,
        "next_revision": newest_child(head),
        "figures": [shown_figure(f, plan.names, units) for f in assessment.headlines],
        "findings": findings,
        "worst": worst_of(assessment.findings, plan=plan, units=units),
        "is_sound": assessment.is_sound,
        "standing": plan_statuses_of([head])[0],
        "scene": scene,
        "shades": shades_for(found),
        "tints": tints_for(found, scene, units, tint),
        "tint": tint,
        "first_bench": _first_bench(request, plan),
        "moved": moved_by(before, head, units) if before and before != head else {},
        "cautions": cautions_for(plan.brief),
    }
