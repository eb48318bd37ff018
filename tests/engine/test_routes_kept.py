"""Routes that are kept over a drag are those of a plan that nobody has seen."""

from pathlib import Path
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from bathys.edits import EditRefused
from bathys.ground import laid_routes
from bathys.ground.laying import follow_route, lay, lay_route
from bathys.plan import Plan, dump_plan, load_plan
from tests.conftest import EXAMPLE

NAMES = ("split-flow", "twelve-beds", "small-settler", "raft-line")
PLANS = {n: load_plan((Path(EXAMPLE).parent / f"{n}.json").read_bytes()) for n in NAMES}


def _afresh(plan: Plan) -> Plan:
    """The same plan, of which nothing is kept."""
    return load_plan(dump_plan(plan).encode())


def _told(plan: Plan) -> list[Any]:
    return [
        (r.run.id, r.points, r.is_told, r.heights, r.length, r.bends) for r in laid_routes(plan)
    ]


_places = st.tuples(
    st.floats(0.5, 8.0).map(lambda x: round(x, 2)), st.floats(0.5, 8.0).map(lambda x: round(x, 2))
)
_moves = st.one_of(
    st.tuples(st.just("place"), st.integers(0, 99), _places, st.floats(0.0, 359.0)),
    st.tuples(st.just("route"), st.integers(0, 99), _places, st.floats(-1.0, 2.0)),
    st.tuples(st.just("follow"), st.integers(0, 99), _places, st.floats(0.0, 1.0)),
)


def _moved(plan: Plan, move: tuple[str, int, tuple[float, float], float]) -> Plan:
    verb, number, (x, y), more = move
    if verb == "place":
        parts = [v.id for v in plan.vessels if v.within is None] + [j.id for j in plan.junctions]
        return lay(plan, parts[number % len(parts)], x, y, round(more, 1))
    run = plan.runs[number % len(plan.runs)].id
    if verb == "route":
        return lay_route(plan, run, [(x, y)], [round(more, 2)])
    return follow_route(plan, [run], more > 0.5)


@settings(max_examples=25)
@given(st.sampled_from(NAMES), st.lists(_moves, min_size=1, max_size=5))
def test_after_any_moves_each_route_is_that_of_a_plan_read_afresh(
    name: str, moves: list[tuple[str, int, tuple[float, float], float]]
) -> None:
    """Vessels and joints put elsewhere and turned, runs led and let follow: nothing stale is left
    in the plan that was moved step by step, nor in any that was shown on the way."""
    seen = [PLANS[name]]
    for move in moves:
        try:
            seen.append(_moved(seen[-1], move))
        except EditRefused:
            continue
        laid_routes(seen[-1])
    for plan in seen[-3:]:
        assert _told(plan) == _told(_afresh(plan))


@pytest.mark.parametrize("name", NAMES)
def test_a_drag_there_and_back_leaves_what_was(name: str) -> None:
    """A vessel moved away and to where it stood has the routes that it had."""
    plan = PLANS[name]
    part = next(v.id for v in plan.vessels if v.within is None)
    first = lay(plan, part, 3.0, 3.0)
    before = _told(first)
    away = lay(first, part, 5.0, 6.0)
    assert _told(away) != before
    assert _told(lay(away, part, 3.0, 3.0)) == before
    assert _told(first) == before
