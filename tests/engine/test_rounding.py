"""What is put forward can be marked with a rule and set by hand."""

from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bathys.parts.rounding import handle, mark_above, mark_below
from bathys.pipeline import assess, assess_dynamic
from bathys.plan import load_plan
from bathys.sizing import balance_valves
from tests.conftest import EXAMPLE

FILES = sorted(EXAMPLE.parent.glob("**/*.json"))
# A bore is the pipe's, and the open area of slots follows from what is cut.
FREE = {"slot_area", "flow", "fibre", "cut"}  # meshes and fibres are bought

heights = st.floats(0.0, 20.0)


@given(heights)
def test_marks_lie_on_the_side_asked_for_within_a_millimetre(height: float) -> None:
    """And a mark is its own mark."""
    above, below = mark_above(height), mark_below(height)
    assert below - 1e-8 <= height <= above + 1e-8
    assert above - below < 0.001 + 1e-9
    assert mark_above(below) == below
    assert mark_below(above) == above


@given(st.floats(0.0, 90.0))
def test_a_handle_is_off_by_less_than_can_be_read(angle: float) -> None:
    """Half a tenth of a degree."""
    assert abs(handle(angle) - angle) <= 0.05 + 1e-9


def _unmarked(value: object, name: str = "") -> list[tuple[str, float]]:
    """Numbers that no rule has a mark for."""
    if isinstance(value, dict):
        return [x for k, v in value.items() if k not in FREE for x in _unmarked(v, k)]
    if isinstance(value, float) and abs(1000.0 * value - round(1000.0 * value)) > 1e-6:
        return [(name, value)]
    return []


@pytest.mark.parametrize("path", FILES, ids=lambda p: p.stem)
def test_what_is_put_forward_can_be_marked(path: Path) -> None:
    """Every remedy of every example, of the plan as it stands and as time goes on; valves too."""
    found = assess(load_plan(path.read_bytes()))
    dynamic = assess_dynamic(found)
    edits = [
        e for f in (*found.findings, *dynamic.findings) for o in f.list_offers() for e in o.edits
    ]
    edits += balance_valves(found.evaluation.balance, "exact").edits
    for edit in edits:
        # The dial at which some valve just stands wide open, and what a pump's label says, are
        # set or bought, not marked; nor is a container, which is bought as it is.
        if edit.path.endswith((".dial", ".curve", ".max_flow", ".shape")):
            continue
        assert _unmarked(edit.value) == [], edit.path
