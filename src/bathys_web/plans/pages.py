"""What the templates need of a plan, gathered once from its assessment."""

from dataclasses import dataclass
from typing import Any

from django.http import HttpRequest

from bathys.evaluation import Figure
from bathys.pipeline import Assessment
from bathys.plan import Plan
from bathys.rules import CAUTIONS, Finding
from bathys.units import System, fill_sentence, show
from bathys_web.plans.actions.step_history import newest_child
from bathys_web.plans.charts import draw_cycle, draw_head_budget
from bathys_web.plans.inspector import rows_of, site_rows
from bathys_web.plans.models import Revision, SavedPlan
from bathys_web.plans.side_view import draw_side_view
from bathys_web.plans.stations import Station, stations_of
from bathys_web.plans.storing import assessment_of, plan_of

__all__ = ["ShownFigure", "ShownFinding", "inspector_context", "units_for", "workspace_context"]

SITE = "site"


@dataclass(frozen=True, slots=True)
class ShownFigure:
    """A figure in words."""

    key: str
    label: str
    value: str
    compare: str
    equation: str
    inputs: tuple[tuple[str, str], ...]
    source: str
    kind: str


@dataclass(frozen=True, slots=True)
class ShownFinding:
    """A finding in words."""

    rule: str
    severity: str
    place: str
    sentence: str
    hint: str
    why: str
    kind: str


def units_for(request: HttpRequest, plan: Plan | None = None) -> System:
    """The units the visitor switched to, else the plan's own."""
    chosen = request.session.get("units")
    if chosen in ("metric", "us"):
        return chosen
    return plan.site.units if plan else "metric"


def _figure(figure: Figure, units: System) -> ShownFigure:
    return ShownFigure(
        figure.key, figure.label, show(figure.value, figure.quantity, units),
        fill_sentence(figure.compare, figure.compare_with, units), figure.equation,
        tuple((i.label, show(i.value, i.quantity, units)) for i in figure.inputs),
        figure.source, figure.kind,
    )  # fmt: skip


def _finding(finding: Finding, units: System) -> ShownFinding:
    return ShownFinding(
        finding.rule.id, finding.severity, finding.place,
        fill_sentence(finding.sentence, finding.figures, units),
        fill_sentence(finding.hint, finding.figures, units), finding.rule.why, finding.rule.kind,
    )  # fmt: skip


def _power_cut(assessment: Assessment, units: System) -> list[dict[str, str]]:
    moments = {
        "before_start": "just before the siphon starts",
        "after_start": "just after the siphon starts",
        "steady": "at any moment",
    }
    rows = []
    for result in assessment.evaluation.loops:
        floor = result.loop.tank.floor_height
        rim = result.loop.tank_storage.rim
        for outage in result.outages:
            rows.append({
                "moment": moments[outage.moment],
                "tank": show(outage.tank_level - floor, "length", units),
                "room": show(rim - (outage.tank_level - floor), "length", units),
                "bed": show(outage.bed_level, "length", units),
                "back": show(outage.returned, "volume", units),
                "spilled": show(outage.spilled, "volume", units) if outage.spilled > 1e-6 else "",
            })  # fmt: skip
    return rows


def inspector_context(plan: Plan, part: str, units: System) -> dict[str, Any]:
    """The rows of one part, or of the site."""
    stations = stations_of(plan)
    station = next((s for s in stations if s.id == part), None)
    if station is None:
        rows, title = site_rows(plan, units), "Plan and site"
    else:
        found = next(p for p in getattr(plan, station.group) if p.id == station.id)
        rows, title = rows_of(found, f"{station.group}.{station.id}", units), station.name
    return {"rows": rows, "part": station.id if station else SITE, "part_title": title,
            "stations": stations, "part_station": station}  # fmt: skip


def _stations_named(stations: list[Station]) -> dict[str, str]:
    return {s.id: s.name for s in stations}


def workspace_context(
    request: HttpRequest, saved: SavedPlan, head: Revision, part: str = SITE
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

    Returns
    -------
    dict
        The templates' context
    """
    plan = plan_of(head)
    units = units_for(request, plan)
    assessment = assessment_of(head)
    context = inspector_context(plan, part, units)
    loops = assessment.evaluation.loops
    names = _stations_named(context["stations"])
    findings = [_finding(f, units) for f in assessment.findings]
    return {
        **context, "saved": saved, "head": head, "plan": plan, "units": units,
        "next_revision": newest_child(head),
        "figures": [_figure(f, units) for f in assessment.evaluation.figures],
        "findings": findings, "names": names, "counts": assessment.counts,
        "is_sound": assessment.is_sound,
        "scene": draw_side_view(assessment.evaluation, context["stations"], units),
        "cycle_chart": draw_cycle(loops[0], units) if loops else None,
        "head_bars": draw_head_budget(loops[0], units) if loops else [],
        "pump_head": show(loops[0].duty.head, "head", units) if loops else "",
        "power_cuts": _power_cut(assessment, units), "cautions": CAUTIONS,
    }  # fmt: skip
