"""Every box of every part, read back and typed into."""

import json
from dataclasses import replace
from io import BytesIO
from typing import Any

import pytest
from django.test import Client
from django.urls import reverse
from hypothesis import given, settings
from hypothesis import strategies as st

from bathys.drawing.stations import stations_of
from bathys.edits import EditRefused, add_part, apply_edits, set_value, switch_kind
from bathys.plan import Plan, dump_plan, load_plan, plan_from_data
from bathys.plan.base import typed_for
from bathys.vessels import storage_of
from bathys_web.plans.inspector import (
    Row,
    apply_row,
    find_row,
    rows_of,
    shown_value,
    site_rows,
)
from bathys_web.plans.inspector.bores import read_bore
from bathys_web.plans.models import SavedPlan
from bathys_web.plans.starters import LAYOUTS, PRACTICE, starter
from bathys_web.plans.storing import plan_of

HTMX = {"HX-Request": "true"}


def _all_rows(plan: Plan, units: str) -> list[Row]:
    rows = site_rows(plan, units)
    for station in stations_of(plan):
        part = plan.part(station.id)
        rows += rows_of(plan, part, f"{station.group}.{station.id}", units)
    return rows


def _rich(plan: Plan) -> Plan:
    """With what no example has: a measured shell, a measured pump, water carried out by hand."""
    vessel = plan.vessels[0].id
    plan = switch_kind(plan, f"vessels.{vessel}.shape", "measured").plan
    plan = switch_kind(plan, f"pumps.{plan.pumps[0].id}.curve", "points").plan
    return apply_edits(plan, add_part(plan, "transfer", vessel)[0])


@pytest.mark.parametrize("units", ["metric", "us"])
@pytest.mark.parametrize("layout", [*LAYOUTS, *PRACTICE])
def test_every_box_of_every_part_reads_back(layout: str, units: str) -> None:
    """What stands in a box is what it would read, though it is rounded; none stands twice."""
    plan = _rich(starter(layout))
    rows = _all_rows(plan, units)
    assert len({row.path for row in rows}) == len(rows) > 50
    for row in rows:
        assert apply_row(plan, row, units).plan == plan, row.path


@pytest.mark.parametrize("layout", LAYOUTS)
def test_every_choice_can_be_chosen_or_says_why_not(layout: str) -> None:
    """And is then what the box shows."""
    plan = _rich(starter(layout))
    chosen = 0
    for row in _all_rows(plan, "metric"):
        if row.kind not in ("choice", "switch", "link"):
            continue
        for value, words in row.options:
            try:
                after = apply_row(plan, replace(row, text=value), "metric").plan
            except EditRefused as refused:
                assert str(refused)[0].isupper() or str(refused)[0] == "“"
                continue
            shown = find_row(after, row.path, "metric")
            assert shown is not None, (row.path, words)
            assert shown.text == value, row.path
            chosen += 1
    assert chosen > 30


def _type(
    client: Client, saved: SavedPlan, path: str, text: str, status: int = 200, standard: str = ""
) -> str:
    saved.refresh_from_db()
    assert saved.head is not None
    data = {"path": path, "text": text, "base": saved.head.number, "part": path.split(".")[1]}
    data |= {"standard": standard} if standard else {}
    response = client.post(reverse("edit", args=[saved.key]), data, headers=HTMX)
    assert response.status_code == status, response.content[:600]
    return response.content.decode()


def _plan(saved: SavedPlan) -> Plan:
    saved.refresh_from_db()
    assert saved.head is not None
    return plan_of(saved.head)


def test_a_siphon_is_built_another_way(browser: Client, saved: SavedPlan) -> None:
    """Its boxes are those of a loop then, its tail is still laid, and it says so in words."""
    page = _type(browser, saved, "siphons.S1.kind", "loop")
    assert 'id="workspace"' in page
    assert "siphons.S1.crest_height" in page
    assert "bell_bore" not in page
    assert _plan(saved).siphons[0].kind == "loop"
    assert saved.head is not None
    assert saved.head.what_changed.endswith("built as bell over a standpipe → loop outside the bed")


def test_a_measured_shell_is_typed_mark_by_mark(browser: Client, saved: SavedPlan) -> None:
    """Spoken lines or cells of a table; a fall is refused beside the box, all typed kept."""
    _type(browser, saved, "vessels.T1.shape.kind", "measured")
    marks = "0 holds 0\n200 mm holds 150 L\n40 cm; 320 L\n0.7 m, 0.6 m3"
    page = _type(browser, saved, "vessels.T1.shape.marks", marks)
    assert "200 mm holds 150 L" in page
    tank = _plan(saved)
    storage = storage_of(tank, tank.vessel("T1"))
    for level, volume in ((0.2, 0.15), (0.3, 0.235), (0.4, 0.32), (0.7, 0.6)):
        assert storage.volume_at(level) == pytest.approx(volume)
    falls = marks + "\n600 mm holds 700 L"
    page = _type(browser, saved, "vessels.T1.shape.marks", falls, 422)
    assert "Mark 5 must be higher" in page
    assert "600 mm holds 700 L" in page
    page = _type(browser, saved, "vessels.T1.shape.marks", "0 holds 0\nfull", 422)
    assert "Line 2 wants a level" in page


def test_water_is_carried_from_and_to(browser: Client, saved: SavedPlan) -> None:
    """A transfer is added, led, and refused where it leads nowhere."""
    act = {"verb": "add", "kind": "transfer", "target": "T1", "base": 1, "part": "T1"}
    browser.post(reverse("take", args=[saved.key, "change"]), act, headers=HTMX)
    page = _type(browser, saved, "transfers.Q1.target", "B1")
    assert "Transfer: to out of the system → Grow bed (B1)" in page
    assert (_plan(saved).transfers[0].source, _plan(saved).transfers[0].target) == ("T1", "B1")
    _type(browser, saved, "transfers.Q1.source", "")
    page = _type(browser, saved, "transfers.Q1.target", "", 422)
    assert "must lead from one place to another" in page


def test_a_run_is_led_elsewhere_and_its_hole_closed(browser: Client, saved: SavedPlan) -> None:
    """The hole of a run that is left is gone; one that stands open can be closed by hand."""
    run = next(r for r in _plan(saved).runs if r.end.startswith("B1."))
    hole = run.end.partition(".")[2]
    _type(browser, saved, f"runs.{run.id}.to", "T1")
    plan = _plan(saved)
    assert plan.part(run.id).end.startswith("T1.")
    assert hole not in {p.name for p in plan.vessel("B1").ports}


def test_an_open_hole_is_closed_by_emptying_its_box(browser: Client, saved: SavedPlan) -> None:
    """One that a run needs is not."""
    plan = _plan(saved)
    ports = [*(p.model_dump() for p in plan.vessel("B1").ports), {"name": "spare", "height": 0.1}]
    opened = set_value(plan, "vessels.B1.ports", ports).plan
    row = find_row(opened, "vessels.B1.ports.spare.height", "metric")
    assert row is not None
    assert row.kind == "hole"
    closed = apply_row(opened, replace(row, text=" "), "metric").plan
    assert closed == plan
    used = plan.vessel("B1").ports[0].name
    page = _type(browser, saved, f"vessels.B1.ports.{used}.height", "", 422)
    assert "row-error" in page


@pytest.mark.parametrize(
    ("units", "words"),
    [
        ("metric", "at most 100,000 mm, and is 200,000 mm"),
        ("us", "at most 3,937.0 in, and is 7,874.0 in"),
    ],
)
def test_bounds_are_told_in_the_builders_units(
    browser: Client, saved: SavedPlan, units: str, words: str
) -> None:
    """Not in the file's."""
    browser.post(reverse("switch_units"), {"units": units, "back": "/"})
    page = _type(browser, saved, "vessels.B1.shape.length", "200 m", 422)
    assert words in page


def test_the_plan_and_site_are_typed_too(browser: Client, saved: SavedPlan) -> None:
    """With the part none."""
    data: dict[str, Any] = {"path": "name", "text": "Slate yard", "base": 1, "part": "site"}
    assert browser.post(reverse("edit", args=[saved.key]), data, headers=HTMX).status_code == 200
    assert _plan(saved).name == "Slate yard"


def test_bores_are_typed_as_in_a_shop() -> None:
    """A size as it is said, or refused with the sizes that are sold."""
    pipe = "ASTM D1785 Schedule 40"
    for text in ("3/4 in", "0.75", '3/4"', "¾"):
        made = read_bore(pipe, text, "metric")
        assert made == {"kind": "standard", "standard": pipe, "nominal": "3/4 in"}
    for wrong in ("7 in", "wide"):
        with pytest.raises(EditRefused, match="1 1/4 in"):
            read_bore(pipe, wrong, "metric")
    for text in ("DN40", "dn 40", "40 mm", "40"):
        assert read_bore("AS/NZS 1477 PN12", text, "us")["nominal"] == "DN40"
    with pytest.raises(EditRefused, match="It is a size of EN ISO 1452 PN10") as told:
        read_bore(pipe, "40 mm", "metric")
    assert "choose that beside the box" in str(told.value)
    assert read_bore("inside", "19 mm", "us")["diameter"] == pytest.approx(0.019)
    assert read_bore("inside", "1", "us")["diameter"] == pytest.approx(0.0254)


def test_a_box_keeps_what_was_typed_and_a_note_is_kept(browser: Client, saved: SavedPlan) -> None:
    """With its unit and digits, whatever units are shown. A note changes no figure."""
    page = _type(browser, saved, "vessels.B1.floor_height", "46 in")
    assert 'value="46 in"' in page
    assert "= 1,168 mm" in page
    page = _type(browser, saved, "vessels.B1.note", "from the <yard> {x:length}, 4 of them")
    assert "from the &lt;yard&gt; {x:length}, 4 of them" in page
    saved.refresh_from_db()
    first, second = saved.revisions.order_by("-number")[:2]
    assert first.physics_hash == second.physics_hash
    assert first.content_hash != second.content_hash
    page = _type(browser, saved, "vessels.B1.floor_height", "1200 mm")
    assert 'value="1200"' in page
    page = _type(browser, saved, "vessels.B1.floor_height", "3 ft 11 1/4 in")
    assert 'value="3 ft 11 1/4 in"' in page
    _type(browser, saved, "vessels.B1.floor_height", "no", 422)
    assert typed_for(_plan(saved).vessel("B1").typed, "floor_height") == "3 ft 11 1/4 in"


def test_a_bare_number_has_the_unit_that_stood_in_its_box(
    browser: Client, saved: SavedPlan
) -> None:
    """700 typed over 600 gph is 700 gph, in any units; over what has the box's own unit it is in
    that, and digits stay as they were typed."""
    flow = "pumps.P1.curve.max_flow"
    _type(browser, saved, flow, "600 gph")
    browser.post(reverse("switch_units"), {"units": "us"})
    page = browser.get(reverse("plan", args=[saved.key]), {"part": "P1"}).content.decode()
    assert 'value="600"' in page  # gal/h is the box's own unit now
    browser.post(reverse("switch_units"), {"units": "metric"})
    page = _type(browser, saved, flow, "700")
    assert 'value="700 gph"' in page
    assert _plan(saved).pumps[0].curve.max_flow == pytest.approx(700 * 3.785411784e-3 / 3600)
    page = _type(browser, saved, flow, "2650.0 L/h")
    assert 'value="2650.0"' in page
    page = _type(browser, saved, flow, "2650.0")
    assert "Nothing" not in page
    page = _type(browser, saved, flow, "2,7 m³/h")
    assert 'value="2,7 m³/h"' in page
    _type(browser, saved, flow, "2.8")
    assert _plan(saved).pumps[0].curve.max_flow == pytest.approx(2.8 / 3600)
    history = browser.get(reverse("history", args=[saved.key])).content.decode()
    assert "700 gph (2,650 L/h)" in history


@pytest.mark.parametrize(
    ("path", "text", "shown"),
    [
        ("vessels.T1.shape.volume", "200 gal", "= 757 L"),
        ("site.water_temperature", "68 °F", "= 20.0 °C"),
        ("site.evaporation", "0.20 in", "= 5.1 mm"),
        ("brief.fish_mass", "9 lb", "= 4.08 kg"),
        ("runs.R1.level_length", "4 ft 1", "= 1,245 mm"),
    ],
)
def test_every_kind_of_box_keeps_what_was_typed(
    browser: Client, saved: SavedPlan, path: str, text: str, shown: str
) -> None:
    """A vessel's volume, the site and the brief, too; it goes through a file and back, and is
    forgotten when something else sets the value."""
    row = find_row(_plan(saved), path, "metric")
    assert row is not None
    page = _type(browser, saved, path, text, standard=row.standard)
    now = find_row(_plan(saved), path, "metric")
    assert now is not None
    assert now.text == text
    assert shown in page
    again = find_row(load_plan(dump_plan(_plan(saved))), path, "metric")
    assert again == now
    _type(browser, saved, path, now.text)
    assert find_row(_plan(saved), path, "metric") == now


def test_a_volume_that_no_longer_holds_is_not_shown(browser: Client, saved: SavedPlan) -> None:
    """Its sizes say otherwise."""
    path = "vessels.T1.shape.volume"
    _type(browser, saved, path, "200 gal", standard="height")
    _type(browser, saved, "vessels.T1.shape.height", "900 mm")
    row = find_row(_plan(saved), path, "metric")
    assert row is not None
    assert row.text != "200 gal"
    assert typed_for(_plan(saved).vessel("T1").typed, "shape.volume") == ""


def test_lines_keep_what_was_typed_if_they_say_their_units(
    browser: Client, saved: SavedPlan
) -> None:
    """Points of a curve in gallons and feet stay so; bare numbers are shown in the reader's."""
    _type(browser, saved, "pumps.P1.curve.kind", "points")
    typed = "0 gph at 6 ft\n200 gph at 4 ft\n400 gph at 0 ft"
    _type(browser, saved, "pumps.P1.curve.points", typed)
    row = find_row(_plan(saved), "pumps.P1.curve.points", "metric")
    assert row is not None
    assert row.text == typed
    _type(browser, saved, "pumps.P1.curve.points", "0 at 1.7\n800 at 1.2\n1500 at 0")
    row = find_row(_plan(saved), "pumps.P1.curve.points", "metric")
    assert row is not None
    assert row.text == "0 L/h at 1.7 m\n800 L/h at 1.2 m\n1500 L/h at 0 m"


def test_an_inside_diameter_keeps_what_was_typed(browser: Client, saved: SavedPlan) -> None:
    _type(browser, saved, "runs.R2.bore", "1 1/4 in", standard="inside")
    row = find_row(_plan(saved), "runs.R2.bore", "metric")
    assert row is not None
    assert row.text == "1 1/4 in"
    assert row.hint == "31.75 mm inside"


def test_fittings_are_put_on_a_run_and_taken_off(browser: Client, saved: SavedPlan) -> None:
    """Picked by name, counted, and gone at 0; each told as what it is."""
    page = _type(browser, saved, "runs.R1.fittings.+", "swing_check")
    assert "runs.R1.fittings.swing_check" in page
    assert saved.head is not None
    _plan(saved)
    assert saved.head.what_changed == "Riser: check valve, swing 0 pieces → 1 piece"
    assert "swing_check" in {f.kind for f in _plan(saved).runs[0].fittings}
    _type(browser, saved, "runs.R1.fittings.swing_check", "2")
    page = _type(browser, saved, "runs.R1.fittings.swing_check", "0")
    assert 'name="path" value="runs.R1.fittings.swing_check"' not in page
    assert "swing_check" not in {f.kind for f in _plan(saved).runs[0].fittings}
    number = saved.head.number
    _type(browser, saved, "runs.R1.fittings.+", "")
    assert _plan(saved) is not None
    assert saved.head.number == number


def test_water_is_carried_at_a_time_of_the_day(browser: Client, saved: SavedPlan) -> None:
    """As a clock shows it."""
    act = {"verb": "add", "kind": "transfer", "target": "T1", "base": 1, "part": "T1"}
    browser.post(reverse("take", args=[saved.key, "change"]), act, headers=HTMX)
    page = _type(browser, saved, "transfers.Q1.at", "6.30 pm")
    assert 'value="6.30 pm"' in page
    assert "= 18:30" in page
    page = _type(browser, saved, "transfers.Q1.at", "25:00", 422)
    assert "no time of the day" in page
    page = _type(browser, saved, "transfers.Q1.every", "2 days")
    assert _plan(saved).transfers[0].every == 172_800.0


TYPED = st.one_of(
    st.text(max_size=24),
    st.sampled_from(
        [
            "",
            " ",
            "0",
            "-1",
            "1e400",
            "nan",
            "inf",
            "1/0",
            "½",
            "7 ft 6",
            "3 gal",
            "2 in",
            "12:30",
            "90°",
            "100 %",
            "1 1/2 in",
            "0 holds 0",
            "0 holds 0\n1 m holds 1 m3",
            "800 L/h at 1.2 m",
            "<script>",
            "‘; drop",
            "\x00",
            "一",
            "9" * 70,
            "none",
            "T1",
            "B1",
            "yes",
            "box",
        ]
    ),
)


@settings(max_examples=120)
@given(
    data=st.data(),
    layout=st.sampled_from(list(LAYOUTS)),
    text=TYPED,
    units=st.sampled_from(["metric", "us", "metric/flow,volume"]),
)
def test_whatever_is_typed_in_whichever_box_is_taken_or_refused_in_a_sentence(
    data: st.DataObject, layout: str, text: str, units: str
) -> None:
    """Never anything else; and what is taken can be told in the history."""
    plan = _rich(starter(layout))
    row = data.draw(st.sampled_from(_all_rows(plan, units)), label="row")
    standard = data.draw(st.sampled_from([row.standard, "inside", "no such"]), label="standard")
    try:
        change = apply_row(plan, replace(row, text=text, standard=standard), units)
    except EditRefused as refused:
        assert len(str(refused)) > 10
        return
    assert isinstance(change.plan, Plan)
    assert plan_from_data(change.plan.model_dump(mode="json", by_alias=True)) == change.plan
    after = find_row(change.plan, row.path, units)
    if after is not None:
        assert shown_value(after)


@pytest.mark.parametrize("path", ["name", "brief.purpose", "site.currency", "vessels.B1.name"])
def test_letters_that_cannot_be_kept_are_refused(
    browser: Client, saved: SavedPlan, path: str
) -> None:
    """Beside the box, and in a file; a database keeps no NUL. A line break is none of them."""
    data = {"path": path, "text": "a\x00b", "base": 1, "part": path.split(".")[1:2] or "site"}
    response = browser.post(reverse("edit", args=[saved.key]), data, headers=HTMX)
    assert response.status_code == 422
    assert "cannot be kept" in response.content.decode()
    document = _plan(saved).model_dump(mode="json", by_alias=True)
    document["name"] = "a\x07b"
    file = BytesIO(json.dumps(document).encode())
    file.name = "plan.json"
    response = browser.post(reverse("import_plan"), {"file": file})
    assert response.status_code == 422
    assert "cannot be kept" in response.content.decode()
    data = {"path": "brief.purpose", "text": "one line\r\nand another", "base": 1, "part": "site"}
    response = browser.post(reverse("edit", args=[saved.key]), data, headers=HTMX)
    assert response.status_code == 200
