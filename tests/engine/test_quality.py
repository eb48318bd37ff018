"""What the water carries: against closed forms, EPANET's quality engine, and laws."""

import math
from pathlib import Path

import numpy as np
import pytest
import wntr
from hypothesis import given
from hypothesis import strategies as st

from bathys.pipeline import assess
from bathys.plan import load_plan
from bathys.quality import Constituent, FlowNet, Leg, carried_through, flow_net, solids_of, steady
from tests.conftest import EXAMPLE

EXAMPLES = EXAMPLE.parent


def _ring(volumes: list[float], flow: float) -> FlowNet:
    """Vessels one after the other, and back to the first."""
    count = len(volumes)
    legs = tuple(Leg(f"L{n}", n, (n + 1) % count, flow) for n in range(count))
    return FlowNet(tuple(f"V{n}" for n in range(count)), np.array(volumes), legs)


def test_salt_in_one_tank_with_water_through_it_thins_by_an_exponential() -> None:
    """Closed form: c = c0 exp(−Q t / V)."""
    legs = (Leg("in", -1, 0, 2e-4), Leg("out", 0, -1, 2e-4))
    net = FlowNet(("T",), np.array([0.5]), legs)
    times = [0.0, 600.0, 3600.0, 7200.0]
    found = carried_through(net, Constituent("salt"), {"T": 3.0}, times)["T"]
    assert found == pytest.approx([3.0 * math.exp(-2e-4 * t / 0.5) for t in times], rel=1e-6)


def test_tanks_in_series_spread_a_pulse_as_the_textbook_says() -> None:
    """Closed form of n equal tanks in series (Levenspiel, Chemical Reaction Engineering, memory):
    E_n(t) in the last one is c0 (t/τ)^(n−1) exp(−t/τ) / (n−1)!."""
    count, volume, flow = 4, 0.2, 4e-4
    legs = (
        Leg("in", -1, 0, flow),
        *(Leg(f"L{n}", n, n + 1, flow) for n in range(count - 1)),
        Leg("out", count - 1, -1, flow),
    )
    net = FlowNet(tuple(f"V{n}" for n in range(count)), np.full(count, volume), legs)
    times = np.linspace(0.0, 4000.0, 9)
    found = carried_through(net, Constituent("dye"), {"V0": 1.0}, list(times))["V3"]
    turns = times * flow / volume
    want = turns ** (count - 1) * np.exp(-turns) / math.factorial(count - 1)
    assert found == pytest.approx(want, abs=1e-6)


def test_what_a_settler_leaves_in_a_ring_stands_as_the_closed_form_says() -> None:
    """Closed form: a ring with one filter that holds a share η has c = P/(Q η) before it and
    (1 − η) of that behind it (handbooks of recirculating fish farms, memory)."""
    net = _ring([1.0, 0.2, 0.4], 5e-4)
    found = steady(net, [Constituent("grains", {"V0": 1e-3}, {"V1": 0.6})])[0]
    assert found.concentrations["V0"] == pytest.approx(1e-3 / (5e-4 * 0.6), rel=1e-12)
    assert found.concentrations["V2"] == pytest.approx(0.4 * 1e-3 / (5e-4 * 0.6), rel=1e-12)
    assert found.held == {"V1": pytest.approx(1e-3, rel=1e-12)}
    assert found.climbs == 0.0


def test_what_nothing_takes_out_climbs() -> None:
    found = steady(_ring([1.0, 0.2], 5e-4), [Constituent("salt", {"V0": 1e-3})])[0]
    assert math.isinf(found.concentrations["V1"])
    assert found.climbs == pytest.approx(1e-3)


def _epanet(
    net: FlowNet,
    begins: dict[str, float],
    times: list[float],
    folder: Path,
    decay: dict[str, float] | None = None,
) -> object:
    """The same flows and vessels in EPANET: a strong pump and a flow control valve a leg."""
    model = wntr.network.WaterNetworkModel()
    model.options.time.duration = int(times[-1])
    model.options.time.hydraulic_timestep = model.options.time.report_timestep = 600
    model.options.time.quality_timestep = 5
    model.options.quality.parameter = "CHEMICAL"
    model.options.quality.tolerance = 1e-6
    model.options.hydraulic.inpfile_units = "LPS"
    model.options.hydraulic.accuracy = 1e-7
    model.add_curve("strong", "HEAD", [(0.05, 50.0)])
    for name, volume in zip(net.places, net.volumes, strict=True):
        if volume > 0.0:
            across = math.sqrt(4.0 * volume / math.pi)
            model.add_tank(name, 0.0, 1.0, 0.0, 2.0, across)
            model.get_node(name).initial_quality = begins.get(name, 0.0)
            model.get_node(name).bulk_coeff = -(decay or {}).get(name, 0.0)
        else:
            model.add_junction(name, elevation=0.0)
    model.add_reservoir("outside", base_head=1.0)
    for k, leg in enumerate(net.legs):
        start, end = (net.places[n] if n >= 0 else "outside" for n in (leg.start, leg.end))
        model.add_junction(f"a{k}", elevation=0.0)
        model.add_junction(f"b{k}", elevation=0.0)
        model.add_pump(f"P{k}", start, f"a{k}", "HEAD", "strong")
        model.add_valve(f"F{k}", f"a{k}", f"b{k}", 0.1, "FCV", 0.0, leg.flow)
        model.add_pipe(f"R{k}", f"b{k}", end, 0.01, 0.05)
    results = wntr.sim.EpanetSimulator(model).run_sim(file_prefix=str(folder / "run"))
    return results.node["quality"]


@pytest.mark.parametrize("layout", ["split-flow", "raft-line", "twin-sumps"])
def test_a_tracer_agrees_with_epanet(layout: str, tmp_path: Path) -> None:
    """EPANET 2.2's quality engine (Rossman et al. 2020) through wntr, on a plan's mean flows:
    dye in the fish tank for four hours, 0.5 % of what it began with."""
    plan = load_plan((EXAMPLES / f"{layout}.json").read_bytes())
    net = flow_net(assess(plan).evaluation)
    tank = next(v.id for v in plan.vessels if v.use.keeps_fish)
    begins = {v.id: 100.0 * (v.id == tank) for v in plan.vessels}
    times = [600.0 * k for k in range(25)]
    ours = carried_through(net, Constituent("dye"), begins, times)
    theirs = _epanet(net, begins, times, tmp_path)
    for vessel in plan.vessels:
        given = theirs[vessel.id].to_numpy()  # type: ignore[index]
        assert ours[vessel.id] == pytest.approx(given, abs=0.5), vessel.id
    assert max(ours[v.id][-1] for v in plan.vessels) > 1.0


@pytest.mark.parametrize("layout", ["split-flow", "raft-line"])
def test_what_goes_by_itself_in_some_vessels_agrees_with_epanet(
    layout: str, tmp_path: Path
) -> None:
    """First-order decay in every second vessel while all is mixed, as EPANET 2.2 has it: 0.5 % of
    what the fish tank began with; and far from what dye would do."""
    plan = load_plan((EXAMPLES / f"{layout}.json").read_bytes())
    net = flow_net(assess(plan).evaluation)
    tank = next(v.id for v in plan.vessels if v.use.keeps_fish)
    begins = {v.id: 100.0 * (v.id == tank) for v in plan.vessels}
    decay = {v.id: 2e-4 for v in plan.vessels[::2]}
    times = [600.0 * k for k in range(13)]
    ours = carried_through(net, Constituent("ammonia", decay=decay), begins, times)
    theirs = _epanet(net, begins, times, tmp_path, decay)
    dye = carried_through(net, Constituent("dye"), begins, times)
    for vessel in plan.vessels:
        given = theirs[vessel.id].to_numpy()  # type: ignore[index]
        assert ours[vessel.id] == pytest.approx(given, abs=0.5), vessel.id
    assert ours[tank][-1] < 0.8 * dye[tank][-1]


@st.composite
def _nets(draw: st.DrawFn) -> FlowNet:
    """Rings through random places, some of them joints, with water added and taken away."""
    count = draw(st.integers(2, 7))
    legs = []
    for n in range(draw(st.integers(1, 4))):
        ring = draw(
            st.lists(st.integers(-1, count - 1), min_size=2, max_size=count + 1, unique=True)
        )
        flow = draw(st.floats(1e-5, 1e-2))
        legs += [
            Leg(f"{n}.{k}", ring[k], ring[(k + 1) % len(ring)], flow) for k in range(len(ring))
        ]
    volumes = [draw(st.sampled_from([0.0, 0.05, 0.4, 2.0])) for _ in range(count)]
    return FlowNet(tuple(f"V{n}" for n in range(count)), np.array(volumes), tuple(legs))


def test_mass_is_kept_where_next_to_nothing_is_held_of_a_fast_loop() -> None:
    """A case that a search found: a ten-millionth held a pass, so that what is held is the small
    difference of two great flows. Rounding took 1.4e-9 of it."""
    fast = 0.00390625
    legs = [Leg("0.0", 0, 1, fast), Leg("0.1", 1, 0, fast), Leg("1.0", 0, 1, 1e-5)]
    legs += [Leg("1.1", 1, 0, 1e-5), Leg("2.0", 0, 1, fast), Leg("2.1", 1, 0, fast)]
    net = FlowNet(("V0", "V1", "V2"), np.zeros(3), tuple(legs))
    (found,) = steady(net, [Constituent("x", {"V0": 0.0, "V1": 1.0}, {"V1": 1.192092896e-07})])
    assert found.climbs == 0.0
    assert found.held["V1"] == pytest.approx(1.0, rel=1e-12)


@given(_nets(), st.data())
def test_mass_is_kept(net: FlowNet, data: st.DataObject) -> None:
    """All that is added is held, goes by itself, leaves or climbs, to 1e-9; none of it is less
    than nothing."""
    shares = st.floats(0.0, 1.0)
    held = {p: data.draw(shares) for p in net.places if data.draw(st.booleans())}
    held |= {leg.id: data.draw(shares) for leg in net.legs if data.draw(st.booleans())}
    decay = {p: data.draw(st.floats(0.0, 1e-3)) for p in net.places if data.draw(st.booleans())}
    sources = {p: data.draw(st.floats(0.0, 1.0)) for p in net.places}
    found = steady(net, [Constituent("x", sources, held, decay)])[0]
    ends = [*found.held.values(), *found.decays.values(), found.leaves, found.climbs]
    assert math.fsum(ends) == pytest.approx(math.fsum(sources.values()), rel=1e-9, abs=1e-15)
    assert min(ends) >= -1e-12
    assert min(found.concentrations.values()) >= -1e-9


@given(_nets(), st.randoms())
def test_order_and_names_do_not_matter(net: FlowNet, random: object) -> None:
    order = list(range(len(net.places)))
    random.shuffle(order)  # type: ignore[attr-defined]
    new = {old: n for n, old in enumerate(order)} | {-1: -1}
    other = FlowNet(
        tuple(f"other {net.places[o]}" for o in order),
        net.volumes[order],
        tuple(Leg(leg.id, new[leg.start], new[leg.end], leg.flow) for leg in reversed(net.legs)),
    )
    one = steady(net, [Constituent("x", {"V0": 1.0}, {"V1": 0.5})])[0]
    two = steady(other, [Constituent("x", {"other V0": 1.0}, {"other V1": 0.5})])[0]
    for place in net.places:
        assert two.concentrations[f"other {place}"] == pytest.approx(
            one.concentrations[place], rel=1e-9
        )


@pytest.mark.parametrize(
    "path", sorted(EXAMPLES.rglob("*.json")), ids=lambda p: f"{p.parent.name}/{p.stem}"
)
def test_the_solids_of_every_example_end_somewhere(path: Path) -> None:
    """What is held never exceeds what is made, and every gram is told, to 1e-9."""
    solids = solids_of(assess(load_plan(path.read_bytes())).evaluation)
    told = math.fsum([*solids.ends.values(), solids.leaves, solids.climbs])
    assert told == pytest.approx(solids.made, rel=1e-9, abs=1e-12)
    assert all(0.0 <= grams <= solids.made * (1.0 + 1e-9) for grams in solids.ends.values())
