"""Meshes against fish, and small holes behind a pump: rules D13, D14 and D22."""

import math
from collections.abc import Iterator

from bathys.edits import Edit
from bathys.evaluation import Evaluation
from bathys.kinds import model_named
from bathys.parts.media import CARRIERS
from bathys.parts.rounding import mark_below
from bathys.plan.model import Plan
from bathys.plan.naming import named
from bathys.plan.pipes import Run
from bathys.plan.way_out import WayOut
from bathys.quality.grading import THICKNESS
from bathys.rules.registry import Finding, Offer, Rule, rule

__all__: list[str] = []


def _mesh_of(plan: Plan, run: Run) -> float | None:
    """Openings of what stands on the way out that a run begins at [m]."""
    part = plan.part(run.source)
    return part.mesh if isinstance(part, WayOut) else None


@rule(
    Rule(
        "D13",
        "Fish stay where they are",
        "A fish passes an opening as wide as its body.",
        "common practice",
        limits={"width": THICKNESS},
    )
)
def _fish(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    plan = evaluation.plan
    length = plan.brief.smallest_fish
    width = data.limits["width"] * length
    if width <= 0.0:
        return
    for run in plan.runs:
        owner = plan.owner_of(run.start)
        if owner is None or not plan.vessel(owner).use.keeps_fish:
            continue
        if plan.group_of(run.source) == "pumps" and run.filter is None:
            continue  # a pump's own strainer is not told
        mesh_on_it = _mesh_of(plan, run)
        open_to = min(
            run.bore.inside,
            run.filter.cut if run.filter is not None else math.inf,
            mesh_on_it if mesh_on_it is not None else math.inf,
        )
        if open_to <= width:
            continue
        mesh = mark_below(width)
        usual = model_named("filters", "screen").usual(run.bore.inside)
        made = {"kind": "screen", **usual, "cut": mesh}
        can_stand = plan.group_of(run.source) != "siphons" and mesh >= 1e-3
        yield Finding(
            data,
            "fish_pass",
            "warning" if run.filter is not None or mesh_on_it is not None else "note",
            run.id,
            f"Fish of {{length:length}} can get into {named(run)}: it is open {{open:length}} "
            "wide, and they are about {width:length} thick.",
            "A screen of {mesh:length} keeps them back; it must be brushed off now and then.",
            {"length": length, "open": open_to, "width": width, "mesh": mesh},
            (
                Offer(
                    "put a screen of {mesh:length} before it",
                    (Edit(f"runs.{run.id}.filter", made),),
                    "",
                    {"mesh": mesh},
                ),
            )
            if can_stand and run.filter is None
            else (),
        )


@rule(
    Rule(
        "D14",
        "Small holes after a pump",
        "What passes the intake must pass the smallest hole behind it.",
        "common practice",
        limits={"usual": 0.005, "times": 2.0},
    )
)
def _small_holes(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    plan = evaluation.plan
    pressed = evaluation.balance.layout.pressure
    passes: dict[str, float] = {}
    for pump in plan.pumps:
        run = plan.run_of(pump)
        if run is None:
            continue
        cut = run.filter.cut if run.filter is not None else data.limits["usual"]
        passes[pump.id] = cut
    if not passes:
        return
    widest = max(passes.values())
    for run in plan.runs:
        hole = run.ends_in.smallest_hole if run.ends_in is not None else None
        if run.id not in pressed or hole is None:
            continue
        if hole >= data.limits["times"] * widest:
            continue
        told = any(r.filter is not None for p in plan.pumps if (r := plan.run_of(p)) is not None)
        yield Finding(
            data,
            "holes_block",
            "note",
            run.id,
            f"Holes of {{hole:length}} stand at the end of {named(run)}, and the pump’s intake "
            + (
                "lets pass {passes:length}."
                if told
                else "is not told: usual strainers let pass {passes:length}."
            ),
            "Look at them every week, or put foam or a finer screen about the intake.",
            {"hole": hole, "passes": widest},
        )


@rule(
    Rule(
        "D22",
        "Carriers stay in their chamber",
        "Carriers that air tumbles go where the water goes.",
        "common practice",
        limits={"mesh": 0.005},
    )
)
def _carriers(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    plan, mesh = evaluation.plan, data.limits["mesh"]
    for run in plan.runs:
        owner = plan.owner_of(run.start)
        carriers = plan.vessel(owner).carriers if owner is not None else None
        if carriers is None or not CARRIERS[carriers.kind].is_moving:
            continue
        if (
            run.filter is not None
            or _mesh_of(plan, run) is not None
            or evaluation.runs[run.id].flow <= 0.0
        ):
            continue
        if plan.group_of(run.source) == "siphons":
            continue
        usual = model_named("filters", "screen").usual(run.bore.inside)
        made = {"kind": "screen", **usual, "cut": mesh}
        yield Finding(
            data,
            "carriers_drift_out",
            "warning",
            run.id,
            f"Nothing keeps the carriers of {named(plan.vessel(owner or ''))} out of {named(run)}.",
            "Put a screen before it, wide enough that they do not press against it.",
            {"mesh": mesh},
            (
                Offer(
                    "put a screen of {mesh:length} before it",
                    (Edit(f"runs.{run.id}.filter", made),),
                    "",
                    {"mesh": mesh},
                ),
            ),
        )
