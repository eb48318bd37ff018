"""The moving bench: what to drain and lift, and which joints come apart."""

from typing import Any

from bathys.evaluation.moving import Drained, MovingPlan, Parted, moving_of
from bathys.plan import Plan
from bathys.units import System, show
from bathys_web.plans.benches.bench import Bench, BenchRequest

__all__ = ["BENCH"]

_LITTLE = 1e-4  # less water is as good as none [m³]
_PARTING = {
    "unions": "comes apart at its unions",
    "hose": "hose, pulled off",
    "cut": "has no union: it would have to be cut",
}


def _drained(plan: Plan, row: Drained, units: System) -> dict[str, Any]:
    part = plan.part(row.way) if row.way else None
    how = "bail it out, or pump it out with a spare pump"
    if part is not None and row.by_itself > _LITTLE:
        verb = "pull out" if row.is_pulled else "open"
        if plan.group_of(row.way) == "pumps":
            verb = "lead a hose off, and pump with"
        how = f"{verb} {part.name}"
    return {
        "vessel": row.vessel,
        "water": show(row.water, "volume", units),
        "how": how if row.water > 0.0 else "holds no water with the pumps off",
        "runs": show(row.by_itself, "volume", units),
        "bailed": show(row.bailed, "volume", units),
        "media": show(row.media_mass, "mass", units) if row.media_mass else "",
        "mass": show(row.mass, "mass", units) if row.mass else "",
        "is_heavy": row.is_too_heavy,
        "has_fish": row.vessel.use.keeps_fish,
    }


def _parted(row: Parted, units: System) -> dict[str, Any]:
    return {
        "run": row.run,
        "how": _PARTING[row.by],
        "unions": row.unions,
        "is_cut": row.by == "cut",
        "water": show(row.water, "volume", units),
    }


def _page(ask: BenchRequest) -> dict[str, Any]:
    found: MovingPlan = moving_of(ask.found.evaluation)
    return {
        "drained": [_drained(ask.plan, d, ask.units) for d in found.drained],
        "parted": [_parted(p, ask.units) for p in found.parted],
        "water": show(found.water, "volume", ask.units),
        "mass": show(1000.0 * found.water, "mass", ask.units),
        "cuts": found.cuts,
        "runs": len(found.parted),
    }


BENCH = Bench("moving", "Moving it", "What to drain, lift and part to move it", _page)
