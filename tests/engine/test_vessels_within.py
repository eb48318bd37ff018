"""Shells of odd shapes, vessels within vessels, weirs, dip tubes, and how level a header stands."""

import math
from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import quad, solve_ivp

from bathys.edits import remove_part
from bathys.evaluation.levelling import levelling_of
from bathys.kinds import model_named
from bathys.pipeline import assess
from bathys.plan import BadPlan, Plan, plan_from_data
from bathys.simulation import simulate
from bathys.vessels import storage_of
from tests.conftest import EXAMPLE
from tests.plan_files import lists_of


def _tank(id_: str, side: float, depth: float | None, floor: float = 0.0, **more: Any) -> Any:
    return {
        "id": id_, "name": id_, "job": "sump", "floor_height": floor, "water_depth": depth,
        "shape": {"kind": "box", "length": side, "width": side, "height": 1.0}, **more,
    }  # fmt: skip


def _plan(*vessels: Any, **lists: Any) -> Plan:
    head = {"format": "bathys-plan", "version": 4, "name": "Tanks", "vessels": list(vessels)}
    return plan_from_data({**head, **lists})


SHAPES = {
    "tapered": (
        {"length": 1.8, "width": 1.2, "floor_length": 1.4, "floor_width": 0.9, "height": 0.55},
        lambda z: (1.4 + 0.4 * z / 0.55) * (0.9 + 0.3 * z / 0.55),
    ),
    "tub": (
        {"diameter": 1.8, "floor_diameter": 1.65, "height": 0.9},
        lambda z: math.pi / 4.0 * (1.65 + 0.15 * z / 0.9) ** 2,
    ),
    "half_drum": (
        {"diameter": 0.58, "length": 0.85},
        lambda z: 2.0 * math.sqrt(0.29**2 - (0.29 - z) ** 2) * 0.85,
    ),
    "trough": (
        {"length": 1.4, "width": 0.56, "height": 0.43},
        lambda z: (1.4 - 0.56) * 0.56 + math.pi * 0.28**2,
    ),
    "glass": (
        {"outside_length": 1.2, "outside_width": 0.5, "outside_height": 0.5, "thickness": 0.01},
        lambda z: 1.18 * 0.48,
    ),
    "lined": (
        {"length": 2.4, "width": 1.2, "height": 0.3, "lining": 0.004},
        lambda z: 2.392 * 1.192,
    ),
}


@pytest.mark.parametrize("kind", SHAPES)
@given(share=st.floats(0.02, 1.0))
def test_a_shell_holds_what_its_areas_add_up_to(kind: str, share: float) -> None:
    """scipy's quadrature of the area of its cross-section, written out here; at the rim the whole
    capacity. A slice of a curved wall is flat, so that between its edges it is 0.3 % off."""
    sizes, area = SHAPES[kind]
    shell = model_named("shells", kind)(**sizes)
    level = share * shell.height
    told = quad(area, 0.0, level)[0]
    assert shell.holds(level) == pytest.approx(told, rel=5e-3, abs=2e-4)
    assert shell.capacity == pytest.approx(quad(area, 0.0, shell.height)[0], rel=1e-6)
    assert shell.footprint == pytest.approx(area(shell.height), rel=1e-6)


def test_a_liner_is_bought_for_floor_walls_and_folds() -> None:
    """2.4 m and twice 0.3 m of wall and 0.2 m of fold: 3.4 by 2.2 m (arithmetic)."""
    box = model_named("shells", "lined")(length=2.4, width=1.2, height=0.3)
    assert box.liner == pytest.approx((3.4, 2.2))


def _notched(shape: str, **more: Any) -> Plan:
    """A tank that runs out over a weir with nothing coming."""
    weir = {
        "kind": "weir", "id": "O1", "name": "O1", "stands_in": "T1", "crest_height": 0.5,
        "edge": shape, **more,
    }  # fmt: skip
    run = {
        "id": "R1", "name": "R1", "from": "O1.out", "to": "S1.in", "level_length": 0.1,
        "bore": {"kind": "inside", "diameter": 0.3},
    }  # fmt: skip
    tank = _tank("T1", 1.0, None, 1.0, job="fish_tank")
    sump = _tank("S1", 2.0, 0.2, ports=[{"name": "in", "height": 0.9}])
    fill = {"id": "Z1", "name": "Z1", "target": "T1", "volume": 0.2, "flow": 0.002, "at": 0.0}
    return _plan(tank, sump, outlets=[weir], runs=[run], transfers=[fill])


@pytest.mark.parametrize(
    ("shape", "more", "law"),
    [
        (
            "notch",
            {"angle": 60.0, "count": 2},
            lambda h: 2 * 8 / 15 * 0.58 * math.sqrt(19.6133) * math.tan(math.pi / 6) * h**2.5,
        ),
        ("slot", {"width": 0.06}, lambda h: 2 / 3 * 0.60 * math.sqrt(19.6133) * 0.06 * h**1.5),
        ("rim", {"width": 0.3}, lambda h: 1.7 * 0.3 * h**1.5),
    ],
)
def test_a_weir_lets_out_what_its_formula_says(shape: str, more: Any, law: Any) -> None:
    """ISO 1438's V-notch and slot and a broad rim (coefficients from memory), the level followed by
    scipy's RK45 while 2 L/s come in, then none: within 0.5 mm all the way."""
    found = simulate(_notched(shape, **more), 300.0 / 3600.0, every=5.0)

    def rate(time: float, level: Any) -> list[float]:
        over = max(float(level[0]) - 0.5, 0.0)
        return [(0.002 if time < 100.0 else 0.0) - law(over)]

    times = np.asarray(found.times)
    start = float(found.level("T1")[0]) - 1.0
    told = solve_ivp(rate, (0.0, 300.0), [start], t_eval=times, max_step=0.5, rtol=1e-8).y[0]
    assert np.abs(found.level("T1") - 1.0 - told).max() < 5e-4
    assert found.lost < 1e-12


def test_a_bucket_in_a_tub_takes_its_room_and_runs_over_into_it() -> None:
    """The tub holds its own area less the bucket's up to the bucket's rim; the bucket overflows
    into the tub, nowhere else, and water is kept (mass)."""
    bucket = {
        "id": "C1", "name": "Bucket", "job": "settler", "floor_height": 0.1, "within": "S1",
        "water_depth": 0.3, "shape": {"kind": "box", "length": 0.3, "width": 0.3, "height": 0.5},
    }  # fmt: skip
    weir = {
        "kind": "weir", "id": "O1", "name": "Rim", "stands_in": "C1", "crest_height": 0.499,
        "edge": "rim", "width": 1.2,
    }  # fmt: skip
    run = {
        "id": "R1", "name": "Over", "from": "O1.out", "to": "S1.in", "level_length": 0.0,
        "bore": {"kind": "inside", "diameter": 0.3},
    }  # fmt: skip
    fill = {"id": "Z1", "name": "Z1", "target": "C1", "volume": 0.06, "flow": 1e-4, "at": 0.0}
    tub = _tank("S1", 1.0, 0.2, ports=[{"name": "in", "height": 0.55}])
    plan = _plan(tub, bucket, outlets=[weir], runs=[run], transfers=[fill])
    storage = storage_of(plan, plan.vessel("S1"))
    assert storage.volume_at(0.1) == pytest.approx(0.1)
    assert storage.volume_at(0.3) == pytest.approx(0.1 + 0.2 * (1.0 - 0.09))
    assert storage.volume_at(0.8) == pytest.approx(0.1 + 0.5 * 0.91 + 0.2)
    found = simulate(plan, 1.0, every=10.0)
    assert not found.spills
    assert found.lost < 1e-12
    overflowed = 0.06 - 0.09 * (0.499 - 0.3)
    rose = float(found.level("S1")[-1] - found.level("S1")[0])
    assert rose == pytest.approx(overflowed / 0.91, rel=2e-3)
    left = {v.id for v in plan.vessels} - {
        e.path.split(".")[1] for e in remove_part(plan, "C1") if e.path.startswith("vessels.C1")
    }
    assert left == {"S1"}


def test_what_cannot_stand_within_is_refused() -> None:
    outer = _tank("S1", 1.0, 0.2)
    for inner, words in (
        (_tank("C1", 1.1, 0.2, within="S1"), "no room"),
        (_tank("C1", 0.3, 0.2, -0.1, within="S1"), "under the floor"),
        (_tank("C1", 0.3, 0.2, within="S9"), "no vessel called"),
        (_tank("C1", 0.3, 0.2, within="C1"), "stands on its own"),
    ):
        with pytest.raises(BadPlan, match=words):
            _plan(outer, inner)


def test_an_empty_bucket_floats_and_a_flooded_one_is_told() -> None:
    """20 cm of water around an empty bucket of 0.09 m2 lift with 18 kg (Archimedes)."""
    sump = _tank("S1", 1.0, 0.3)
    empty = _tank("C1", 0.3, None, 0.1, within="S1")
    told = next(f for f in assess(_plan(sump, empty)).findings if f.rule.id == "U18")
    assert told.severity == "warning"
    assert told.figures["force"] == pytest.approx(0.09 * 0.2 * 998.0)
    low = _tank("C1", 0.3, 0.05, 0.0, within="S1")
    low["shape"]["height"] = 0.2
    told = next(f for f in assess(_plan(sump, low)).findings if f.rule.id == "U18")
    assert told.severity == "fault"


def test_a_dry_cone_takes_room_and_bears_its_water() -> None:
    """A cone of 0.3 m in a square tank of 1 m2 leaves the frustum's pi h (d2 + d D + D2)/12;
    flooded behind it takes no room. Its load is the water over its slope."""
    cone = {"kind": "cone", "cone_height": 0.3, "foot_diameter": 0.1, "flooded": False}
    plan = _plan(_tank("C1", 1.0, 0.8, false_cone=cone))
    wide = math.sqrt(4.0 / math.pi)
    frustum = math.pi / 12.0 * 0.3 * (0.01 + 0.1 * wide + wide**2)
    storage = storage_of(plan, plan.vessel("C1"))
    assert storage.volume_at(0.3) == pytest.approx(frustum, rel=1e-6)
    assert storage.volume_at(0.8) == pytest.approx(frustum + 0.5, rel=1e-6)
    told = next(f for f in assess(plan).findings if f.rule.id == "W2")
    over = frustum + 0.5 - 0.25 * math.pi * 0.01 * 0.8  # all but the column over its foot
    assert told.figures["load"] == pytest.approx(998.0 * over, rel=1e-6)
    flooded = _plan(_tank("C1", 1.0, 0.8, false_cone={**cone, "flooded": True}))
    assert storage_of(flooded, flooded.vessel("C1")).volume_at(0.8) == pytest.approx(0.8)
    assert "W2" not in {f.rule.id for f in assess(flooded).findings}
    with pytest.raises(BadPlan, match="below the rim"):
        _plan(_tank("C1", 1.0, 0.8, false_cone={**cone, "cone_height": 1.0}))


def test_a_dip_tube_draws_from_the_floor_and_may_siphon() -> None:
    """It takes from its intake; with no air hole it is a siphon nobody meant, as a closed lift is,
    and the drain ends under its intake."""
    document = lists_of(EXAMPLE.parent / "split-flow.json")
    lift = document["outlets"][0]
    for vented, kind in ((True, "lift"), (False, "lift"), (True, "dip_tube"), (False, "dip_tube")):
        document["outlets"][0] = {**lift, "kind": kind, "vented": vented}
        part = plan_from_data(document).part("O1")
        assert part.takes_from == lift["intake_height"]
        assert part.draws_to == (lift["crest_height"] if vented else lift["intake_height"])
    one, two = (
        assess(
            plan_from_data({**document, "outlets": [{**lift, "kind": k}, *document["outlets"][1:]]})
        )
        for k in ("lift", "dip_tube")
    )
    assert one.evaluation.runs["R8"].flow == two.evaluation.runs["R8"].flow


def _header(angle: float | None) -> Plan:
    """A pumped header that shares its water to two rafts over V-notches, or through holes."""
    backs = [{"name": name, "height": 0.95} for name in ("one", "two")]
    inlet = [{"name": "inlet", "height": 0.95}]
    low = [{"name": "inlet", "height": 0.9}]
    pump = {
        "id": "P1", "name": "P1", "stands_in": "S1", "inlet_height": 0.05, "power": 40.0,
        "curve": {"kind": "label", "max_flow": 8e-4, "max_head": 5.0},
    }  # fmt: skip
    kind: dict[str, Any] = {"kind": "holes", "height": 0.5, "diameter": 0.02, "count": 1}
    if angle:
        kind = {"kind": "weir", "crest_height": 0.5, "edge": "notch", "angle": angle}
    bore = {"kind": "inside", "diameter": 0.1}
    pipe = {"kind": "standpipe", "bore": bore, "rim_height": 0.3}

    def run(id_: str, start: str, end: str, wide: float = 0.1) -> dict[str, Any]:
        return {
            "id": id_, "name": id_, "from": start, "to": end, "level_length": 0.2,
            "bore": {"kind": "inside", "diameter": wide},
        }  # fmt: skip

    return _plan(
        _tank("S1", 2.0, 0.6, -1.2, ports=backs),
        _tank("F1", 0.6, None, 1.0, job="biofilter", ports=inlet),
        _tank("G1", 1.0, None, 0.2, job="raft", ports=low),
        _tank("G2", 1.0, None, 0.2, job="raft", ports=low),
        pumps=[pump],
        outlets=[
            {"id": "O1", "name": "O1", "stands_in": "F1", **kind},
            {"id": "O2", "name": "O2", "stands_in": "F1", **kind},
            {"id": "O3", "name": "O3", "stands_in": "G1", **pipe},
            {"id": "O4", "name": "O4", "stands_in": "G2", **pipe},
        ],
        runs=[
            run("R1", "P1.out", "F1.inlet", 0.03),
            run("R2", "O1.out", "G1.inlet"),
            run("R3", "O2.out", "G2.inlet"),
            run("R4", "O3.out", "S1.one"),
            run("R5", "O4.out", "S1.two"),
        ],
    )


@pytest.mark.parametrize(("angle", "power"), [(90.0, 2.5), (40.0, 2.5), (None, 0.5)])
def test_how_level_a_header_stands_follows_from_its_law(angle: float | None, power: float) -> None:
    """Q goes with h^n, so dQ/Q = n dh/h: at a tilt of 0.1 * 2 h/(n L) the outer outlets are a tenth
    off (derived by hand; n 2.5 of a V-notch, 0.5 of a hole)."""
    found = assess(_header(angle)).evaluation
    row = levelling_of(found)[0]
    assert row.vessel == "F1"
    assert [o.share for o in row.outlets] == pytest.approx([0.5, 0.5])
    over = found.vessels["F1"].levels.low - 1.0 - 0.5
    assert row.outlets[0].answers == pytest.approx(power / over, rel=0.01)
    assert row.tilt == pytest.approx(0.1 * 2.0 * over / (power * 0.6), rel=0.01)
    assert not [f for f in assess(_header(angle)).findings if f.severity == "fault"]
