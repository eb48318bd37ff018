"""Stored plans and their revisions."""

import json
from typing import Any

import pytest
from django.core.management import call_command
from django.db import DatabaseError, connection, transaction
from django.test import Client, override_settings
from django.urls import reverse

from bathys.pipeline import assess
from bathys_web.plans.models import Revision, SavedPlan
from bathys_web.plans.starters import LAYOUTS, PRACTICE, starter
from bathys_web.plans.storing import plan_of

HTMX = {"HX-Request": "true"}
FLOOR = "vessels.B1.floor_height"


def _edit(client: Client, saved: SavedPlan, path: str, text: str, base: int, **more: Any) -> Any:
    data = {"path": path, "text": text, "base": base, "part": "B1", **more.pop("data", {})}
    return client.post(reverse("edit", args=[saved.key]), data, headers=more.get("headers", HTMX))


def _head(saved: SavedPlan) -> Revision:
    saved.refresh_from_db()
    assert saved.head is not None
    return saved.head


def test_an_edit_is_a_new_revision_and_repaints(browser: Client, saved: SavedPlan) -> None:
    """The old revision stays; the answer carries picture, figures, findings and history."""
    first = _head(saved)
    response = _edit(browser, saved, FLOOR, "1.3 m", 1)
    assert response.status_code == 200
    page = response.content.decode()
    for region in ("history", "figures", "side-view", "findings"):
        assert f'id="{region}"' in page
    assert response.headers["HX-Trigger-After-Settle"] == "plan-changed"  # for the open bench
    assert _head(saved).number == 2
    assert plan_of(_head(saved)).vessel("B1").floor_height == pytest.approx(1.3)
    assert _head(saved).what_changed == "Grow bed: floor height 1100 mm → 1.3 m (1,300 mm)"
    first.refresh_from_db()
    assert plan_of(first).vessel("B1").floor_height == pytest.approx(1.1)


def test_a_refused_edit_keeps_what_was_typed(browser: Client, saved: SavedPlan) -> None:
    """The sentence stands beside the field."""
    response = _edit(browser, saved, FLOOR, "tall & wide", 1)
    assert response.status_code == 422
    page = response.content.decode()
    assert 'value="tall &amp; wide"' in page
    assert "cannot be read" in page
    assert _head(saved).number == 1


@pytest.mark.parametrize(
    ("path", "text", "words"),
    [
        ("vessels.B1.media.top", "500 mm", "higher than the vessel"),
        ("runs.R1.bore", "7 in", "1 1/4 in"),
        ("runs.R1.fittings.union", "-2", "whole number"),
        ("vessels.T1.water_depth", "3 gal", "measures a volume"),
        ("site.units", "cubits", "not one of the choices"),
        ("siphons.S1.rim_height", "10 mm", "below the standpipe"),
    ],
)
def test_refusals_say_what_is_wrong(
    browser: Client, saved: SavedPlan, path: str, text: str, words: str
) -> None:
    """Whatever kind of box it is."""
    response = _edit(browser, saved, path, text, 1, data={"standard": "ASTM D1785 Schedule 40"})
    assert response.status_code == 422
    assert words in response.content.decode().replace("&#x27;", "'")
    assert _head(saved).number == 1


def test_a_stale_edit_is_refused_and_loses_nothing(browser: Client, saved: SavedPlan) -> None:
    """The page shows the plan as it stands, what was typed, why, and a way to apply it."""
    _edit(browser, saved, FLOOR, "1300", 1)
    response = _edit(browser, saved, "vessels.B1.freeboard", "60", 1)
    assert response.status_code == 409
    page = response.content.decode()
    assert "changed elsewhere" in page
    assert "floor height 1100 mm → 1300 mm" in page
    assert 'value="60"' in page
    assert 'value="1300"' in page
    assert _head(saved).number == 2
    again = _edit(browser, saved, "vessels.B1.freeboard", "60", 2)
    assert again.status_code == 200
    assert plan_of(_head(saved)).vessel("B1").freeboard == pytest.approx(0.06)
    assert plan_of(_head(saved)).vessel("B1").floor_height == pytest.approx(1.3)


def test_undo_and_redo_walk_the_revisions(browser: Client, saved: SavedPlan) -> None:
    """Two edits undone and one redone; a new edit then forgets nothing that is stored."""
    _edit(browser, saved, FLOOR, "1200", 1)
    _edit(browser, saved, FLOOR, "1300", 2)

    def step(name: str, base: int) -> Any:
        address = reverse(name, args=[saved.key])
        return browser.post(address, {"base": base, "part": "B1"}, headers=HTMX)

    assert step("undo", 3).status_code == 200
    assert step("undo", 2).status_code == 200
    assert _head(saved).number == 1
    assert step("undo", 1).status_code == 200
    assert _head(saved).number == 1
    assert step("redo", 1).status_code == 200
    assert _head(saved).number == 2
    assert step("undo", 1).status_code == 409
    _edit(browser, saved, FLOOR, "1000", 2)
    assert _head(saved).number == 4
    assert saved.revisions.count() == 4


def test_retyping_the_same_value_makes_no_revision(browser: Client, saved: SavedPlan) -> None:
    """Nor does a value that is rounded for reading move the plan."""
    browser.post(reverse("switch_units"), {"units": "us", "back": "/"})
    assert _edit(browser, saved, FLOOR, "43.307", 1).status_code == 200
    assert _head(saved).number == 1


def test_without_scripts_an_edit_still_works(browser: Client, saved: SavedPlan) -> None:
    """A plain form goes back to the page; a refusal shows the whole page with the words in it."""
    done = _edit(browser, saved, FLOOR, "1300", 1, headers={})
    assert done.status_code == 302
    refused = _edit(browser, saved, FLOOR, "x", 2, headers={})
    assert refused.status_code == 422
    assert 'value="x"' in refused.content.decode()


@pytest.mark.parametrize(
    "name", ["plan", "inspector", "export", "delete", "edit", "undo", "redo", "copy"]
)
def test_nobody_else_can_open_a_plan(saved: SavedPlan, stranger: Any, name: str) -> None:
    """Another account gets 404, a visitor the sign-in page."""
    client = Client()
    address = reverse(name, args=[saved.key])
    send = client.post if name in ("edit", "undo", "redo", "delete", "copy") else client.get
    assert send(address).status_code == 302
    client.force_login(stranger)
    assert send(address).status_code == 404
    assert SavedPlan.objects.filter(pk=saved.pk).exists()


def test_the_database_refuses_to_change_a_revision(saved: SavedPlan) -> None:
    """Even around the application."""
    refused = pytest.raises(DatabaseError, match="never changes")
    with refused, transaction.atomic(), connection.cursor() as cursor:
        cursor.execute("UPDATE plans_revision SET document = '{}'")


def test_export_and_import_round_trip(browser: Client, saved: SavedPlan, tmp_path: Any) -> None:
    """The file that goes out comes in as the same plan on a place of its own."""
    exported = browser.get(reverse("export", args=[saved.key]))
    path = tmp_path / "plan.json"
    path.write_bytes(exported.content)
    with path.open("rb") as file:
        response = browser.post(reverse("import_plan"), {"file": file})
    assert response.status_code == 302
    copy = SavedPlan.objects.exclude(pk=saved.pk).get()
    assert plan_of(_head(copy)) == plan_of(_head(saved))


@pytest.mark.parametrize("content", [b"{", b"\xff\xfe", b'{"format":"bathys-plan"}', b"[" * 9999])
def test_a_bad_file_is_refused_on_the_shelf(browser: Client, content: bytes, tmp_path: Any) -> None:
    """In sentences, and nothing is stored."""
    path = tmp_path / "plan.json"
    path.write_bytes(content)
    with path.open("rb") as file:
        response = browser.post(reverse("import_plan"), {"file": file})
    assert response.status_code == 422
    assert "was not imported" in response.content.decode()
    assert not SavedPlan.objects.exists()


def test_a_plan_beyond_the_engine_is_shown_with_its_reasons(
    browser: Client, document: dict[str, Any], tmp_path: Any
) -> None:
    """It is drawn, given no figure, and says why."""
    document["runs"], document["siphons"] = document["runs"][:1], []
    document["pumps"], document["runs"] = [], []
    path = tmp_path / "plan.json"
    path.write_text(json.dumps(document))
    with path.open("rb") as file:
        response = browser.post(reverse("import_plan"), {"file": file}, follow=True)
    page = response.content.decode()
    assert response.status_code == 200
    assert "no pump yet" in page
    assert "NaN" not in page


def test_delete_asks_first(browser: Client, saved: SavedPlan) -> None:
    """Then takes the plan with its history."""
    address = reverse("delete", args=[saved.key])
    assert browser.get(address).status_code == 200
    assert browser.post(address).status_code == 302
    assert not Revision.objects.exists()


def test_units_switch_and_stay_on_this_site(browser: Client, saved: SavedPlan) -> None:
    """The page is in gallons from then on; no way leads to another host."""
    away = browser.post(reverse("switch_units"), {"units": "us", "back": "//elsewhere.example"})
    assert away["Location"] == "/"
    page = browser.get(reverse("plan", args=[saved.key])).content.decode()
    assert "gal/h" in page
    assert "L/h" not in page


def test_pages_allow_nothing_from_other_hosts(browser: Client, saved: SavedPlan) -> None:
    """The policy has no inline script or style, and the page none to need it."""
    response = browser.get(reverse("plan", args=[saved.key]))
    assert "unsafe" not in response["Content-Security-Policy"]
    assert "style=" not in response.content.decode()


@pytest.mark.django_db
def test_the_demo_account_is_offered_in_demo_mode_only(owner: Any) -> None:
    """Elsewhere its address does not exist."""
    client = Client()
    with override_settings(DEMO=False):
        assert "demo account" not in client.get(reverse("account_login")).content.decode()
        assert client.post(reverse("demo_sign_in")).status_code == 404
    with override_settings(DEMO=True):
        assert "demo account" in client.get(reverse("account_login")).content.decode()


@pytest.mark.django_db
def test_an_account_is_made_and_signed_in() -> None:
    """With an email and a password; a bad one keeps the email typed."""
    client = Client()
    refused = client.post(reverse("account_signup"), {"email": "a@b.example", "password1": "x"})
    assert 'value="a@b.example"' in refused.content.decode()
    made = client.post(
        reverse("account_signup"), {"email": "a@b.example", "password1": "a long pass phrase"}
    )
    assert made.status_code == 302
    again = {"login": "a@b.example", "password": "wrong"}
    wrong = client.post(reverse("account_login"), again)
    assert 'value="a@b.example"' in wrong.content.decode()
    right = client.post(reverse("account_login"), again | {"password": "a long pass phrase"})
    assert right["Location"] == "/"
    assert "no plans yet" in client.get("/").content.decode()
    change = reverse("account_change_password")
    new = {
        "oldpassword": "a long pass phrase",
        "password1": "another pass phrase",
        "password2": "another pass phrase",
    }
    assert client.get(change).status_code == 200
    assert client.post(change, new | {"oldpassword": "x"}).status_code == 200
    assert client.post(change, new).status_code == 302
    client.post(reverse("account_logout"))
    assert client.get(change).status_code == 302
    fresh = client.post(reverse("account_login"), again | {"password": "another pass phrase"})
    assert fresh["Location"] == "/"


@pytest.mark.django_db
def test_missing_pages_say_so(browser: Client) -> None:
    """With a way back."""
    response = browser.get("/nowhere/")
    assert response.status_code == 404
    assert "To your plans" in response.content.decode()


def test_a_pumps_curve_is_typed_as_points(browser: Client, saved: SavedPlan) -> None:
    """From the label to points and back to typing; a rising point is refused by its number."""
    changed = _edit(browser, saved, "pumps.P1.curve.kind", "points", 1)
    assert changed["HX-Retarget"] == "#workspace"
    lines = "0 L/h at 1.7 m\n800 L/h at 4 ft\n1500 L/h at 0"
    assert _edit(browser, saved, "pumps.P1.curve.points", lines, 2).status_code == 200
    points = plan_of(_head(saved)).pumps[0].curve.points  # type: ignore[union-attr]
    assert [round(p.head, 4) for p in points] == [1.7, 1.2192, 0.0]
    for bad, words in (
        ("0 at 1\n500 at 2\n900 at 0.1", "point 2"),
        ("0 at 1\n500 L/h", "Line 2"),
        ("0 at 1\n5 gal at 0.5", "Line 2: “gal” measures a volume"),
        ("0 at 1", "at least 2"),
    ):
        refused = _edit(browser, saved, "pumps.P1.curve.points", bad, 3)
        assert refused.status_code == 422
        assert words.lower() in refused.content.decode().lower()


def test_a_part_of_nobodys_opens_the_site(browser: Client, saved: SavedPlan) -> None:
    """A part named in the address that is not in the plan does no harm."""
    page = browser.get(reverse("plan", args=[saved.key]), {"part": "<script>"})
    assert page.status_code == 200
    assert "<script>" not in page.content.decode().split("</head>")[1]


@pytest.mark.parametrize("base", ["", "x", "-1", "99999999999999999999"])
def test_a_base_that_is_no_revision_is_stale(browser: Client, saved: SavedPlan, base: Any) -> None:
    """And nothing breaks."""
    assert _edit(browser, saved, FLOOR, "1200", base).status_code == 409


@pytest.mark.parametrize(
    "path", ["", "nowhere", "vessels.B1", "vessels.X.name", "runs.R1.bore.kind"]
)
def test_a_field_that_is_not_there_shows_the_plan(
    browser: Client, saved: SavedPlan, path: str
) -> None:
    """As it stands."""
    response = _edit(browser, saved, path, "1", 1)
    assert response.status_code == 422
    assert "no longer in this plan" in response.content.decode()


def test_cautions_stand_on_the_plan_page(browser: Client, saved: SavedPlan) -> None:
    """Electricity, weight, containers and the rest."""
    page = browser.get(reverse("plan", args=[saved.key])).content.decode()
    for topic in ("licensed electrician", "structural engineer", "second-hand containers"):
        assert topic in page


def test_every_layout_can_be_started_from_its_picture(browser: Client) -> None:
    """Each has its picture on the page, and makes a plan that is sound or says what it wants."""
    plans = browser.get(reverse("plans")).content.decode()
    for key in (*LAYOUTS, *PRACTICE):
        assert f'id="layout-{key}"' in plans
        page = browser.post(reverse("new_plan"), {"layout": key}, follow=True)
        assert page.status_code == 200
        assert f"New {key.replace('-', ' ')}" in page.content.decode()
    assert plans.count("<svg viewBox") >= len(LAYOUTS)
    assert browser.post(reverse("new_plan"), {"layout": "palace"}).status_code == 404


def test_the_layouts_break_no_rule() -> None:
    """No fault and no warning stands in what we hand a builder to begin with, and what takes
    following through time is at most the pump that could empty its own fish tank."""
    for key in (*LAYOUTS, *PRACTICE):
        assessment = assess(starter(key))
        assert not [f.rule.id for f in assessment.findings if f.severity != "note"], key


@pytest.mark.django_db
def test_the_database_knows_every_field() -> None:
    """No migration is missing."""
    call_command("makemigrations", check=True, dry_run=True, verbosity=0)
