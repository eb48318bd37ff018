"""A change shown before it is made: its outline over the side view, and the figures that move."""

from collections.abc import Callable
from typing import Any

from bathys.drawing import draw_side_view
from bathys.drawing.stations import stations_of
from bathys.edits import EditRefused, apply_edits
from bathys.network import NotSolved
from bathys.pipeline import Assessment
from bathys.plan import Plan
from bathys.units import System
from bathys_web.plans.actions.apply_change import Offered
from bathys_web.plans.comparing import counts_words, figure_rows
from bathys_web.plans.storing import assessment_of_plan

__all__ = ["preview_of"]

_OUTLINES = ("shell", "pipe-wall", "bell", "standpipe", "air-tube", "valve")
_MOST_ROWS = 6


def preview_of(
    found: Assessment, offered: Callable[[Plan], Offered], units: System
) -> dict[str, Any]:
    """What a change would look like and do.

    Parameters
    ----------
    found : Assessment
        The plan as it stands
    offered : callable
        From the plan to the edits and what they change in words
    units : str
        The system shown

    Returns
    -------
    dict
        Outlines that the plan as it stands does not have, figures before and after, and what there
        would be to mend; ``refusal`` alone where it cannot be
    """
    plan = found.evaluation.plan
    try:
        edits, words = offered(plan)
        changed = assessment_of_plan(apply_edits(plan, edits))
    except (EditRefused, NotSolved) as error:
        return {"refusal": str(error)}
    before = draw_side_view(found.evaluation, stations_of(plan), units)
    evaluation = changed.evaluation
    after = draw_side_view(evaluation, stations_of(evaluation.plan), units, like=plan)
    stands = {(s.points, s.width) for s in before.strokes if s.look in _OUTLINES}
    return {
        "words": words[:1].upper() + words[1:],
        "outlines": [
            {"points": s.points, "look": s.look}
            for s in after.strokes
            if s.look in _OUTLINES and (s.points, s.width) not in stands
        ],
        "levels": [
            [r.x, r.y, r.width] for r in after.rects if r.look == "water-high" and r.height > 0.0
        ],
        "rows": figure_rows(found, changed, units)[:_MOST_ROWS],
        "counts": [counts_words(f.counts["fault"], f.counts["warning"]) for f in (found, changed)],
    }
