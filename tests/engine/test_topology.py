"""Walking a plan, held against a graph library."""

from pathlib import Path

import networkx as nx
import pytest
from hypothesis import given
from hypothesis import strategies as st

from bathys.plan import load_plan
from bathys.plan.topology import followed, lowest_hump, reached, tied_together

EXAMPLES = sorted((Path(__file__).resolve().parents[2] / "examples").glob("*.json"))


@given(
    st.lists(st.tuples(st.integers(0, 8), st.integers(0, 8)), max_size=30),
    st.lists(st.integers(0, 8), min_size=1, max_size=3),
)
def test_what_is_reached_is_what_a_graph_library_reaches(
    ways: list[tuple[int, int]], first: list[int]
) -> None:
    """Each once, and none before one that is fewer steps away."""
    graph = nx.DiGraph(ways)
    graph.add_nodes_from(first)
    found = list(reached(first, lambda here: [b for a, b in ways if a == here]))
    steps = nx.multi_source_dijkstra_path_length(graph, set(first))
    assert set(found) == set(steps)
    assert len(found) == len(set(found))
    assert [steps[n] for n in found] == sorted(steps[n] for n in found)


@given(
    st.lists(
        st.tuples(st.integers(0, 7), st.integers(0, 7), st.integers(0, 9)), min_size=1, max_size=25
    ),
    st.integers(0, 9),
)
def test_the_lowest_hump_is_the_least_height_that_lets_water_there(
    ways: list[tuple[int, int, int]], begins: int
) -> None:
    """At that height a place is reached in the graph of all steps no higher, below it is not."""
    lowest = lowest_hump(0, begins, lambda here: [(b, float(h)) for a, b, h in ways if a == here])
    for height in range(begins, 11):
        graph = nx.DiGraph([(a, b) for a, b, h in ways if h <= height])
        graph.add_node(0)
        wet = {0, *nx.descendants(graph, 0)}
        assert {place for place, hump in lowest.items() if hump <= height} == wet


@given(
    st.lists(
        st.tuples(st.integers(0, 7), st.integers(0, 7), st.integers(0, 99)),
        max_size=25,
        unique_by=lambda w: w[2],
    )
)
def test_a_way_followed_takes_the_best_step_to_where_it_has_not_been(
    ways: list[tuple[int, int, int]],
) -> None:
    """And ends only where there is none."""
    steps = followed([0], lambda here: [(b, v) for a, b, v in ways if a == here], lambda s: s[1])
    been = [0]
    for place, value in [*steps, (None, None)]:
        options = [(v, b) for a, b, v in ways if a == been[-1] and b not in been]
        assert max(options, default=(None, None)) == (value, place)
        been.append(place)


@pytest.mark.parametrize("path", EXAMPLES, ids=lambda p: p.stem)
def test_a_pumped_line_is_all_that_hangs_together_by_its_joints(path: Path) -> None:
    """And by nothing else: vessels and outfalls part lines."""
    plan = load_plan(path.read_bytes())
    graph = nx.Graph()
    for run in plan.runs:
        ends = (
            p if p in plan.joints or p in {q.leads_from for q in plan.pumps} else (run.id, p)
            for p in (run.start, run.end)
        )
        graph.add_edge(*ends, run=run.id)
    for pump in plan.pumps:
        graph.add_node(pump.leads_from)
        piece = nx.node_connected_component(graph, pump.leads_from)
        tied = tied_together(plan, [pump.leads_from])
        inside = {d["run"] for _, _, d in graph.subgraph(piece).edges(data=True)}
        assert {r.id for r in tied.runs} == inside
        assert {p.id for p in tied.pumps} == {p.id for p in plan.pumps if p.leads_from in piece}
        shut = tied_together(plan, [pump.leads_from], lambda run: False)
        assert not shut.runs
