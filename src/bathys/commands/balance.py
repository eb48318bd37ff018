"""``bathys balance``: every flow and level."""

from typing import Any

from bathys.commands.check import run_table
from bathys.commands.tables import table
from bathys.pipeline import Assessment
from bathys.units import System, fill_sentence, show

__all__ = ["as_data", "as_text"]


def as_text(assessment: Assessment, units: System) -> str:
    """Pumps, runs and vessels as tables.

    Parameters
    ----------
    assessment : Assessment
        Numbers and findings of a plan
    units : System
        The reader's units

    Returns
    -------
    str
        Lines for a terminal
    """
    found = assessment.evaluation
    pumps = [
        (
            d.pump.id,
            d.pump.name,
            show(d.flow, "flow", units),
            show(d.head, "head", units),
            show(d.label_share, "percent", units),
            show(d.power, "power", units),
            show(d.efficiency, "percent", units),
            show(d.share, "percent", units),
        )
        for d in found.duties.values()
    ]
    vessels = [
        (
            v.vessel.id,
            v.vessel.name,
            show(v.levels.low - v.vessel.floor_height, "length", units),
            show(v.levels.high - v.vessel.floor_height, "length", units),
            show(v.levels.at_rest - v.vessel.floor_height, "length", units),
            show(v.inflow, "flow", units),
            show(v.turnover, "per_hour", units),
        )
        for v in found.vessels.values()
    ]
    return "\n".join(
        [
            found.plan.name,
            "",
            *table(
                ("", "pump", "flow", "head", "of label", "draws", "into water", "runs"), pumps, 2
            ),
            "",
            *run_table(assessment, units),
            "",
            *table(("", "vessel", "low", "high", "at rest", "through it", "turnover"), vessels, 2),
        ]
    )


def as_data(assessment: Assessment) -> dict[str, Any]:
    """The same as data, in SI units.

    Parameters
    ----------
    assessment : Assessment
        Numbers and findings of a plan

    Returns
    -------
    dict of str to object
        Figures in SI units, by name
    """
    found = assessment.evaluation
    return {
        "plan": found.plan.name,
        "pumps": [
            {
                "id": d.pump.id,
                "flow": d.flow,
                "mean_flow": d.mean_flow,
                "head": d.head,
                "label_share": d.label_share,
                "power": d.power,
                "efficiency": d.efficiency,
                "share_of_time": d.share,
            }
            for d in found.duties.values()
        ],
        "runs": [
            {
                "id": r.run.id,
                "flow": r.flow,
                "mean_flow": r.mean_flow,
                "bore": r.bore,
                "velocity": r.velocity,
                "reynolds": r.reynolds,
                "regime": r.regime,
                "loss": r.loss,
                "start_head": r.start_head,
                "end_head": r.end_head,
                "fill": r.gravity.fill if r.gravity else None,
                "head_over_crest": r.gravity.head_over if r.gravity else None,
                "capacity": r.gravity.capacity if r.gravity else None,
            }
            for r in found.runs.values()
        ],
        "vessels": [
            {
                "id": v.vessel.id,
                "low": v.levels.low,
                "high": v.levels.high,
                "at_rest": v.levels.at_rest,
                "volume": v.volume,
                "inflow": v.inflow,
                "turnover": v.turnover,
                "spill": v.spill,
            }
            for v in found.vessels.values()
        ],
        "omissions": [
            {
                "place": o.place,
                "sentence": fill_sentence(o.sentence, {}, "metric", found.plan.names),
            }
            for o in found.omissions
        ],
    }
