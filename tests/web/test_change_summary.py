"""What a change moved is told, from what is kept with each revision."""

from typing import Any
from unittest.mock import patch

from bathys.edits import Edit
from bathys.pipeline import assess
from bathys.plan import Plan, plan_from_data
from bathys_web.plans import headlines
from bathys_web.plans.actions.apply_change import apply_change
from bathys_web.plans.actions.step_history import undo
from bathys_web.plans.change_summary import moved_by
from bathys_web.plans.models import Revision, SavedPlan


def _turned(saved: SavedPlan, owner: Any, angle: float) -> Revision:
    def offered(plan: Plan) -> Any:
        return [Edit("runs.R1.valve.angle", angle)], f"valve turned to {angle:.0f}°"

    assert saved.head is not None
    return apply_change(saved, owner, saved.head.number, offered)


def test_figures_of_the_head_are_told_before_and_after(saved: SavedPlan, owner: Any) -> None:
    """As the engine tells either plan; what is gained to fix too; undone, the other way round."""
    before = saved.head
    assert before is not None
    after = _turned(saved, owner, 75.0)
    told = moved_by(before, after, "metric")
    assert told["words"] == "Valve turned to 75°"
    rows = {row["label"]: row for row in told["rows"]}
    assert rows["Pumped flow"]["before"] == "946 L/h"
    found = assess(plan_from_data(after.document))
    flow = next(f for f in found.headlines if f.key == "P1.flow")
    assert flow.value is not None
    assert rows["Pumped flow"]["after"] == f"{3.6e6 * flow.value:.3g} L/h"
    assert told["counts"][0] == "no problems"
    assert "problem" in told["counts"][1]
    saved.refresh_from_db()
    back = undo(saved, owner, after.number)
    told = moved_by(after, back, "metric")
    assert told["words"] == "Undone: Valve turned to 75°"
    assert {r["label"]: r for r in told["rows"]}["Pumped flow"]["after"] == "946 L/h"


def test_what_is_kept_is_not_worked_out_again(saved: SavedPlan, owner: Any) -> None:
    """But for a revision without, or one that another engine told."""
    first = _turned(saved, owner, 20.0)
    saved.refresh_from_db()
    second = _turned(saved, owner, 30.0)
    with patch.object(headlines, "assessment_of") as worked_out:
        assert moved_by(first, second, "metric")["rows"]
        worked_out.assert_not_called()
    second.headlines = {**second.headlines, "engine": "of another day", "figures": []}
    told = moved_by(first, second, "metric")
    assert {"Pumped flow"} <= {r["label"] for r in told["rows"]}
