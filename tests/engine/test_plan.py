"""Plan files: what is taken, what is refused and in which words."""

import json
import math
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from bathys.edits import (
    Edit,
    EditRefused,
    apply_edits,
    set_fitting_count,
    set_value,
    switch_kind,
)
from bathys.pipeline import assess
from bathys.plan import (
    GROUPS,
    BadPlan,
    differences,
    document_hash,
    dump_plan,
    load_plan,
    physics_hash,
    plan_from_data,
    schema,
    to_file,
)
from bathys.plan.base import typed_for
from tests.conftest import EXAMPLE
from tests.plan_files import lists_of


def test_round_trip(demo_plan: Any) -> None:
    """What is written is read back as the same plan."""
    assert load_plan(dump_plan(demo_plan)) == demo_plan


def test_the_schema_describes_the_files_that_are_written(demo_plan: Any) -> None:
    """Every part of the examples is a kind that the published schema has, with fields it names."""
    published = schema()
    assert "parts" in published["required"]
    assert {"from", "to", "kind"} <= set(published["$defs"]["Run"]["properties"])
    fields = {
        kind: set(model["properties"])
        for model in published["$defs"].values()
        if "kind" in model.get("properties", {})
        for kind in _kinds(model["properties"]["kind"])
    }
    for part in to_file(demo_plan)["parts"]:
        assert set(part) <= fields[part["kind"]], part["kind"]
    assert set(published["properties"]) >= set(to_file(demo_plan))


def _kinds(field: dict[str, Any]) -> list[str]:
    return field.get("enum", [field["const"]] if "const" in field else [])


_OLDER = [
    path
    for folder in ("plans", "plans_of_version_2", "plans_of_version_3")
    for path in sorted((Path(__file__).parent / folder).glob("*.json"))
]


_LINKED = Path(__file__).parent / "plans_of_version_2/linked-beds.json"


@pytest.mark.parametrize("path", _OLDER, ids=lambda p: p.stem)
def test_a_file_of_an_older_version_is_the_same_plan(path: Path) -> None:
    """The kept plans are of the first version, in eight lists, of the second and of the third.
    Read, written and read, they stay what they are, and what is written has one list."""
    old = json.loads(path.read_text())
    assert old["version"] == (int(path.parent.name[-1]) if "parts" in old else 1)
    plan = load_plan(path.read_bytes())
    written = json.loads(dump_plan(plan))
    assert written["version"] == 4
    assert not set(GROUPS) & set(written)
    parts = old.get("parts") or [p for g in GROUPS for p in old.get(g, [])]
    assert {p["id"] for p in written["parts"]} == {p["id"] for p in parts}
    assert plan_from_data(written) == plan


def test_what_version_3_says_otherwise_is_upgraded() -> None:
    """A trap is a last elbow turned straight up, and one air tube is one of several."""
    data = json.loads(_LINKED.read_text())
    bell = next(p for p in data["parts"] if p.get("air_tube_height"))
    siphon = plan_from_data(
        {**data, "parts": [{**p, "trap": True} if p is bell else p for p in data["parts"]]}
    ).part(bell["id"])
    assert siphon.end_elbow == 90.0
    assert [t.mouth_height for t in siphon.air_tubes] == [bell["air_tube_height"]]
    assert siphon.has_air_tube
    assert load_plan(_LINKED.read_bytes()).part(bell["id"]).end_elbow is None


def test_foam_about_a_pump_becomes_a_filter_of_its_run() -> None:
    """Up to version 3 it was a word of the pump's."""
    old = json.loads((Path(__file__).parent / "plans_of_version_3/tote-row.json").read_text())
    foam = next(p for p in old["parts"] if p.get("foam", "none") != "none")
    plan = plan_from_data(old)
    run = plan.run_of(plan.part(foam["id"]))
    assert run.filter.kind == "foam"
    assert run.filter.fibre == {"coarse": 2e-4, "fine": 8e-5}[foam["foam"]]
    bare = plan_from_data(
        {**old, "parts": [{**p, "foam": "none"} if p is foam else p for p in old["parts"]]}
    )
    assert all(r.filter is None for r in bare.runs)


def test_what_was_typed_stands_beside_its_value_until_that_changes(demo_plan: Any) -> None:
    """It is kept in the file, goes with any other change of its field, and no other."""
    typed = set_value(demo_plan, "vessels.B1.floor_height", 1.1684, "46 in").plan
    assert typed_for(typed.vessel("B1").typed, "floor_height") == "46 in"
    part = next(p for p in to_file(typed)["parts"] if p["id"] == "B1")
    assert part["typed"] == {"floor_height": "46 in"}
    assert load_plan(dump_plan(typed)) == typed
    beside = set_value(typed, "vessels.B1.freeboard", 0.04).plan
    assert typed_for(beside.vessel("B1").typed, "floor_height") == "46 in"
    raised = apply_edits(typed, [Edit("vessels.B1.floor_height", 1.2)])
    assert raised.vessel("B1").typed == ()
    wide = set_value(demo_plan, "vessels.B1.shape.length", 0.9144, "3 ft").plan
    other = switch_kind(wide, "vessels.B1.shape", "cylinder").plan
    assert typed_for(wide.vessel("B1").typed, "shape.length") == "3 ft"
    assert other.vessel("B1").typed == ()
    assert not differences(typed, set_value(demo_plan, "vessels.B1.floor_height", 1.1684).plan)


def test_words_have_no_part_in_what_figures_come_of() -> None:
    """Plans that differ in names, notes, typed texts and places from the left are one to the
    engine: the same name, the same figures, the same findings. Any other number is another."""
    plan = load_plan((EXAMPLE.parent / "twin-sumps.json").read_bytes())
    data = to_file(plan)
    data |= {"name": "Another name", "datum": "elsewhere"}
    data["site"] = {**data["site"], "currency": "£"}
    for number, part in enumerate(data["parts"]):
        part |= {"name": f"Part {number}", "note": "bought second-hand", "typed": {"x": "9 in"}}
        if part["kind"] == "vessel":
            part["along"] = 2.5 * number
    other = plan_from_data(data)
    assert document_hash(other) != document_hash(plan)
    assert physics_hash(other) == physics_hash(plan)
    one, two = assess(plan), assess(other)
    assert [(f.rule.id, f.place, f.figures) for f in one.findings] == [
        (f.rule.id, f.place, f.figures) for f in two.findings
    ]
    assert [(f.key, f.value) for f in one.headlines] == [(f.key, f.value) for f in two.headlines]
    document = lists_of(EXAMPLE.parent / "twin-sumps.json")
    for where in _number_places(document):
        if where.endswith(("along", "stage")):  # when it is built, and where it is drawn
            continue
        moved = lists_of(EXAMPLE.parent / "twin-sumps.json")
        here: Any = moved
        *way, last = where.split("/")
        for step in way:
            here = here[int(step) if isinstance(here, list) else step]
        here[last] = 1.01 * here[last] + 1e-3 if isinstance(here[last], float) else here[last] + 1
        try:
            assert physics_hash(plan_from_data(moved)) != physics_hash(plan), where
        except BadPlan:
            continue


BAD_PARTS = [
    ({"id": "B9"}, "parts.9.kind", "kind must be one of"),
    ({"kind": "dragon", "id": "B9"}, "parts.9.kind", "kind must be one of"),
    ({"kind": ["vessel"], "id": "B9"}, "parts.9.kind", "kind must be one of"),
    ({"kind": "vessel"}, "parts.9.id", "must have an id"),
    ("a pump", "parts.9", "fields of its own"),
]


@pytest.mark.parametrize(("part", "path", "words"), BAD_PARTS)
def test_a_part_that_cannot_be_told_is_named(
    demo_plan: Any, part: Any, path: str, words: str
) -> None:
    data = to_file(demo_plan)
    data["parts"] = [*data["parts"][:9], *[data["parts"][0]] * (9 - len(data["parts"])), part]
    with pytest.raises(BadPlan) as caught:
        plan_from_data(data)
    assert caught.value.faults[0].path == path
    assert words in caught.value.faults[0].sentence
    for wrong in ({"parts": 3}, {"vessels": [], "parts": []}, {"version": 4, "parts": []}):
        with pytest.raises(BadPlan):
            plan_from_data({**to_file(demo_plan), **wrong})


def _spoil(plan: dict[str, Any], path: str, value: Any) -> None:
    *way, last = path.split("/")
    here: Any = plan
    for step in way:
        here = here[int(step) if isinstance(here, list) else step]
    here[int(last) if isinstance(here, list) else last] = value


BAD = [
    ("vessels/0/shape/length", 0.0, "vessels.T1.shape.length", "at least 0.01"),
    ("vessels/0/shape/length", "1.2", "vessels.T1.shape.length", "must be a number"),
    ("vessels/1/id", "T1", "vessels.T1.id", "another part"),
    ("vessels/1/media/top", 0.5, "vessels.B1.media.top", "higher than the vessel’s rim"),
    ("runs/0/to", "B9.inlet", "runs.R1.to", "no vessel port"),
    (
        "ground",
        {"length": 5.0, "width": 5.0, "outline": [{"x": 0.0, "y": 0.0}, {"x": 1.0, "y": 0.0}]},
        "ground.outline",
        "three or more corners",
    ),
    (
        "ground",
        {
            "length": 5.0,
            "width": 5.0,
            "outline": [
                {"x": x, "y": y} for x, y in ((0.0, 0.0), (4.0, 4.0), (4.0, 0.0), (0.0, 4.0))
            ],
        },
        "ground.outline",
        "not cross itself",
    ),
    ("brief/smallest_fish", 0.0003, "brief.smallest_fish", "shorter than 3 mm"),
    ("runs/0/level_length", -1.0, "runs.R1.level_length", "at least 0"),
    ("runs/0/bore/nominal", "7 in", "runs.R1.bore", "no size"),
    ("pumps/0/stands_in", "X", "pumps.P1.stands_in", "no vessel called X"),
    ("pumps/0/power", 1e99, "pumps.P1.power", "at most"),
    ("siphons/0/slot_height", 0.3, "siphons.S1", "below the standpipe"),
    ("siphons/0/rim_height", 0.4, "siphons.S1.rim_height", "higher than the vessel’s rim"),
    ("runs/0/valve", {"kind": "gate", "opening": 2.0}, "runs.R1.valve.opening", "at most 1"),
    (
        "runs/0/fittings",
        [{"kind": "reducer", "count": 1}],
        "runs.R1.fittings.reducer.other_bore",
        "needs its other bore",
    ),
    (
        "runs/0/ends_in",
        {"kind": "spray", "holes": 0, "diameter": 0.004},
        "runs.R1.ends_in.holes",
        "at least 1",
    ),
    (
        "pumps/0/switch",
        {"kind": "float", "on_height": 0.2, "off_height": 0.3},
        "pumps.P1.switch.off_height",
        "below its start",
    ),
    (
        "pumps/0/switch",
        {"kind": "timer", "on": 60.0, "off": 0.0},
        "pumps.P1.switch.off",
        "at least 1",
    ),
    ("pumps/0/dial", 0.0, "pumps.P1.dial", "at least 0.2"),
    (
        "junctions",
        [{"id": "J1", "name": "x", "height": 1.0, "straight": "R9"}],
        "junctions.J1.straight",
        "no run called R9",
    ),
    ("junctions", [{"id": "R1", "name": "x", "height": 1.0}], "junctions.R1.id", "another part"),
    (
        "outlets",
        [
            {
                "kind": "lift",
                "id": "O1",
                "name": "x",
                "stands_in": "T1",
                "intake_height": 0.5,
                "crest_height": 0.4,
                "bore": {"kind": "inside", "diameter": 0.05},
            }
        ],
        "outlets.O1",
        "below its crest",
    ),
    (
        "outlets",
        [
            {
                "kind": "standpipe",
                "id": "O1",
                "name": "x",
                "stands_in": "T9",
                "rim_height": 0.4,
                "bore": {"kind": "inside", "diameter": 0.05},
            }
        ],
        "outlets.O1.stands_in",
        "no vessel called T9",
    ),
    (
        "outlets",
        [
            {
                "kind": "standpipe",
                "id": "O1",
                "name": "x",
                "stands_in": "T1",
                "rim_height": 0.9,
                "bore": {"kind": "inside", "diameter": 0.05},
            }
        ],
        "outlets.O1.rim_height",
        "higher than the vessel’s rim",
    ),
    ("site/colour", "blue", "site.colour", "not part of a plan"),
    ("format", "other", "format", "one of"),
]


@pytest.mark.parametrize(("where", "value", "path", "words"), BAD)
def test_bad_documents_are_refused_with_path_and_sentence(
    document: dict[str, Any], where: str, value: Any, path: str, words: str
) -> None:
    """The path of the part, by its id, and a sentence."""
    _spoil(document, where, value)
    with pytest.raises(BadPlan) as caught:
        plan_from_data(document)
    fault = caught.value.faults[0]
    assert fault.path == path
    assert words.lower().replace("’", "'") in fault.sentence.lower().replace("’", "'")


@pytest.mark.parametrize(
    "text",
    [
        "",
        "[]",
        "{",
        '{"format": NaN}',
        "null",
        "\x00",
        '{"vessels": 1e999}',
        "[" * 100_000,
        b"\xff",
        " " * 2_000_001,
    ],
)
def test_what_is_no_plan_is_refused(text: str | bytes) -> None:
    """No traceback but a fault, whatever is sent."""
    with pytest.raises(BadPlan):
        load_plan(text)


def test_a_rising_pump_curve_is_refused_naming_the_point(document: dict[str, Any]) -> None:
    """The third point rises."""
    points = [{"flow": 0.0, "head": 2.0}, {"flow": 1e-4, "head": 1.0}, {"flow": 2e-4, "head": 1.5}]
    document["pumps"][0]["curve"] = {"kind": "points", "points": points}
    with pytest.raises(BadPlan, match="Point 3"):
        plan_from_data(document)


def test_the_documented_example_is_a_plan() -> None:
    """The whole plan in docs/plan-format.md loads, round-trips and is worked out."""
    page = (EXAMPLE.parent.parent / "docs" / "plan-format.md").read_text()
    text = page.split("```json\n")[1].split("```")[0]
    plan = load_plan(text)
    assert load_plan(dump_plan(plan)) == plan
    assert assess(plan).evaluation.balance.flows["R2"] > 0.0


NUMBERS = st.one_of(st.floats(), st.integers(-10, 10**12), st.just("x"), st.none())


@settings(max_examples=300)
@given(st.data(), NUMBERS)
def test_any_number_anywhere_gives_a_plan_or_a_fault(data: st.DataObject, value: Any) -> None:
    """A number put anywhere is refused, or the plan is worked out without an exception, and no
    figure is NaN."""
    name = data.draw(
        st.sampled_from(
            ["stacked-pair", "twin-sumps", "cascade-float-lift", "raft-line", "two-pump-timed"]
        )
    )
    document = lists_of(EXAMPLE.parent / f"{name}.json")
    places = list(_number_places(document))
    where = data.draw(st.sampled_from(places))
    _spoil(document, where, value)
    try:
        plan = plan_from_data(document)
    except BadPlan:
        return
    for figure in assess(plan).figures:
        assert figure.value is None or figure.value == figure.value


def _number_places(node: Any, path: str = "") -> Any:
    rows = node.items() if isinstance(node, dict) else enumerate(node)
    for key, inner in rows:
        here = f"{path}/{key}" if path else str(key)
        if isinstance(inner, dict | list):
            yield from _number_places(inner, here)
        elif isinstance(inner, float | int):
            yield here


def test_edits_give_the_next_plan_and_leave_the_old(demo_plan: Any) -> None:
    """An edit is a new plan."""
    change = set_value(demo_plan, "vessels.B1.floor_height", 1.3)
    assert change.plan.vessel("B1").floor_height == 1.3
    assert demo_plan.vessel("B1").floor_height == change.before == 1.1


def test_an_edit_finds_its_part_by_the_id_whatever_others_are_called(demo_plan: Any) -> None:
    called = set_value(demo_plan, "vessels.T1.name", "B1").plan
    raised = set_value(called, "vessels.B1.floor_height", 1.4).plan
    assert raised.vessel("B1").floor_height == 1.4
    assert raised.vessel("T1") is called.vessel("T1")


def test_an_edit_reads_only_what_it_changes(demo_plan: Any) -> None:
    """All other parts are the very same objects, so that what is known of them holds."""
    raised = set_value(demo_plan, "vessels.B1.floor_height", 1.4).plan
    after = apply_edits(raised, [Edit("site.tariff", 0.5), Edit("runs.R1.fouling", "season")])
    for group in GROUPS:
        for part in getattr(after, group):
            assert (part is demo_plan.part(part.id)) == (part.id not in ("B1", "R1"))
    assert after == plan_from_data(json.loads(dump_plan(after)))


def test_a_copy_keeps_nothing_that_was_worked_out_of_the_fields_before(demo_plan: Any) -> None:
    pump = demo_plan.pumps[0]
    assert demo_plan.part(pump.id) is pump
    other = pump.model_copy(update={"name": "another"})
    copied = demo_plan.model_copy(update={"pumps": (other, *demo_plan.pumps[1:])})
    assert copied.part(pump.id) is other


def test_kinds_are_traded_keeping_what_can_be_kept(demo_plan: Any) -> None:
    """A round tank of the same area, the curve's own points, no valve; and back."""
    tank = demo_plan.vessel("T1").shape
    round_plan = switch_kind(demo_plan, "vessels.T1.shape", "cylinder").plan
    shape = round_plan.vessel("T1").shape
    assert 0.25 * math.pi * shape.diameter**2 == pytest.approx(tank.length * tank.width)
    pointed = switch_kind(demo_plan, "pumps.P1.curve", "points").plan
    flows = [assess(p).evaluation.duties["P1"].flow for p in (demo_plan, pointed)]
    assert flows[1] == pytest.approx(flows[0], rel=0.02)
    back = switch_kind(pointed, "pumps.P1.curve", "label").plan.pumps[0].curve
    assert back.max_head == pytest.approx(1.7)
    bare = switch_kind(demo_plan, "runs.R1.valve", "none").plan
    assert bare.runs[0].valve is None
    assert switch_kind(bare, "runs.R1.valve", "ball").plan.runs[0].valve is not None
    for path, kind in (("vessels.T1.shape", "sphere"), ("runs.R9.valve", "ball"), ("x", "box")):
        with pytest.raises(EditRefused):
            switch_kind(demo_plan, path, kind)


def test_fittings_come_and_go(demo_plan: Any) -> None:
    """None of a kind takes it off the run."""
    fewer = set_fitting_count(demo_plan, "R1", "union", 0)
    assert [f.kind for f in fewer.plan.runs[0].fittings] == ["elbow_90"]
    more = set_fitting_count(fewer.plan, "R1", "swing_check", 1)
    assert more.after == 1
    assert len(more.plan.runs[0].fittings) == 2


@pytest.mark.parametrize(
    "path", ["vessels.X9.name", "nowhere", "vessels.B1.wings", "site.tariff.x"]
)
def test_edits_of_nothing_are_refused(demo_plan: Any, path: str) -> None:
    """With a sentence."""
    with pytest.raises(EditRefused):
        set_value(demo_plan, path, 1.0)
