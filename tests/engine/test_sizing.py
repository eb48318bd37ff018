"""Valves, bores and pumps chosen, each tried on the plan; and the trade's own check values."""

from pathlib import Path
from typing import Any

import pytest

from bathys.edits import Edit, apply_edits
from bathys.network import Balance, balance
from bathys.parts.bores import pipe_sizes, standards
from bathys.parts.fittings import FITTINGS
from bathys.parts.pumps import CatalogPump, sample_pumps
from bathys.parts.valves import gate_valve_loss
from bathys.physics import area_of
from bathys.physics.pump_curve import LabelCurve, parabola
from bathys.physics.water import water_at
from bathys.pipeline import assess, explain, remedies_of
from bathys.plan import Plan, load_plan, plan_from_data
from bathys.sizing import (
    MODES,
    balance_valves,
    bore_options,
    gains,
    modes_for,
    pump_edits,
    search_pumps,
)
from tests.conftest import EXAMPLE
from tests.plan_files import lists_of

LITRES_AN_HOUR = 1.0 / 3.6e6
GALLONS_AN_HOUR = 231 * 0.0254**3 / 3600.0  # NIST SP 811: exact by definition
FOOT = 0.3048
FAULTS = sorted((EXAMPLE.parent / "faults").glob("*.json"))


def _plan(name: str) -> Plan:
    return load_plan((EXAMPLE.parent / f"{name}.json").read_bytes())


def _document(name: str) -> dict[str, Any]:
    data: dict[str, Any] = lists_of(EXAMPLE.parent / f"{name}.json")
    return data


def _balance(plan: Plan) -> Balance:
    return balance(plan, water_at(plan.site.water_temperature))


@pytest.mark.parametrize("mode", [m for m in MODES if m != "header"])
def test_valves_set_as_told_bring_the_flows_told(mode: Any) -> None:
    """Applied to the plan and balanced again, levels and all: within 1 %, which the levels move."""
    now = _balance(_plan("twin-sumps"))
    settings = balance_valves(now, mode)
    assert not settings.refusal
    after = _balance(apply_edits(now.plan, settings.edits))
    for row in settings.rows:
        if mode != "bypassed" or row.run != "R2":
            assert after.flows[row.run] == pytest.approx(row.flow, rel=0.01)
    opened = [r for r in settings.rows if r.angle == 0.0]
    assert (mode == "exact") != bool(opened)


@pytest.mark.parametrize("beds", [2, 3])
def test_valves_of_drains_share_what_comes_as_wanted(beds: int) -> None:
    """Of a header that feeds beds by gravity: applied and balanced again, within 1 %, the neediest
    wide open; the flows are the same share of those wanted."""
    data = _document("constant-height-tank")
    wanted = {"R4": 3e-4, "R5": 1.5e-4}
    if beds == 3:
        data["vessels"].append(
            {
                **data["vessels"][-1],
                "id": "B3",
                "name": "Bed three",
                "ports": [{"name": "inlet", "height": 0.34}, {"name": "out", "height": 0.1}],
            }
        )
        bore = {"kind": "inside", "diameter": 0.04}
        data["runs"] += [
            {
                "id": "R8",
                "name": "To bed three",
                "from": "J1",
                "to": "B3.inlet",
                "bore": bore,
                "level_length": 0.8,
            },
            {
                "id": "R9",
                "name": "Back",
                "from": "B3.out",
                "to": "S1.left",
                "bore": bore,
                "level_length": 0.5,
            },
        ]
        wanted["R8"] = 2e-4
    for run in data["runs"]:
        run["wanted_flow"] = wanted.get(run["id"])
    now = _balance(plan_from_data(data))
    assert "header" in modes_for(now)
    settings = balance_valves(now, "header")
    assert not settings.refusal
    after = _balance(apply_edits(now.plan, settings.edits))
    for row in settings.rows:
        assert after.flows[row.run] == pytest.approx(settings.share * row.wanted, rel=0.011)
        assert after.flows[row.run] == pytest.approx(row.flow, rel=0.01)
    assert min(r.angle for r in settings.rows) == 0.0
    assert settings.figures is not None
    assert settings.figures["least"] < 0.9
    assert settings.figures["most"] > 1.1


def test_what_gives_in_each_mode() -> None:
    """Exact burns most; a slowed pump least of those that keep the flows."""
    now = _balance(_plan("twin-sumps"))
    found = {mode: balance_valves(now, mode) for mode in MODES if mode != "header"}
    assert found["proportional"].share > 1.0
    assert found["slowed"].dial is not None
    assert found["slowed"].dial < 1.0
    assert found["slowed"].burnt < found["exact"].burnt
    shares = {r.flow / r.wanted for r in found["proportional"].rows}
    assert max(shares) == pytest.approx(min(shares))


def test_valves_without_wanted_flows_or_with_impossible_ones_are_refused() -> None:
    """With a sentence each."""
    assert "wanted" in balance_valves(_balance(_plan("raft-line")), "exact").refusal
    plan = apply_edits(_plan("split-flow"), [Edit("runs.R2.wanted_flow", 2e-3)])
    refused = balance_valves(_balance(plan), "exact")
    assert "short" in refused.refusal
    assert refused.figures is not None
    assert refused.figures["short"] > 0.0
    assert "bypass" in balance_valves(_balance(_plan("split-flow")), "bypassed").refusal


def test_bores_are_solved_anew_and_the_smallest_that_does_is_marked() -> None:
    """Wider is never less flow; the marked one is the first within the velocity."""
    now = _balance(_plan("split-flow"))
    options = bore_options(now, now.plan.part("R1"))
    flows = [o.flow for o in options]
    assert flows == sorted(flows)
    advised = next(o for o in options if o.is_advised)
    assert advised.velocity <= 1.5
    smaller = options[: options.index(advised)]
    assert all(o.velocity > 1.5 or o.flow < 0.95 * flows[-1] for o in smaller)
    assert advised.flow >= 0.95 * flows[-1]
    assert next(o for o in options if o.is_now).flow == pytest.approx(now.flows["R1"], rel=1e-6)


def test_a_gain_told_is_a_gain_had() -> None:
    """Each change applied and balanced: the flow told, within what the levels move it."""
    now = _balance(_plan("split-flow"))
    found = gains(now, "P1")
    assert found[0].gain == max(g.gain for g in found)
    for gain in found[:3]:
        after = _balance(apply_edits(now.plan, gain.edits)).pump_flows["P1"]
        assert after == pytest.approx(gain.flow, rel=0.01)


@pytest.mark.parametrize("name", ["split-flow", "side-tanks", "raft-line", "stacked-pair"])
def test_every_pump_found_brings_what_was_asked(name: str) -> None:
    """In the plan, its pipes a season old and its valves set: every wanted flow and a fifth more.
    And the nearest miss does not."""
    now = _balance(_plan(name))
    pump = now.plan.pumps[0]
    search = search_pumps(now, pump, sample_pumps())
    assert search.count >= 3
    costs = [c.cost_year for c in search.fitting]
    assert costs == sorted(costs)
    aged = [Edit(f"runs.{r.id}.fouling", "season") for r in now.plan.runs]
    wanted = {
        d: 1.2 * (now.plan.part(d).wanted_flow or now.flows[d])
        for d in (r.id for r in now.layout.pressure_runs if now.plan.port(r.end))
    }
    for candidate, does in ((search.fitting[0], True), (search.nearest, False)):
        if candidate is None:
            continue
        plan = apply_edits(now.plan, [*aged, *pump_edits(pump, candidate.pump)])
        settings = balance_valves(_balance(plan), "exact", wanted)
        # Levels move a little with the pump; a hand's breadth of head decides nothing here.
        assert (not settings.refusal) == does or abs(candidate.spare) < 0.05


def test_a_builders_own_pump_is_tried_too() -> None:
    """A strong pump of few watts would be taken first."""
    now = _balance(_plan("split-flow"))
    own = CatalogPump("Mine", 9000 * LITRES_AN_HOUR, 5.0, 2.0, 30.0, is_own=True)
    search = search_pumps(now, now.plan.pumps[0], (own, *sample_pumps()))
    assert search.fitting[0].pump is own


def test_the_catalogue_is_believable() -> None:
    """Across 200 to 20,000 L/h; none turns more than half of its watts into moving water."""
    pumps = sample_pumps()
    assert len(pumps) >= 200
    assert pumps[0].max_flow == pytest.approx(200 * LITRES_AN_HOUR)
    assert pumps[-1].max_flow == pytest.approx(20000 * LITRES_AN_HOUR)
    assert len({p.name for p in pumps}) == len(pumps)
    for pump in pumps:
        share = (1.0 / (pump.exponent + 1.0)) ** (1.0 / pump.exponent)
        best = 998.2 * 9.80665 * share * pump.max_flow * pump.max_head
        best *= 1.0 - share**pump.exponent
        assert 0.05 < best / pump.power < 0.5


@pytest.mark.parametrize("name", ["constant-height-tank", "split-flow", "linked-beds"])
def test_remedies_do_what_they_say(name: str) -> None:
    """Each offer tried on a plan spoilt for it: a remedy that says it fixes, fixes."""
    document = lists_of(EXAMPLE.parent / f"{name}.json")
    document["pumps"][0]["dial"] = 0.75
    document["brief"]["schools"] = ["tank", "whole_system"]
    found = assess(plan_from_data(document))
    tried = 0
    for finding in found.findings:
        for remedy in remedies_of(found, finding):
            tried += 1
            after = assess(apply_edits(found.evaluation.plan, remedy.offer.edits))
            still = [(f.rule.id, f.place) for f in after.findings]
            assert remedy.cures == ((finding.rule.id, finding.place) not in still)
            if remedy.after is not None:
                same = after.figure(remedy.offer.watch)
                assert same is not None
                assert same.value == pytest.approx(remedy.after.value)
    assert tried


@pytest.mark.parametrize("path", FAULTS, ids=lambda p: p.stem)
def test_no_remedy_leads_the_wrong_way(path: Path) -> None:
    """What does not fix a finding moves the figure that matters as it should; of a siphon that
    gets too little that is where it starts, of one that gets too much where it stops."""
    found = assess(load_plan(path.read_bytes()))
    for finding in found.findings:
        for remedy in remedies_of(found, finding):
            aim, before, after = remedy.offer.aim, remedy.before, remedy.after
            if remedy.cures or aim == "any":
                continue
            assert before is not None
            assert after is not None
            assert before.value is not None
            assert after.value is not None
            assert (after.value > before.value) == (aim == "more"), remedy.offer.label
            if finding.rule.id == "B1":
                inflow = found.figure(f"{finding.place}.window")
                assert inflow is not None
                assert inflow.value is not None
                assert (inflow.value < before.value) == (aim == "less")


def test_every_figure_explains_itself() -> None:
    """Equation, inputs, source; where a formula made it, moving an input by 1 % moves the figure
    as its drivers say."""
    found = assess(_plan("split-flow"))
    for figure in found.figures:
        assert figure.equation
        assert figure.source
        told = explain(found, figure.key)
        assert told is not None
        assert told.figure is figure
    velocity = explain(found, "R1.velocity")
    assert velocity is not None
    effects = {str(d.figures["input"]): d.effect for d in velocity.drivers}
    assert effects["bore the film leaves"] == pytest.approx(-0.0197, abs=1e-3)
    flow = explain(found, "P1.flow")
    assert flow is not None
    assert flow.drivers[0].effect > 0.0
    assert explain(found, "nothing") is None


def test_pipe_tables_are_whole() -> None:
    """Every row's bore lies within its outside, and grows with its size."""
    assert len(standards()) >= 9
    for standard in standards():
        bores = [s.bore for s in pipe_sizes(standard)]
        assert bores == sorted(bores)
        assert all(0.4 < s.bore / s.outside_diameter < 1.0 for s in pipe_sizes(standard))


# Crane TP-410 (2018), p. A-27 ff. (memory): K of 1 in schedule 40 steel-pipe fittings, f_T 0.022.
@pytest.mark.parametrize(
    ("kind", "loss"),
    [
        ("elbow_90", 0.66),
        ("elbow_45", 0.35),
        ("tee_run", 0.44),
        ("tee_branch", 1.32),
        ("swing_check", 2.2),
    ],
)
def test_fittings_agree_with_crane(kind: str, loss: float) -> None:
    """One inch: 10 %, since the friction factor is read from a chart."""
    assert FITTINGS[kind].loss(0.02664, 0.02664) == pytest.approx(loss, rel=0.10)


def test_gate_valve_agrees_with_weisbach() -> None:
    """Half open 2.06, quarter open 17 (Weisbach, memory)."""
    assert gate_valve_loss(0.5) == pytest.approx(2.06)
    assert gate_valve_loss(0.25) == pytest.approx(17.0)


# Check values of the trade: common practice, no source.


def test_a_400_gallon_label_gives_150_at_4_feet() -> None:
    """Common practice: a label of 400 gal/h moves about 150 at 4 ft. A parabola through both has
    its shut-off near 4.65 ft."""
    curve = parabola((150 * GALLONS_AN_HOUR, 4.0 * FOOT), (400 * GALLONS_AN_HOUR, 0.0))
    assert curve.max_head / FOOT == pytest.approx(4.65, abs=0.02)
    label = LabelCurve(400 * GALLONS_AN_HOUR, 4.65 * FOOT)
    assert label.head(150 * GALLONS_AN_HOUR)[0] / FOOT == pytest.approx(4.0, abs=0.02)


def test_a_3000_litre_label_gives_a_tank_about_1800() -> None:
    """Common practice: 3,000 L/h, 3.5 m, 85 W; the tank's branch with its valve wide open gets
    about 1,800 L/h, the others the rest. Two throttled beds beside it here."""
    document = lists_of(EXAMPLE.parent / "split-flow.json")
    document["pumps"][0]["curve"] = {
        "kind": "label",
        "max_flow": 3000 * LITRES_AN_HOUR,
        "max_head": 3.5,
    }
    document["pumps"][0]["power"] = 85.0
    angles = {"R2": 0.0, "R5": 62.0, "R6": 62.0, "R7": 65.0}
    for run in document["runs"]:
        if run["id"] in angles:
            run["valve"]["angle"] = angles[run["id"]]
    now = _balance(plan_from_data(document))
    assert now.flows["R2"] / LITRES_AN_HOUR == pytest.approx(1800, rel=0.15)


def test_a_500_litre_bed_wants_a_1000_litre_pump_of_20_watts() -> None:
    """Common practice: twice an hour is 1,000 L/h; at 0.8 m of lift a pump of about 20 W does."""
    assert 2 * 500 == 1000
    good = [
        p
        for p in sample_pumps()
        if p.max_head * (1 - (1000 * LITRES_AN_HOUR / p.max_flow) ** p.exponent) >= 0.9
        and p.max_flow > 1000 * LITRES_AN_HOUR
    ]
    assert min(p.power for p in good) < 20.0


def test_arithmetic_of_the_trade() -> None:
    """2,500 L/h on 1,500 L is more than once an hour; a quarter inch a foot is 2.08 %; 3.5 kWh in
    a day is 146 W; 60 W round the clock is 525.6 kWh a year (common practice)."""
    assert 2500 / 1500 > 1.0
    assert pytest.approx(0.0208, abs=5e-5) == 0.25 / 12
    assert pytest.approx(146, abs=0.5) == 3500 / 24
    plan = apply_edits(_plan("stacked-pair"), [Edit("pumps.P1.power", 60.0)])
    duty = assess(plan).evaluation.duties["P1"]
    assert duty.energy_year == pytest.approx(525.6)


def test_a_wide_lift_narrowed_runs_faster() -> None:
    """Common practice: a 3 in solids lift reduced to 1½ in at 150 gal/h. Velocities derive: the
    narrow one is 3.6 times as fast, both too slow to carry heavy solids by far."""
    flow = 150 * GALLONS_AN_HOUR
    slow, fast = flow / area_of(0.07793), flow / area_of(0.04089)
    assert fast / slow == pytest.approx(3.63, abs=0.01)
    assert fast == pytest.approx(0.120, abs=0.001)


def test_what_does_not_go_into_a_narrow_vessel_is_left_out() -> None:
    """Bores wider than the vessel at an end are not offered, and a pump that falls short is told no
    cure that cannot be built."""
    data = _document("cascade-float-lift")
    data["vessels"][0]["shape"] = {
        "kind": "tote",
        "width": 0.03367,
        "height": 1.231845,
        "corner_radius": 0.002877,
    }
    data["vessels"][2]["media"]["void_fraction"] = 0.999999
    plan = plan_from_data(data)
    assert assess(plan).findings
    narrow = plan.vessels[0].id
    run = next(r for r in plan.runs if narrow in (r.source, r.target))
    options = bore_options(_balance(plan), run)
    assert options
    assert max(o.size.bore for o in options) < 0.03367
