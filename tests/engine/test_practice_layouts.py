"""Layouts of what practice builds: each sound, each with something the plan once could not say."""

import json
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest

from bathys.pipeline import assess, assess_dynamic
from bathys.plan import Plan, dump_plan, load_plan, plan_from_data
from bathys.plan.vessel import Vessel
from bathys.simulation import simulate

LAYOUTS = sorted((Path(__file__).resolve().parents[2] / "examples" / "practice").glob("*.json"))


def _shell(kind: str) -> Callable[[Plan], bool]:
    return lambda plan: any(v.shape.kind == kind for v in plan.vessels)


def _end(kind: str) -> Callable[[Plan], bool]:
    return lambda plan: any(r.ends_in is not None and r.ends_in.kind == kind for r in plan.runs)


def _part(kind: str) -> Callable[[Plan], bool]:
    return lambda plan: any(
        p.kind == kind for p in (*plan.ways_out, *plan.top_ups, *plan.transfers)
    )


def _vessel(has: Callable[[Vessel], Any]) -> Callable[[Plan], bool]:
    return lambda plan: any(has(v) for v in plan.vessels)


def _of(lists: str, has: Callable[[Any], Any]) -> Callable[[Plan], bool]:
    return lambda plan: any(has(p) for p in getattr(plan, lists))


def _field(name: str) -> Callable[[Any], Any]:
    return lambda part: getattr(part, name, None)


def _spells(has: Callable[[Any], Any]) -> Callable[[Plan], bool]:
    return lambda plan: any(
        s is not None and s.kind == "spells" and has(s)
        for s in (*(p.switch for p in plan.pumps), *(r.valve_clock for r in plan.runs))
    )


def _shared_line(plan: Plan) -> bool:
    ends = {plan.run_of(p).end: p.stands_in for p in plan.pumps if plan.run_of(p)}  # type: ignore[union-attr]
    return len(plan.pumps) > len(ends) and len({p.stands_in for p in plan.pumps}) > 1


NEW: dict[str, Callable[[Plan], bool]] = {
    "last elbow by its angle": _of("siphons", _field("end_elbow")),
    "several air tubes": _of("siphons", lambda s: len(getattr(s, "air_tubes", ())) > 1),
    "cup": _of("siphons", _field("cup_depth")),
    "drilled bell": _of("siphons", _field("hole_rows")),
    "guard's openings": _of("siphons", _field("guard_opening")),
    "loose bell": _of("siphons", lambda s: getattr(s, "hold", "fixed") != "fixed"),
    "loop in a range": _of("siphons", _field("lowest_crest")),
    "sleeve": _of("outlets", _field("sleeve")),
    "screen": _of("outlets", _field("screen")),
    "ring": _of("outlets", _field("ring_height")),
    "removable standpipe": _of("outlets", _field("removable")),
    **{
        f"shell: {k}": _shell(k)
        for k in ("tapered", "tub", "half_drum", "trough", "glass", "lined")
    },
    "tray from a tote": _vessel(lambda v: getattr(v.shape, "cut", "") == "upside_down"),
    "vessel within another": _vessel(_field("within")),
    "baffles": _vessel(_field("baffles")),
    "cone set in": _vessel(_field("false_cone")),
    "lid": _vessel(lambda v: v.covered >= 0.5),
    "dip tube": _part("dip_tube"),
    "weir": _part("weir"),
    **{f"end: {k}": _end(k) for k in ("spray", "ring", "fan", "turned_up", "splash", "diffuser")},
    "piece with a place": _of("runs", lambda r: any(f.at is not None for f in r.fittings)),
    "clean-out": _of("runs", lambda r: any(f.kind == "clean_out" for f in r.fittings)),
    "valve with a place": _of("runs", lambda r: r.valve_at is not None),
    "dial that slows": _of("pumps", lambda p: p.dial_turns == "speed"),
    "dial on the intake": _of("pumps", lambda p: p.dial_turns == "intake"),
    "float built in": _of("pumps", lambda p: p.switch is not None and p.switch.kind == "built_in"),
    "hung pump": _of("pumps", _field("hangs")),
    "foam": _of("runs", lambda r: r.filter is not None and r.filter.kind == "foam"),
    "two pumps, one line": _shared_line,
    "valve by the clock": _of("runs", _field("valve_clock")),
    "on chosen days": _spells(_field("days")),
    "several spells": _spells(lambda s: len(s.spells) > 1),
    "turns within a spell": _spells(_field("within_on")),
    "quarter hours": _spells(lambda s: s.grid == "quarter"),
    "other times in winter": _spells(_field("winter_spells")),
    "rain drum": _vessel(_field("catch_area")),
    "top-up from a drum": _of("top_ups", _field("draws_from")),
    "top-up by pressure": _of("top_ups", _field("seat")),
    "top-up by hand": _part("hand"),
    "exchange": _part("exchange"),
    "purge": _part("purge"),
    "mineralising drum": _part("mineraliser"),
    "brushes": _of("runs", lambda r: r.filter is not None and r.filter.kind == "brush"),
    "overflow to the ground": _of("junctions", lambda j: j.kind == "outfall"),
    "own limits": lambda plan: any(
        value is not None
        for part in (*plan.vessels, *plan.runs, *plan.pumps)
        for value in part.own.model_dump().values()
    ),
    "own note": lambda plan: any(p.note for _, parts in plan.lists() for p in parts),
    "ways chosen": lambda plan: plan.brief.tail_joints != "open" or plan.brief.draining != "open",
}


def _says(plan: Plan) -> set[str]:
    return {name for name, has in NEW.items() if has(plan)}


def test_between_them_they_say_all_of_it() -> None:
    """Twelve layouts, each with three things at least that a plan of version 2 had no words for."""
    plans = [load_plan(p.read_bytes()) for p in LAYOUTS]
    assert len(plans) == 12
    said = [_says(p) for p in plans]
    assert all(len(s) >= 3 for s in said)
    assert set.union(*said) == set(NEW)


@pytest.mark.parametrize("path", LAYOUTS, ids=lambda p: p.stem)
def test_a_layout_of_practice_is_sound_and_keeps_its_water(path: Path) -> None:
    """No fault, steady or over time; a day of it loses no water (mass); what is written of it is
    what was read."""
    plan = load_plan(path.read_bytes())
    assert dump_plan(plan) == path.read_text()
    assert plan_from_data(json.loads(dump_plan(plan))) == plan
    found = assess_dynamic(assess(plan), with_failures=False)
    told = [*found.assessment.findings, *found.findings]
    assert [f.id for f in told if f.severity == "fault"] == []
    day = simulate(plan, 24.0, every=60.0)
    assert day.lost < 1e-9
    assert not day.spills
