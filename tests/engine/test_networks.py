"""Networks of every shape the layouts need, against EPANET, and the laws they keep."""

import random
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from bathys.network import Line, Network, NetworkLink, Piece, Solution, solve
from bathys.network.solving import Solver
from bathys.physics.pump_curve import LabelCurve
from tests.engine.epanet import Points, epanet_flows, power_law_points

VISCOSITY = 1.0034e-6  # water at 20 °C
INCH = 0.02664


def _pipe(
    id_: str,
    start: str,
    end: str,
    bore: float = INCH,
    length: float = 2.0,
    loss: float = 1.0,
    one_way: bool = False,
) -> NetworkLink:
    pieces = [
        Piece("friction", id_, bore, length=length, roughness=1.5e-6),
        Piece("fitting", id_, bore, loss=loss),
    ]
    return NetworkLink(id_, start, end, line=Line(pieces, VISCOSITY), one_way=one_way)


def _pump(id_: str, start: str, end: str, flow: float, head: float) -> NetworkLink:
    return NetworkLink(id_, start, end, pump=LabelCurve(flow, head))


Case = tuple[Network, dict[str, Points]]


def _case(links: list[NetworkLink], heads: dict[str, float]) -> Case:
    curves = {
        k.id: power_law_points(k.pump.max_flow, k.pump.max_head)
        for k in links
        if k.pump is not None
    }
    return Network(tuple(links), heads), curves


def single_riser() -> Case:
    """The stacked pair."""
    links = [_pump("P", "tank", "a", 5e-4, 2.0), _pipe("R", "a", "bed", loss=8.0)]
    return _case(links, {"tank": 0.5, "bed": 1.5})


def three_valved_branches() -> Case:
    """Beds at different heights, each valve throttled in its own way."""
    links = [_pump("P", "sump", "a", 1.5e-3, 4.0), _pipe("R", "a", "t", 0.04089, 3.0)]
    for name, loss in (("one", 3.0), ("two", 30.0), ("three", 90.0)):
        links.append(_pipe(name, "t", f"bed {name}".replace(" ", ""), 0.02093, 1.5, loss))
    return _case(links, {"sump": 0.0, "bedone": 1.6, "bedtwo": 1.2, "bedthree": 0.6})


def ring_with_eight_outlets() -> Case:
    """A manifold that closes on itself."""
    links = [_pump("P", "sump", "n0", 3e-3, 5.0)]
    heads = {"sump": 0.0}
    for i in range(8):
        links.append(_pipe(f"ring{i}", f"n{i}", f"n{(i + 1) % 8}", 0.03505, 1.2, 0.6))
        links.append(_pipe(f"out{i}", f"n{i}", f"bed{i}", 0.0158, 0.5, 6.0 + i))
        heads[f"bed{i}"] = 1.0 + 0.05 * i
    return _case(links, heads)


def bypass_to_the_sump() -> Case:
    """HeadMargin flow burnt straight back."""
    links = [
        _pump("P", "sump", "a", 1.2e-3, 3.5),
        _pipe("R", "a", "t", 0.03505),
        _pipe("bed", "t", "up"),
        _pipe("bypass", "t", "back", 0.02093, 0.5, 40.0),
    ]
    return _case(links, {"sump": 0.0, "up": 1.8, "back": 0.0})


def two_pumps_in_parallel() -> Case:
    """Unequal pumps on one riser."""
    links = [
        _pump("P1", "sump", "a", 6e-4, 3.0),
        _pump("P2", "sump", "b", 9e-4, 2.6),
        _pipe("A", "a", "t"),
        _pipe("B", "b", "t"),
        _pipe("R", "t", "bed", 0.03505, 4.0),
    ]
    return _case(links, {"sump": 0.0, "bed": 1.1})


def two_pumps_in_two_loops() -> Case:
    """Tank and raft on one, beds on the other, one sump."""
    links = [
        _pump("P1", "sump", "a", 6e-4, 3.0),
        _pipe("A", "a", "tank"),
        _pump("P2", "sump", "b", 9e-4, 2.6),
        _pipe("B", "b", "t"),
        _pipe("B1", "t", "bed1", 0.02093),
        _pipe("B2", "t", "bed2", 0.02093, 6.0),
    ]
    return _case(links, {"sump": 0.0, "tank": 1.3, "bed1": 0.9, "bed2": 0.9})


def weak_pump_held_shut() -> Case:
    """A check valve behind the weaker of two pumps closes."""
    links = [
        _pump("P1", "sump", "a", 6e-4, 1.2),
        _pump("P2", "sump", "b", 2e-3, 4.0),
        _pipe("A", "a", "t", one_way=True),
        _pipe("B", "b", "t", one_way=True),
        _pipe("R", "t", "bed", loss=6.0),
    ]
    return _case(links, {"sump": 0.0, "bed": 1.0})


def branch_too_high() -> Case:
    """One outlet above what the tee can reach, in the air."""
    links = [
        _pump("P", "sump", "a", 1.2e-3, 3.0),
        _pipe("R", "a", "t", 0.03505),
        _pipe("low", "t", "low_out", one_way=True),
        _pipe("high", "t", "high_out", one_way=True),
    ]
    return _case(links, {"sump": 0.0, "low_out": 0.8, "high_out": 2.7})


def drowned_outlet_feeds_back() -> Case:
    """Two drowned outlets: the higher vessel drains into the lower through the tee."""
    links = [
        _pump("P", "sump", "a", 4e-4, 1.6),
        _pipe("R", "a", "t", 0.02093, 3.0, 10.0),
        _pipe("upper", "t", "u"),
        _pipe("lower", "t", "w"),
    ]
    return _case(links, {"sump": 0.0, "u": 1.5, "w": 0.7})


def long_hose() -> Case:
    """Thirty metres of 19 mm hose."""
    links = [_pump("P", "pond", "a", 1e-3, 6.0), _pipe("R", "a", "bed", 0.019, 30.0, 4.0)]
    return _case(links, {"pond": -0.5, "bed": 1.0})


def terrace_of_ten() -> Case:
    """A line of ten tees, each bed a step lower."""
    links = [_pump("P", "sump", "n0", 4e-3, 6.0)]
    heads = {"sump": 0.0}
    for i in range(10):
        links.append(_pipe(f"main{i}", f"n{i}", f"n{i + 1}", 0.0525, 1.5, 0.9))
        links.append(_pipe(f"bed{i}", f"n{i + 1}", f"out{i}", 0.02093, 1.0, 12.0, True))
        heads[f"out{i}"] = 3.0 - 0.2 * i
    return _case(links, heads)


def balance_pipe_between_sumps() -> Case:
    """No pump at all: two levels and the pipe between them."""
    halves = [_pipe("here", "one", "m", 0.1, 0.5, 0.5), _pipe("there", "m", "two", 0.1, 0.5, 1.0)]
    return _case(halves, {"one": 0.52, "two": 0.5})


CASES = [
    single_riser,
    three_valved_branches,
    ring_with_eight_outlets,
    bypass_to_the_sump,
    two_pumps_in_parallel,
    two_pumps_in_two_loops,
    weak_pump_held_shut,
    branch_too_high,
    drowned_outlet_feeds_back,
    long_hose,
    terrace_of_ten,
    balance_pipe_between_sumps,
]


@pytest.mark.parametrize("make", CASES, ids=[c.__name__ for c in CASES])
def test_flows_agree_with_epanet(make: object, tmp_path: Path) -> None:
    """EPANET 2.2 through wntr, same minor losses and one-way links as check valves: 0.5 % of each
    flow, or of the pump's for the small ones."""
    network, curves = make()  # type: ignore[operator]
    ours = solve(network).flows
    theirs = epanet_flows(network, curves, tmp_path)
    most = max(abs(flow) for flow in ours.values())
    for link in network.links:
        wanted = pytest.approx(theirs[link.id], rel=5e-3, abs=5e-4 * most)
        assert ours[link.id] == wanted, link.id


def _check_laws(network: Network, found: Solution) -> None:
    """Continuity at every junction, energy along every open link, and no link open or blocked
    that should be the other."""
    balance: dict[str, float] = {}
    for link in network.links:
        flow = found.flows[link.id]
        balance[link.start] = balance.get(link.start, 0.0) - flow
        balance[link.end] = balance.get(link.end, 0.0) + flow
    for node, left in balance.items():
        assert node in network.known_heads or abs(left) < 1e-9
    for link in network.links:
        flow = found.flows[link.id]
        if link.line is not None and link.line.shut:
            assert flow == 0.0
        elif link.id in found.blocked:
            assert flow == 0.0
            assert found.heads[link.start] <= found.heads[link.end] + 1e-6
        else:
            lost = (
                -link.pump.head(flow)[0]
                if link.pump
                else float(
                    link.line.loss(np.array([flow]))[0][0]  # type: ignore[union-attr]
                )
            )
            assert found.heads[link.start] - found.heads[link.end] == pytest.approx(lost, abs=2e-6)
            assert not link.one_way or flow >= -1e-9


@st.composite
def _networks(draw: st.DrawFn) -> Network:
    """A pump, a random tree of pipes with free outlets, and a few links that close rings."""
    count = draw(st.integers(2, 9))
    seed = random.Random(draw(st.integers(0, 2**32)))
    links = [_pump("P", "sump", "n0", 10 ** seed.uniform(-4, -2.5), seed.uniform(0.5, 8.0))]
    heads = {"sump": 0.0}
    for i in range(1, count):
        size = seed.choice([0.0158, 0.02093, 0.02664, 0.03505, 0.0525])
        start = f"n{seed.randrange(i)}"
        links.append(
            _pipe(f"t{i}", start, f"n{i}", size, seed.uniform(0.1, 15), seed.uniform(0, 40))
        )
        if seed.random() < 0.6 or i == count - 1:
            links.append(_pipe(f"o{i}", f"n{i}", f"out{i}", 0.02093, 0.5, 3.0, one_way=True))
            heads[f"out{i}"] = seed.uniform(-1.0, 6.0)
    for r in range(draw(st.integers(0, 2)) if count > 2 else 0):
        one, two = seed.sample(range(count), 2)
        links.append(_pipe(f"r{r}", f"n{one}", f"n{two}", loss=seed.uniform(0, 20)))
    return Network(tuple(links), heads)


@settings(max_examples=150)
@given(_networks())
def test_random_trees_and_rings_keep_the_laws(network: Network) -> None:
    """To the bounds promised: 1e-9 m³/s and 1e-6 m."""
    found = solve(network)
    assert found.continuity_residual < 1e-9
    assert found.energy_residual < 1e-6
    _check_laws(network, found)


@settings(max_examples=40)
@given(_networks(), st.integers(0, 1000))
def test_order_and_start_do_not_matter(network: Network, seed: int) -> None:
    """The same flows from shuffled links and another first guess."""
    mixed = random.Random(seed)
    links = list(network.links)
    mixed.shuffle(links)
    start = {k.id: mixed.uniform(1e-6, 5e-3) for k in links}
    one = solve(network).flows
    two = solve(Network(tuple(links), network.known_heads), start).flows
    for id_, flow in one.items():
        assert two[id_] == pytest.approx(flow, rel=1e-4, abs=1e-8)


@given(st.floats(1e-7, 5e-3), st.floats(-5e-3, -1e-7), st.floats(0.1, 20.0))
def test_a_ring_that_leads_nowhere_stands_still(one: float, two: float, loss: float) -> None:
    """Whatever is guessed first: nothing goes round it, to a hundredth of a litre an hour."""
    links = (
        _pump("P", "sump", "n0", 1e-3, 4.0),
        _pipe("o", "n0", "out", 0.02093, 0.5, 3.0, one_way=True),
        _pipe("r0", "n0", "n1", loss=loss),
        _pipe("r1", "n0", "n1", loss=0.5 * loss),
    )
    found = solve(Network(links, {"sump": 0.0, "out": 1.0}), {"r0": one, "r1": two, "P": one})
    assert found.flows["o"] > 1e-5
    assert max(abs(found.flows[k]) for k in ("r0", "r1")) < 0.01e-3 / 3600.0


@pytest.mark.parametrize("drawn", ["towards the vessel", "away from it"])
def test_an_outlet_answers_to_its_level_the_same_whichever_way_it_is_drawn(drawn: str) -> None:
    """The slope a drowned end is followed by is what solving again at a higher level gives."""
    ends = ("n0", "bed") if drawn == "towards the vessel" else ("bed", "n0")
    links = (
        _pump("P", "sump", "n0", 1e-3, 3.0),
        _pipe("R", *ends, 0.1, 0.5),
        _pipe("S", "n0", "tank", 0.02, 4.0, 3.0),
    )

    def at(level: float) -> Network:
        return Network(links, {"sump": 0.0, "bed": level, "tank": 0.5})

    solver, sign = Solver(), 1.0 if drawn == "towards the vessel" else -1.0
    low, high = (sign * solve(at(level)).flows["R"] for level in (1.0, 1.001))
    told = solver.outlet_rates(at(1.0), solver.solve(at(1.0)), ["R"])["R", "R"]
    assert told == pytest.approx((low - high) / 0.001, rel=0.01)


def test_outlets_answer_to_the_levels_of_each_other() -> None:
    """Of two vessels on one pumped line, each gets more as the other's level rises."""
    links = (
        _pump("P", "sump", "n0", 1e-3, 3.0),
        _pipe("R", "n0", "bed", 0.1, 0.5),
        _pipe("S", "tank", "n0", 0.2, 4.0, 3.0),
    )

    def at(tank: float) -> Network:
        return Network(links, {"sump": 0.0, "bed": 1.0, "tank": tank})

    solver = Solver()
    low, high = (solve(at(tank)).flows["R"] for tank in (0.5, 0.501))
    told = solver.outlet_rates(at(0.5), solver.solve(at(0.5)), ["R", "S"])
    assert told["R", "S"] == pytest.approx((low - high) / 0.001, rel=0.01)
    assert told["R", "S"] == pytest.approx(told["S", "R"])


def test_a_shut_valve_isolates_what_lies_behind_it() -> None:
    """A ring with no way to a known head carries nothing, and does not upset the rest."""
    shut = NetworkLink(
        "valve", "t", "n0", line=Line([Piece("valve", "shut", INCH, loss=float("inf"))], VISCOSITY)
    )
    ring = [_pipe(f"r{i}", f"n{i}", f"n{(i + 1) % 3}") for i in range(3)]
    links = [_pump("P", "sump", "t", 5e-4, 2.0), _pipe("R", "t", "bed", loss=8.0), shut, *ring]
    found = solve(Network(tuple(links), {"sump": 0.0, "bed": 1.0}))
    alone = solve(Network(tuple(links[:2]), {"sump": 0.0, "bed": 1.0}))
    assert found.flows["R"] == pytest.approx(alone.flows["R"])
    assert all(found.flows[f"r{i}"] == 0.0 for i in range(3))


def test_a_pump_against_a_shut_valve_stands_at_its_shut_off_head() -> None:
    """Nothing flows, and the head at the valve is what the pump can make."""
    shut = NetworkLink(
        "valve", "t", "bed", line=Line([Piece("valve", "shut", INCH, loss=float("inf"))], VISCOSITY)
    )
    found = solve(Network((_pump("P", "sump", "t", 5e-4, 2.0), shut), {"sump": 0.3, "bed": 1.0}))
    assert found.flows == {"P": 0.0, "valve": 0.0}
    assert found.heads["t"] == pytest.approx(2.3)
