"""Volumes typed, media changed, ends outside, decimal commas: through the page, on PostgreSQL."""

from pathlib import Path
from typing import Any

import pytest
from django.test import Client
from django.urls import reverse

from bathys.engine import engine_name
from bathys.plan import plan_from_data
from bathys_web.plans.actions.create_plan import create_plan
from bathys_web.plans.actions.note_dynamic_verdict import note_dynamic_verdict
from bathys_web.plans.headlines import headlines_of
from bathys_web.plans.models import DynamicVerdict, SavedPlan
from bathys_web.plans.plan_status import plan_statuses_of
from bathys_web.plans.storing import plan_of
from tests.plan_files import lists_of
from tests.web.pages import offer_after

HTMX = {"HX-Request": "true"}


def _edit(browser: Client, saved: SavedPlan, path: str, text: str, **more: str) -> Any:
    saved.refresh_from_db()
    values = {
        "base": saved.head.number,
        "part": path.split(".")[1] if "." in path else "",
        "path": path,
        "text": text,
        **more,
    }
    return browser.post(reverse("edit", args=[saved.key]), values, headers=HTMX)


def _plan(saved: SavedPlan) -> Any:
    saved.refresh_from_db()
    return plan_of(saved.head)


def test_a_typed_volume_scales_what_was_picked_and_the_other_boxes_follow(
    browser: Client, saved: SavedPlan
) -> None:
    answer = _edit(browser, saved, "vessels.T1.shape.volume", "1 m3", standard="length")
    page = answer.content.decode()
    assert answer.status_code == 200
    assert _plan(saved).vessel("T1").shape.capacity == pytest.approx(1.0, rel=1e-4)
    assert 'id="form-box-vessels-T1-shape-length"' in page
    assert 'hx-swap-oob="true"' in page
    before = _plan(saved).vessel("T1").shape.height
    page = _edit(browser, saved, "vessels.T1.shape.height", "80 cm").content.decode()
    volume = 1000.0 * 0.8 / before
    assert 'id="form-box-vessels-T1-shape-volume"' in page
    assert f'value="{volume:.7g}"'[:12] in page
    refused = _edit(browser, saved, "vessels.T1.shape.volume", "900000 m3", standard="height")
    assert refused.status_code == 422
    assert "900000 m3" in refused.content.decode()


def test_the_history_says_that_the_void_fraction_came_with_the_medium(
    browser: Client, saved: SavedPlan
) -> None:
    _edit(browser, saved, "vessels.B1.media.kind", "lava")
    saved.refresh_from_db()
    assert "void fraction of 0.5" in saved.head.what_changed


def test_a_decimal_comma_in_the_price_and_a_doubtful_one(browser: Client, saved: SavedPlan) -> None:
    assert _edit(browser, saved, "site.tariff", "0,42").status_code == 200
    assert _plan(saved).site.tariff == pytest.approx(0.42)
    assert _edit(browser, saved, "vessels.T1.shape.length", "1,16 m").status_code == 200
    refused = _edit(browser, saved, "vessels.T1.shape.length", "1,200")
    assert refused.status_code == 422
    assert "two things" in refused.content.decode()
    assert "1,200" in refused.content.decode()


def test_an_outfall_is_added_and_a_run_led_there(browser: Client, saved: SavedPlan) -> None:
    saved.refresh_from_db()
    shared = {"part": "T1"}
    take = reverse("take", args=[saved.key, "change"])
    browser.post(
        take, {"base": saved.head.number, "verb": "add", "kind": "outfall", **shared}, headers=HTMX
    )
    plan = _plan(saved)
    outfall = next(j for j in plan.junctions if j.kind == "outfall")
    browser.post(
        take,
        {"base": saved.head.number, "verb": "connect", "target": "T1", "end": outfall.id, **shared},
        headers=HTMX,
    )
    plan = _plan(saved)
    assert plan.runs_to(outfall.id)
    page = browser.get(reverse("plan", args=[saved.key]) + f"?part={outfall.id}").content.decode()
    assert "outfall, outside" in page
    assert "Connect a run to" not in page


def test_valves_of_drains_are_offered_and_set(browser: Client, owner: Any) -> None:
    data = lists_of(Path("examples/constant-height-tank.json"))
    for run in data["runs"]:
        run["wanted_flow"] = {"R4": 3e-4, "R5": 1.5e-4}.get(run["id"])
    saved = create_plan(owner, plan_from_data(data), "made for a test")
    page = browser.get(reverse("offers", args=[saved.key, "valves"])).content.decode()
    assert "shared equally" in page
    browser.post(
        reverse("take", args=[saved.key, "offer"]),
        {"base": 1, "part": "", "offer": offer_after(page, "<h3>Header")},
        headers=HTMX,
    )
    valves = [_plan(saved).part(r).valve.angle for r in ("R4", "R5")]
    assert valves[0] == 0.0
    assert valves[1] > 30.0


def test_what_another_engine_told_is_not_shown(saved: SavedPlan) -> None:
    """A verdict stored before the engine was fixed is none."""
    note_dynamic_verdict(saved.head.physics_hash, {"fault": 3, "warning": 1})
    assert plan_statuses_of([saved.head])[0].fault == 3
    DynamicVerdict.objects.update(engine="an older one")
    standing = plan_statuses_of([saved.head])[0]
    assert not standing.is_followed
    assert standing.fault == 0
    note_dynamic_verdict(saved.head.physics_hash, {"fault": 1, "warning": 0})
    assert DynamicVerdict.objects.get().engine == engine_name()
    assert headlines_of(saved.head).fault == 0


def test_a_broken_plan_tells_no_harmless_failures(browser: Client, owner: Any) -> None:
    path = Path("tests/engine/plans/nearly-shut-drain.json")
    saved = create_plan(owner, plan_from_data(lists_of(path)), "made for a test")
    page = browser.post(reverse("bench", args=[saved.key, "levels"]), headers=HTMX).content.decode()
    assert "Fix that first" in page
    assert "If something fails" not in page
