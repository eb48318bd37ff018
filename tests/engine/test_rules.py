"""Every rule speaks when it should, and is silent when it should be."""

import ast
import re
from collections.abc import Callable
from copy import deepcopy
from pathlib import Path
from typing import Any

import pytest

import bathys
from bathys.edits import apply_edits, set_volume
from bathys.kinds import model_named
from bathys.pipeline import assess, assess_dynamic
from bathys.plan import load_plan, plan_from_data
from bathys.rules import RULES
from bathys.units import SYSTEMS, fill_sentence
from tests.conftest import EXAMPLE
from tests.engine.one_vessel import one_vessel
from tests.plan_files import lists_of

Plan = dict[str, Any]


def _put(*path: Any) -> Callable[[Plan], None]:
    """A change of one value, as a function of the document."""
    *way, last, value = path

    def change(plan: Plan) -> None:
        here: Any = plan
        for step in way:
            here = here[step]
        here[last] = value

    return change


def _frugal_and_slow(plan: Plan) -> None:
    plan["brief"]["schools"] = ["frugal"]
    plan["runs"][0]["valve"]["angle"] = 65.0


def _whole_system_and_slow(plan: Plan) -> None:
    plan["brief"]["schools"] = ["whole_system"]
    plan["runs"][0]["valve"]["angle"] = 60.0


def _fast_riser(plan: Plan) -> None:
    plan["runs"][0]["bore"] = {"kind": "inside", "diameter": 0.013}
    plan["pumps"][0]["curve"] |= {"max_head": 6.0}


def _tight_bell(plan: Plan) -> None:
    plan["siphons"][0]["bell_bore"]["nominal"] = "1 1/2 in"


def _high_water_low_tank(plan: Plan) -> None:
    plan["pumps"][0]["inlet_height"] = 0.5


def _rim_near_the_top(plan: Plan) -> None:
    plan["siphons"][0]["rim_height"] = 0.33


def _layout(name: str, *changes: Callable[[Plan], None]) -> Callable[[Plan], None]:
    """Another example in the demo's place, with changes."""

    def change(plan: Plan) -> None:
        plan.clear()
        plan.update(lists_of(EXAMPLE.parent / f"{name}.json"))
        for one in changes:
            one(plan)

    return change


def _part(plan: Plan, group: str, id_: str) -> Plan:
    return next(p for p in plan[group] if p["id"] == id_)


def _set(group: str, id_: str, **values: Any) -> Callable[[Plan], None]:
    return lambda plan: _part(plan, group, id_).update(values)


def _bed_without_a_way_out(plan: Plan) -> None:
    plan["siphons"], plan["runs"] = [], plan["runs"][:1]


def _headroom_and_open(plan: Plan) -> None:
    plan["brief"]["schools"] = ["headroom"]
    plan["runs"][0]["valve"]["angle"] = 0.0


def _float_valve(plan: Plan) -> None:
    plan["top_ups"] = [
        {"id": "V1", "name": "Float valve", "stands_in": "T1", "level": 0.5, "flow": 1e-4}
    ]


def _flushing_bed_over_a_full_tank(plan: Plan) -> None:
    """Brim full at rest, and a return so low that it draws the bed down below its slots."""
    plan["vessels"][0]["water_depth"] = 0.749
    plan["vessels"][1]["ports"][0]["height"] = 0.005


def _low_return(plan: Plan) -> None:
    _part(plan, "vessels", "T1")["ports"][0]["height"] = 0.05


def _narrow_drain_under_a_siphon(plan: Plan) -> None:
    """The bed's siphon ends in a small box that a narrow pipe empties."""
    plan["vessels"].append(
        {
            "id": "C1",
            "name": "Catch box",
            "job": "biofilter",
            "floor_height": 0.65,
            "shape": {"kind": "box", "length": 0.3, "width": 0.3, "height": 0.2},
            "ports": [{"name": "inlet", "height": 0.19}, {"name": "side", "height": 0.03}],
        }
    )
    plan["vessels"][0]["ports"].append({"name": "back", "height": 0.6})
    plan["runs"][1]["to"] = "C1.inlet"
    plan["runs"].append(
        {
            "id": "R3",
            "name": "Box drain",
            "from": "C1.side",
            "to": "T1.back",
            "bore": {"kind": "inside", "diameter": 0.024},
            "level_length": 0.3,
        }
    )


_RARELY = {"kind": "timer", "on": 600.0, "off": 3000.0}
_NARROW = {"kind": "cylinder", "diameter": 0.3, "height": 0.9}
_SHUT = {"kind": "ball", "angle": 90.0}


def _much_too_strong(plan: Plan) -> None:
    plan["pumps"][0]["curve"] |= {"max_flow": 40.0 / 3600.0, "max_head": 9.0}
    plan["pumps"][0]["power"] = 400.0


def _low_hole(plan: Plan) -> None:
    """A row of holes under the standpipe's rim that passes all that comes."""
    plan["vessels"][0]["ports"].append({"name": "back", "height": 0.7})
    plan["outlets"] = [
        {
            "id": "O1",
            "name": "Holes",
            "kind": "holes",
            "stands_in": "B1",
            "height": 0.1,
            "diameter": 0.02,
            "count": 4,
        }
    ]
    plan["runs"].append(
        {
            "id": "R3",
            "name": "Leak",
            "from": "O1.out",
            "to": "T1.back",
            "bore": {"kind": "inside", "diameter": 0.05},
            "level_length": 0.3,
        }
    )


def _rests_for(seconds: float) -> Callable[[Plan], None]:
    def change(plan: Plan) -> None:
        for pump in plan["pumps"]:
            if pump.get("switch"):
                pump["switch"] |= {"on": 900.0, "off": seconds}

    return change


def _slotted_tank(plan: Plan) -> None:
    """A fish tank held by a standpipe that has a bed's small holes."""
    plan.clear()
    plan.update(one_vessel())
    plan["vessels"][1]["job"] = "fish_tank"
    plan["outlets"] = [
        {
            "id": "O1",
            "name": "Tank standpipe",
            "kind": "standpipe",
            "stands_in": "C1",
            "bore": {"kind": "inside", "diameter": 0.05},
            "rim_height": 0.7,
            "holes": 8,
            "hole_height": 0.03,
            "hole_diameter": 0.008,
        }
    ]
    plan["runs"][1]["from"] = "O1.out"


def _more_in_than_out(plan: Plan) -> None:
    plan["transfers"] = [
        {
            "id": "W1",
            "name": "New water",
            "target": "T1",
            "volume": 0.06,
            "flow": 5e-5,
            "at": 28800.0,
            "every": 86400.0,
        }
    ]


def _bucket_in_the_tank(plan: Plan) -> None:
    plan["vessels"].append(
        {
            "id": "C9", "name": "Bucket", "job": "settler", "floor_height": 0.2, "within": "T1",
            "shape": {"kind": "tub", "diameter": 0.3, "floor_diameter": 0.25, "height": 0.5},
        }
    )  # fmt: skip


def _hand_too_rare(plan: Plan) -> None:
    plan["site"]["evaporation"] = 0.05
    plan["top_ups"] = [
        {"kind": "hand", "id": "V1", "name": "Hose", "stands_in": "T1", "level": 0.6, "flow": 1e-4,
         "every": 90 * 86400.0}
    ]  # fmt: skip


def _screened(plan: Plan) -> None:
    plan["outlets"][1] |= {
        "rim_height": 0.29,
        "screen": {"kind": "screen", "mesh": 0.004, "open_share": 0.1},
    }


def _sleeved(plan: Plan) -> None:
    plan["outlets"][1]["sleeve"] = {
        "kind": "sleeve",
        "bore": {"kind": "inside", "diameter": 0.08},
        "hole_rows": [{"count": 4, "diameter": 0.01, "height": 0.02}],
    }


def _port(vessel: str, name: str, height: float) -> Callable[[Plan], None]:
    def change(plan: Plan) -> None:
        ports = _part(plan, "vessels", vessel)["ports"]
        next(p for p in ports if p["name"] == name)["height"] = height

    return change


def _can(**inside: Any) -> Callable[[Plan], None]:
    """The split flow, its can a radial-flow settler with something amiss."""
    usual = {
        "kind": "radial", "well_diameter": 0.2, "well_foot": 0.35, "well_height": 0.85,
        "inlet_height": 0.6, "drain_diameter": 0.05,
        "hole_rows": [{"count": 40, "diameter": 0.016, "height": 0.77}],
    }  # fmt: skip
    return _layout("split-flow", _set("vessels", "C1", settler=usual | inside))


def _pump_before_a_can(plan: Plan) -> None:
    """The demo's bed left without its stones, as a can that a pump in the tank feeds."""
    plan["vessels"][1] |= {"job": "settler", "media": None}


def _filter(run: str, kind: str, **values: Any) -> Callable[[Plan], None]:
    """A filter as it is usually built, with something of its own."""
    usual = model_named("filters", kind).usual(0.05)
    return _set("runs", run, filter={"kind": kind, **usual, **values})


def _transfer(**values: Any) -> Callable[[Plan], None]:
    return lambda plan: plan.setdefault("transfers", []).append({"name": "Sludge", **values})


def _drum(plan: Plan) -> None:
    shape = {"kind": "cylinder", "diameter": 0.57, "height": 0.88}
    drum = {"id": "M1", "name": "Drum", "job": "drum", "shape": shape, "floor_height": 0.0}
    plan["vessels"].append({**drum, "water_depth": 0.7, "ports": []})


def _worms_and_a_sock(plan: Plan) -> None:
    """What the school lets in, a fine sock holds back."""
    plan["brief"]["solids"] = "some_in"
    fine = {"cut": 1e-6, "holds_coarse": 0.99, "past_head": 0.0, "face": 4.0}
    _filter("R4", "matting", **fine)(plan)


def _fish(*changes: Callable[[Plan], None], **values: Any) -> Callable[[Plan], None]:
    """The small settler with so many fish of a quarter kilogram in its tank."""
    fish = {
        "kind": "cohort", "id": "K1", "name": "Fish", "stands_in": "T1", "species": "warm",
        "count": 20, "mean_mass": 0.25, "harvest_mass": 0.5,
    } | values  # fmt: skip
    alone = {"fish": [fish], "air": [], "air_pumps": []}
    return _layout("small-settler", lambda plan: plan.update(deepcopy(alone)), *changes)


def _summer(**site: Any) -> Callable[[Plan], None]:
    return lambda plan: plan["site"].update(site)


def _fry(plan: Plan) -> None:
    fry = {"id": "K9", "name": "Fry", "count": 100, "mean_mass": 0.0005, "harvest_mass": 0.5}
    plan["fish"].append({**plan["fish"][0], **fry})


def _airlift(deep: float) -> Plan:
    return {"kind": "airlift", "air": 0.0008, "pipe_diameter": 0.05, "submergence": deep}


_STONE = {"kind": "stone", "id": "A1", "name": "Stone", "stands_in": "T1", "flow": 2e-4}
_AIR_PUMP = {
    "kind": "air_pump", "id": "AP1", "name": "Air pump", "max_flow": 1e-3,
    "max_pressure": 20000.0, "power": 20.0,
}  # fmt: skip


def _ring_of_settlers(plan: Plan) -> None:
    """The sump a settler too, and its pump leads back to the first."""
    _part(plan, "vessels", "S1")["job"] = "settler"
    port = {"name": "second", "height": 0.86, "mouth": "flush"}
    _part(plan, "vessels", "C1")["ports"].append(port)
    _part(plan, "runs", "R2")["to"] = "C1.second"


_DAY = 86400.0


# Rule, the severity it must have, the place it must name, and what brings it out.
def _ground(
    ground: tuple[float, float] | None = None,
    marks: list[dict[str, Any]] | None = None,
    **spots: tuple[float, float],
) -> Callable[[Plan], None]:
    """The small settler laid out in a row, some of it elsewhere, on a site."""

    def lay(plan: Plan) -> None:
        row = {"T1": (1.3, 1.3), "C1": (2.94, 1.04), "S1": (4.63, 1.3), "B1": (6.48, 1.2)} | spots
        for vessel in plan["vessels"]:
            x, y = row[vessel["id"]]
            vessel["spot"] = {"x": x, "y": y}
        if ground is not None:
            plan["ground"] = {"length": ground[0], "width": ground[1], "marks": marks or []}

    return _layout("small-settler", lay)


def _led(run: str, height: float, x: float = 2.0, y: float = 3.0) -> Callable[[Plan], None]:
    """The small settler, one run of it led by a corner at a height."""

    def lead(plan: Plan) -> None:
        way = next(r for r in plan["runs"] if r["id"] == run)
        way["route"] = {"corners": [{"x": x, "y": y, "height": height}]}

    return _layout("small-settler", lead)


def _under_the_bed(plan: Plan) -> None:
    """The small settler, its pipe to the sump led along the edge of the bed, between its legs."""
    _ground(S1=(8.63, 1.3), B1=(5.5, 0.82))(plan)
    corners = [{"x": x, "y": 1.2, "height": 0.1} for x in (3.6, 7.8)]
    next(r for r in plan["runs"] if r["id"] == "R5")["route"] = {"corners": corners}


def _holes(**told: tuple[str, str, float]) -> Callable[[Plan], None]:
    """The small settler with holes of runs chosen: which end, side and place."""

    def choose(plan: Plan) -> None:
        for run in plan["runs"]:
            if run["id"] in told:
                end, side, across = told[run["id"]]
                run[f"{end}_hole"] = {"side": side, "across": across}

    return _layout("small-settler", choose)


CASES: list[tuple[str, str, str, Callable[[Plan], None]]] = [
    ("F0", "fault", "R1", _put("runs", 0, "valve", "angle", 90.0)),
    ("F0", "fault", "P1", _put("pumps", 0, "curve", "max_head", 0.5)),
    ("F0", "warning", "P1", _put("pumps", 0, "curve", "max_head", 1.02)),
    ("F1", "warning", "P1", _whole_system_and_slow),
    ("F2", "warning", "T1", _put("runs", 0, "valve", "angle", 60.0)),
    ("F3", "warning", "B1", _frugal_and_slow),
    ("F0", "fault", "R7", _layout("split-flow", _set("vessels", "G1", floor_height=1.35))),
    ("F4", "warning", "P1", _headroom_and_open),
    ("F5", "note", "G1", _layout("raft-line")),
    ("P1", "warning", "R1", _fast_riser),
    (
        "P2",
        "note",
        "R8",
        _layout(
            "split-flow", _set("runs", "R8", slope=0.001, bore={"kind": "inside", "diameter": 0.1})
        ),
    ),
    ("P3", "note", "R13", _layout("split-flow", _set("runs", "R7", valve=None))),
    (
        "P3",
        "warning",
        "R14",
        _layout("twin-sumps", _set("runs", "R14", bore={"kind": "inside", "diameter": 0.03})),
    ),
    ("P4", "fault", "O1", _layout("split-flow", _set("outlets", "O1", vented=False))),
    ("P6", "note", "R5", _layout("split-flow", _set("runs", "R5", valve=None))),
    ("U0", "fault", "B1", _bed_without_a_way_out),
    ("P5", "fault", "R1", _put("vessels", 1, "ports", 0, "height", 0.1)),
    ("E0", "warning", "P1", _put("pumps", 0, "power", 2.0)),
    ("E1", "note", "R1", _put("runs", 0, "valve", "angle", 55.0)),
    ("B1", "fault", "S1", _put("runs", 0, "valve", "angle", 70.0)),
    ("B1", "warning", "S1", _put("runs", 0, "valve", "angle", 63.0)),
    ("B2", "warning", "S1", _tight_bell),
    ("B3", "note", "S1", _put("siphons", 0, "rim_height", 0.295)),
    ("B4", "warning", "S1", _put("vessels", 1, "floor_height", 0.9)),
    ("B4", "fault", "S1", _put("vessels", 1, "floor_height", 0.3)),
    ("B5", "note", "S1", _put("siphons", 0, "guard_diameter", None)),
    ("B11", "warning", "S1", _put("pumps", 0, "switch", {"kind": "timer", "on": 60, "off": 36000})),
    (
        "F8",
        "fault",
        "P1",
        _layout("cascade-float-lift", lambda p: p["vessels"][3]["shape"].update(width=0.08)),
    ),
    ("U4", "note", "S1", _layout("constant-height-tank")),
    ("U5", "warning", "S1", _layout("split-flow", lambda p: p["site"].update(storm_depth=0.08))),
    ("U5", "note", "V1", _float_valve),
    ("B7", "warning", "S1", _put("vessels", 0, "ports", 0, "height", 0.58)),
    ("B7", "fault", "S1", _put("vessels", 0, "ports", 0, "height", 0.4)),
    ("B8", "warning", "S1", _put("siphons", 0, "slot_area", 0.0004)),
    (
        "B12",
        "warning",
        "S1",
        _put("siphons", 0, "air_tubes", [{"bore": 0.002, "mouth_height": 0.06}]),
    ),
    ("B13", "warning", "S1", _put("siphons", 0, "crown_gap", 0.004)),
    ("B14", "warning", "S1", _put("siphons", 0, "guard_opening", 0.02)),
    ("B14", "warning", "S1", _put("siphons", 0, "guard_area", 2e-4)),
    ("B15", "warning", "S1", lambda p: p["siphons"][0].update(hold="light", crown_gap=0.008)),
    ("O1", "warning", "O2", _layout("split-flow", _screened)),
    ("O2", "warning", "O2", _layout("split-flow", _sleeved)),
    (
        "P10",
        "note",
        "R1",
        _put("runs", 0, "ends_in", {"kind": "spray", "holes": 60, "diameter": 0.006}),
    ),
    ("U1", "fault", "P1", _put("pumps", 0, "inlet_height", 0.6)),
    ("U1", "warning", "P1", _high_water_low_tank),
    ("U2", "warning", "T1", _put("vessels", 0, "water_depth", 0.73)),
    (
        "U10",
        "warning",
        "R16",
        _layout("twin-sumps", _set("runs", "R16", bore={"kind": "inside", "diameter": 0.03})),
    ),
    ("U6", "warning", "B1", _rim_near_the_top),
    ("S1", "warning", "T1", _put("brief", "fish_mass", 40.0)),
    ("W1", "note", "B1", lambda _: None),
    ("scope", "warning", "P1", _put("runs", [])),
    ("F6", "fault", "B1", _layout("split-flow", _set("runs", "R5", valve=_SHUT))),
    (
        "F6",
        "fault",
        "B1",
        _layout("cascade-float-lift", _set("runs", "R1", to="B2.inlet")),
    ),
    ("F7", "warning", "R5", _layout("split-flow", _set("runs", "R5", wanted_flow=5e-4))),
    ("F7", "note", "R5", _layout("split-flow", _set("runs", "R5", wanted_flow=5e-5))),
    (
        "F8",
        "fault",
        "P1",
        _put("pumps", 0, "switch", {"kind": "float", "on_height": 0.74, "off_height": 0.3}),
    ),
    (
        "F8",
        "fault",
        "P1",
        _put("pumps", 0, "switch", {"kind": "float", "on_height": 0.8, "off_height": 0.3}),
    ),
    ("E4", "warning", "P1", _much_too_strong),
    ("E5", "note", "P1", _put("pumps", 0, "dial", 0.8)),
    ("E6", "note", "P1", _put("pumps", 0, "hangs", True)),
    ("F6", "note", "G1", _layout("split-flow", _set("runs", "R7", valve_clock=_RARELY))),
    ("P9", "warning", "R2", _layout("constant-flood", _set("vessels", "B1", floor_height=0.5))),
    ("B1", "fault", "S1", _low_hole),
    ("B10", "warning", "O3", _layout("two-pump-timed", _rests_for(900.0))),
    ("U12", "note", "T1", _layout("split-flow", _set("vessels", "T1", water_depth=0.95))),
    (
        "U12",
        "fault",
        "S1",
        _layout(
            "split-flow",
            _set("vessels", "T1", water_depth=0.95),
            _set("vessels", "S1", water_depth=0.6),
        ),
    ),
    ("U13", "fault", "C1", _slotted_tank),
    (
        "F9",
        "warning",
        "P1",
        _put("pumps", 0, "switch", {"kind": "timer", "on": 60.0, "off": 50_000.0}),
    ),
    ("U17", "warning", "V1", _hand_too_rare),
    ("U18", "warning", "C9", _bucket_in_the_tank),
    (
        "W2",
        "warning",
        "C1",
        _layout(
            "split-flow",
            _set(
                "vessels",
                "C1",
                false_cone={"kind": "cone", "cone_height": 0.3, "flooded": False},
            ),
        ),
    ),
    (
        "W3",
        "warning",
        "T1",
        _put("vessels", 0, "shape", {"kind": "tote", "height": 0.9, "has_bars": False}),
    ),
    (
        "O3",
        "warning",
        "C1",
        _layout(
            "split-flow",
            _set("vessels", "C1", baffles={"kind": "plates", "gap": 0.01, "width": 0.4}),
        ),
    ),
    ("L1", "warning", "T1", _put("vessels", 0, "own", {"most_turnover": 1e-5})),
    ("D1", "note", "C1", _can()),
    ("D1", "warning", "C1", _layout("split-flow", _set("vessels", "C1", shape=_NARROW))),
    ("D2", "warning", "C1", _can(well_diameter=0.45)),
    (
        "D3",
        "warning",
        "O1",
        _layout("split-flow", _set("outlets", "O1", bore={"kind": "inside", "diameter": 0.3})),
    ),
    ("D4", "fault", "C1", _can(hole_rows=[], slit_length=0.3, slit_gap=0.005)),
    ("D4", "note", "C1", _can()),
    ("D5", "warning", "C1", _layout("split-flow", _set("vessels", "C1", floor_height=0.48))),
    ("D6", "note", "C1", _layout("split-flow", _port("C1", "outlet", 0.86))),
    ("D7", "note", "P1", _pump_before_a_can),
    ("D8", "warning", "C1", _can(drain_diameter=0.0)),
    ("D9", "warning", "T1", _put("vessels", 1, "media", None)),
    ("D9", "note", "T1", _layout("practice/rain-barn")),
    ("D10", "note", "R1", _layout("faults/trickling-siphon")),
    (
        "D11",
        "warning",
        "R4",
        _layout("practice/swirl-court", _filter("R4", "matting", clean_every=30.0 * _DAY)),
    ),
    ("D11", "note", "R4", _layout("practice/swirl-court", _filter("R4", "sock"))),
    ("D12", "warning", "R4", _layout("practice/swirl-court", _filter("R4", "brush"))),
    (
        "D13",
        "note",
        "R4",
        _layout("small-settler", lambda plan: plan["brief"].update(smallest_fish=0.06)),
    ),
    (
        "D13",
        "warning",
        "R4",
        _layout(
            "small-settler",
            lambda plan: plan["brief"].update(smallest_fish=0.03),
            _filter("R4", "screen"),
        ),
    ),
    ("G1", "warning", "T1", _ground(C1=(1.5, 1.3))),
    ("G2", "warning", "B1", _ground(B1=(8.5, 1.2), ground=(9.0, 6.0))),
    (
        "G3",
        "warning",
        "C1",
        _ground(
            ground=(9.0, 6.0),
            marks=[{"id": "M1", "kind": "door", "x": 2.9, "y": 1.0, "length": 1.0, "width": 0.3}],
        ),
    ),
    ("G4", "note", "T1", _ground(C1=(2.44, 1.04))),
    ("G5", "note", "B1", _ground(B1=(8.35, 0.65), ground=(9.0, 1.4))),
    ("G6", "note", "R6", _ground(B1=(1.5, 4.0), S1=(7.0, 1.3), C1=(4.2, 4.0))),
    ("G6", "note", "R5", _under_the_bed),
    ("G7", "warning", "R6", _ground(B1=(12.0, 1.2))),
    ("G9", "warning", "R4", _led("R4", 1.5)),
    ("G10", "note", "R2", _led("R2", -0.3)),
    ("G6", "note", "R5", _led("R5", 0.4, 1.3, 1.3)),  # through the tank
    ("G12", "note", "R2", _layout("fish-and-leaves")),  # 57 mm wide at 930 mm of 950 mm
    ("G11", "warning", "B1", lambda plan: plan.update(ground={"length": 6.0, "width": 0.5})),
    ("G8", "warning", "S1", _holes(R5=("end", "left", 0.02))),
    ("G8", "warning", "S1", _holes(R5=("end", "near", 0.5), R6=("end", "near", 0.52))),
    ("D20", "warning", "C1", _can(inlet_height=0.84)),
    (
        "D20",
        "warning",
        "C1",
        _can(hole_rows=[{"count": 40, "diameter": 0.016, "height": 0.83}]),
    ),
    ("D21", "note", "B1", lambda plan: plan["brief"].update(solids="out")),
    (
        "D21",
        "note",
        "G1",
        _layout("practice/swirl-court", _worms_and_a_sock),
    ),
    (
        "D22",
        "warning",
        "R5",
        _fish(_set("vessels", "C1", carriers={"kind": "moving", "volume": 0.02})),
    ),
    ("N1", "fault", "T1", _fish(count=200)),
    ("N1", "warning", "T1", _fish(lambda plan: plan["site"].update(alkalinity=400.0), count=23)),
    ("N2", "warning", "T1", _fish(count=28, species="cold")),
    ("N3", "fault", "T1", _fish(count=120)),
    ("N4", "warning", "T1", _fish(species="cold")),
    ("N5", "note", "T1", _fish(lambda plan: plan["site"].update(alkalinity=200.0))),
    ("N5", "warning", "T1", _fish(lambda plan: plan["site"].update(alkalinity=50.0))),
    ("N6", "note", "B1", _fish(_set("vessels", "B1", crop={"kind": "leafy"}), count=60)),
    ("N7", "note", "T1", _fish()),
    ("N8", "note", "T1", _fish()),
    ("N10", "note", "T1", _fish(count=14)),
    ("N11", "note", "T1", _fish(lambda plan: plan["brief"].update(feed_a_day=1.0))),
    ("N11", "note", "T1", _fish(lambda plan: plan["brief"].update(fish_mass=90.0))),
    ("N11", "warning", "K1", _fish(eats=0.15)),
    (
        "N11",
        "warning",
        "T1",
        lambda plan: plan["brief"].update(feed_a_day=0.5, fish_mass=3.0),
    ),
    ("N12", "warning", "K1", _fish(_summer(hot_air=45.0, sun="strong"))),
    ("N13", "note", "B1", _layout("small-settler", _summer(hot_air=42.0))),
    ("N14", "note", "B1", _layout("small-settler", _summer(sun="indoors"))),
    ("N15", "note", "K9", _fish(_fry)),
    ("N20", "warning", "T1", _summer(evaporation_from="climate")),
    (
        "N19",
        "note",
        "F1",
        _layout("fish-and-leaves", lambda plan: plan.update(air=[], air_pumps=[])),
    ),
    ("N18", "warning", "T1", _fish(lambda plan: plan["brief"].update(stocked_after=3.0 * _DAY))),
    ("N16", "warning", "P1", _put("pumps", 0, "curve", _airlift(0.3))),
    ("N17", "fault", "P1", _put("pumps", 0, "curve", _airlift(3.0))),
    (
        "N9",
        "fault",
        "A1",
        _fish(
            lambda plan: plan.update(
                air=[_STONE | {"fed_by": "AP1"}],
                air_pumps=[_AIR_PUMP | {"max_pressure": 5000.0}],
            )
        ),
    ),
    (
        "N9",
        "warning",
        "A1",
        _fish(
            lambda plan: plan.update(
                air=[
                    _STONE | {"fed_by": "AP1"},
                    _STONE | {"id": "A2", "fed_by": "AP1", "height": 0.7, "bubbles": "coarse"},
                ],
                air_pumps=[_AIR_PUMP | {"max_flow": 2e-4}],
            )
        ),
    ),
    ("D14", "note", "R1", _layout("practice/coopers-yard")),
    ("D15", "warning", "B1", lambda plan: plan["brief"].update(feed_a_day=0.3)),
    (
        "D16",
        "warning",
        "G1",
        _layout(
            "two-pump-timed",
            lambda plan: plan.update(fish=[]),
            lambda plan: plan["brief"].update(feed_a_day=0.3),
        ),
    ),
    ("D17", "warning", "S1", _layout("small-settler", _ring_of_settlers)),
    (
        "D18",
        "warning",
        "Q1",
        _layout(
            "small-settler",
            _transfer(kind="purge", id="Q1", source="C1", volume=0.02, every=80.0 * _DAY),
        ),
    ),
    (
        "D19",
        "note",
        "Q1",
        _layout("small-settler", _drum, _transfer(kind="mineraliser", id="Q1", stands_in="M1")),
    ),
    ("U14", "fault", "W1", _more_in_than_out),
    ("U16", "warning", "T1", _put("vessels", 1, "shape", "length", 5.0)),
    (
        "U16",
        "warning",
        "N1",
        _layout(
            "side-tanks",
            lambda p: p.update(
                transfers=[
                    {"id": "Z1", "name": "Z1", "source": "N1", "volume": 0.4, "flow": 0.002},
                    {"id": "Z2", "name": "Z2", "target": "S1", "volume": 0.4, "flow": 0.002},
                ]
            ),
        ),
    ),
]


# What only following the plan through time brings out.
LATE_CASES: list[tuple[str, str, str, Callable[[Plan], None]]] = [
    ("U3", "fault", "P1", _layout("faults/dry-start")),
    ("B6", "fault", "C1", _narrow_drain_under_a_siphon),
    ("B9", "warning", "X1", _layout("faults/dry-start")),
    (
        "B9",
        "note",
        "X1",
        _layout(
            "linked-beds",
            _set("siphons", "X1", air_tubes=[]),
            _set("pumps", "P1", dial=0.8),
        ),
    ),
    ("U7", "fault", "T1", _flushing_bed_over_a_full_tank),
    ("U7", "fault", "T1", _layout("split-flow", _low_return)),
    ("U8", "fault", "P1", _layout("faults/dry-start")),
    ("U9", "warning", "P1", lambda _: None),
    (
        "U11",
        "warning",
        "T1",
        _layout("cascade-float-lift", _set("vessels", "S1", water_depth=0.62)),
    ),
    ("U15", "fault", "T1", _more_in_than_out),
]


@pytest.mark.parametrize(
    ("rule", "severity", "place", "change"),
    LATE_CASES,
    ids=[f"{c[0]} {c[1]} {c[2]}" for c in LATE_CASES],
)
def test_a_rule_of_a_resilience_run_speaks_of_its_place(
    document: Plan, rule: str, severity: str, place: str, change: Callable[[Plan], None]
) -> None:
    """The same of what a plan does through time."""
    change(document)
    plan = plan_from_data(document)
    names = plan.names
    dynamic = assess_dynamic(assess(plan), with_failures=rule == "U9")
    found = [f for f in dynamic.findings if f.rule.id == rule]
    assert (severity, place) in [(f.severity, f.place) for f in found]
    for units in SYSTEMS:
        words = found[0].sentence + found[0].hint
        assert "{" not in fill_sentence(words, found[0].figures, units, names)


@pytest.mark.parametrize(
    ("rule", "severity", "place", "change"), CASES, ids=[f"{c[0]} {c[1]} {c[2]}" for c in CASES]
)
def test_a_rule_speaks_of_its_place(
    document: Plan, rule: str, severity: str, place: str, change: Callable[[Plan], None]
) -> None:
    """With its severity, and in whole sentences in both systems of units."""
    change(document)
    plan = plan_from_data(document)
    names = plan.names
    found = [f for f in assess(plan).findings if f.rule.id == rule]
    assert (severity, place) in [(f.severity, f.place) for f in found]
    for units in SYSTEMS:
        for words in (found[0].sentence, found[0].hint):
            filled = fill_sentence(words, found[0].figures, units, names)
            assert "{" not in filled
            assert "–" not in filled
            assert not filled or filled.endswith(".")


def test_every_rule_is_brought_out_by_some_case() -> None:
    """A rule without a case is a rule nobody has seen work."""
    assert {case[0] for case in (*CASES, *LATE_CASES)} == set(RULES)


def test_the_demo_breaks_none(document: Plan) -> None:
    """But is told its weight."""
    assert [f.rule.id for f in assess(plan_from_data(document)).findings] == ["W1"]


def test_faults_come_first(document: Plan) -> None:
    """Then warnings, then notes."""
    document["vessels"][0]["water_depth"] = 0.74
    document["runs"][0]["valve"]["angle"] = 70.0
    grades = [f.severity for f in assess(plan_from_data(document)).findings]
    assert grades == sorted(grades, key=["fault", "warning", "note"].index)
    assert grades[0] == "fault"


def test_another_schools_rule_is_told_and_not_held_against_the_plan(document: Plan) -> None:
    """Slow water is a warning to the tank school and a note to others."""
    document["runs"][0]["valve"]["angle"] = 55.0
    grades = {}
    for school in ("tank", "frugal"):
        document["brief"]["schools"] = [school]
        found = assess(plan_from_data(document)).findings
        grades[school] = {f.rule.id: f.severity for f in found}
    assert grades["tank"]["F2"] == "warning"
    assert grades["frugal"]["F2"] == "note"


@pytest.mark.parametrize("angle", [0.0, 64.0, 66.0])
def test_the_valve_setting_told_puts_the_siphon_in_its_window(document: Plan, angle: float) -> None:
    """From too much water and from too little: turned as told, the flow told arrives, within
    what the tank's swing moves it, and the rule is silent."""
    document["runs"][0]["valve"]["angle"] = angle
    if angle == 0.0:
        document["pumps"][0]["curve"] = {"kind": "label", "max_flow": 0.001, "max_head": 3.2}
    told = next(f for f in assess(plan_from_data(document)).findings if f.rule.id == "B1")
    document["runs"][0]["valve"]["angle"] = told.figures["angle"]
    fixed = assess(plan_from_data(document))
    inflow = fixed.evaluation.beds[0].cycle.start_inflow
    assert inflow == pytest.approx(told.figures["target"], rel=0.005)
    assert all(f.rule.id != "B1" for f in fixed.findings)


def test_a_pump_too_weak_for_the_siphon_is_told_so(document: Plan) -> None:
    """No valve setting helps it."""
    document["pumps"][0]["curve"] |= {"max_flow": 0.0001, "max_head": 1.3}
    told = next(f for f in assess(plan_from_data(document)).findings if f.rule.id == "B1")
    assert "Even an open valve" in told.hint


def test_hints_mend_what_they_speak_of(document: Plan) -> None:
    """Doing what the hint says, to the figure it names, silences the rule."""
    document["vessels"][0]["water_depth"] = 0.73
    over = next(f for f in assess(plan_from_data(document)).findings if f.rule.id == "U2")
    document["vessels"][0]["water_depth"] -= over.figures["less"]
    assert all(f.rule.id != "U2" for f in assess(plan_from_data(document)).findings)

    document["siphons"][0]["rim_height"] = 0.33
    high = next(f for f in assess(plan_from_data(document)).findings if f.rule.id == "U6")
    document["siphons"][0]["rim_height"] -= high.figures["less"] + 1e-9
    assert all(f.rule.id != "U6" for f in assess(plan_from_data(document)).findings)

    document["pumps"][0]["inlet_height"] = 0.57
    bare = next(f for f in assess(plan_from_data(document)).findings if f.rule.id == "U1")
    document["vessels"][0]["water_depth"] += bare.figures["more"] + 1e-9
    assert all(f.rule.id != "U1" for f in assess(plan_from_data(document)).findings)


def _messages(path: Path) -> list[str]:
    """What the findings of a module are called, in the order of its text."""
    calls = [n for n in ast.walk(ast.parse(path.read_text())) if isinstance(n, ast.Call)]
    made = [c for c in calls if isinstance(c.func, ast.Name) and c.func.id == "Finding"]
    return [c.args[1].value for c in made if isinstance(c.args[1], ast.Constant)]  # type: ignore[misc]


def test_each_thing_that_is_said_has_a_name_of_its_own() -> None:
    """A name that outlives its words; two places of the code that say the same share a rule."""
    engine = Path(bathys.__file__).parent
    modules = [*(engine / "rules").glob("*.py"), *(engine / "components").glob("*/rules.py")]
    every = [_messages(path) for path in modules]
    assert sum(map(len, every)) > 70
    for found in every:
        assert len(set(found)) == len(found)
        assert all(re.fullmatch(r"[a-z]+(_[a-z]+)*", name) for name in found)
        assert not {"fault", "warning", "note"} & set(found)


def test_a_finding_is_named_by_its_rule_and_what_it_says(document: Plan) -> None:
    document["runs"][0]["valve"]["angle"] = 90.0
    ids = {f.id for f in assess(plan_from_data(document)).findings}
    assert "F0.valve_shut" in ids


@pytest.mark.parametrize(("sump", "beds"), [(0.6, 0.6), (0.62, 0.65)])
def test_a_sump_too_small_to_be_filled_high_enough_is_made_larger(sump: float, beds: float) -> None:
    """By what its beds ever take out of it, and no more than a third beyond that: the pump is then
    covered, with the finding gone."""
    plan = load_plan((EXAMPLE.parent / "constant-height-tank.json").read_bytes())
    for vessel, volume in (("S1", sump), ("B1", beds), ("B2", beds)):
        plan = set_volume(plan, vessel, volume, "length").plan
    found = assess(plan)
    finding = next(f for f in found.findings if f.rule.id == "U1")
    assert "make it larger" in finding.hint
    offer = finding.list_offers()[0]
    assert "larger" in offer.label
    after = apply_edits(plan, offer.edits)
    left = assess(after)
    assert not [f for f in left.findings if f.rule.id == "U1"]
    sump_now = left.evaluation.vessels["S1"]
    cover = sump_now.levels.low - sump_now.vessel.floor_height - plan.pumps[0].inlet_height
    assert 0.05 <= cover < 0.2
    assert after.vessel("S1").shape.capacity < 1.6 * plan.vessel("S1").shape.capacity
