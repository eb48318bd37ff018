"""Whatever is typed or asked, no page breaks: it is taken, or told beside the box and kept."""

from typing import Any

import pytest
from django.test import Client
from django.urls import reverse

from bathys.pipeline import assess
from bathys.plan import GROUPS, load_plan, plan_from_data
from bathys_web.plans.actions.create_plan import create_plan
from bathys_web.plans.benches import BENCHES
from bathys_web.plans.models import OwnPump
from bathys_web.plans.offers import LISTS, OFFERS
from bathys_web.plans.storing import plan_of
from tests.conftest import EXAMPLE
from tests.plan_files import lists_of
from tests.typed import asked_values, box_values

HTMX = {"HX-Request": "true"}
pytestmark = pytest.mark.django_db
TAKEN = (200, 302, 400, 404, 405, 409, 422, 429)


def test_no_box_breaks_whatever_is_typed(browser: Client, owner: Any) -> None:
    """Every box of a plan with one of everything; the plan opens after each that was taken."""
    saved = create_plan(
        owner,
        load_plan((EXAMPLE.parent / "cascade-float-lift.json").read_bytes()),
        "made for a test",
    )
    taken = 0
    for part, path, text in box_values(plan_of(saved.head), 320, seed=1):
        before = saved.head.number
        typed = {"base": before, "part": part, "path": path, "text": text}
        answer = browser.post(reverse("edit", args=[saved.key]), typed, headers=HTMX)
        assert answer.status_code in (200, 409, 422), (path, text[:40])
        saved.refresh_from_db()
        if saved.head.number != before:
            taken += 1
            page = browser.get(reverse("plan", args=[saved.key]), {"part": part})
            assert page.status_code == 200, (path, text[:40])
            assert "Traceback" not in page.content.decode()
    assert taken > 20


@pytest.mark.parametrize(
    "name",
    [
        "plan",
        "inspector",
        "history",
        "compare",
        "explained",
        "offers",
        "preview",
        "bench",
        "play",
        "take",
        "go_to",
        "undo",
        "plans",
        "own_pumps",
        "new_plan",
        "switch_units",
        "account_login",
        "account_signup",
        "stop_computation",
        "import_plan",
        "archive",
        "label",
        "picture",
        "joins",
        "pumps_to_choose",
        "learn",
        "tour_steps",
        "start_tour",
        "keep_demo",
        "mailbox",
        "account_email",
        "account_reset_password",
    ],
)
def test_no_address_breaks_whatever_is_asked(browser: Client, saved: Any, name: str) -> None:
    """Asked and posted, of every list, bench and verb."""
    whole = {
        "plans",
        "own_pumps",
        "new_plan",
        "switch_units",
        "account_login",
        "account_signup",
        "import_plan",
        "learn",
        "tour_steps",
        "start_tour",
        "keep_demo",
        "mailbox",
        "account_email",
        "account_reset_password",
    }
    more = {
        "offers": sorted(LISTS),
        "preview": sorted(OFFERS),
        "take": sorted(OFFERS),
        "bench": sorted(BENCHES),
        "stop_computation": [7],
    }.get(name, [None])
    verbs = (
        "add",
        "connect",
        "remove",
        "raise",
        "move",
        "duplicate",
        "container",
        "pump",
        "practice",
    )
    for number, asked in enumerate(asked_values(24, seed=len(name))):
        word = more[number % len(more)]
        args = [] if name in whole else [saved.key, *([word] if word is not None else [])]
        address = reverse(name, args=args)
        asked["verb"] = asked.get("verb", verbs[number % len(verbs)])
        small = {k: v[:2000] for k, v in asked.items()}
        assert browser.get(address, small).status_code in TAKEN, (name, small)
        assert browser.post(address, asked, headers=HTMX).status_code in TAKEN, (name, small)
    assert browser.get(reverse("plans")).status_code in (200, 302)


def test_a_plan_opens_whatever_its_parts_are_called(browser: Client, owner: Any) -> None:
    """Every page, bench and list of a plan with faults and offers, its names, its currency, its
    purpose and the owner's own pump called so; and markup stays letters."""
    data = lists_of(EXAMPLE.parent / "faults" / "dry-start.json")
    word = "{a:b} {P1:words} 100 % %s <b>&amp;{% now %} \u202egnp"
    for group in GROUPS:
        for part in data.get(group, []):
            part["name"] = word
    data["name"] = word
    data["site"] = {**data.get("site", {}), "currency": "{a:b}%"}
    data["brief"] = {**data.get("brief", {}), "purpose": word}
    saved = create_plan(owner, plan_from_data(data), word)
    OwnPump.objects.create(owner=owner, name=word, max_flow=1e-3, max_head=3.0, power=20.0)
    pages = [
        reverse("plans"),
        reverse("own_pumps"),
        *(reverse(n, args=[saved.key]) for n in ("plan", "history", "compare", "export", "delete")),
    ]
    for address in pages:
        assert browser.get(address).status_code == 200, address
    asked = [reverse("bench", args=[saved.key, b]) for b in BENCHES]
    asked += [reverse("offers", args=[saved.key, k]) for k in LISTS]
    for address in asked:
        answer = browser.post(address, headers=HTMX)
        assert answer.status_code == 200, address
        assert "<b>&amp;" not in answer.content.decode()
    dynamic = browser.post(
        reverse("offers", args=[saved.key, "dynamic"]), headers=HTMX
    ).content.decode()
    found = assess(plan_of(saved.head))
    for finding in found.findings:
        where = {"rule": finding.rule.id, "place": finding.place}
        assert (
            browser.get(reverse("offers", args=[saved.key, "remedies"]), where).status_code == 200
        )
    assert dynamic
    for figure in (*found.figures, *found.details):
        asked_for = {"figure": figure.key}
        page = browser.get(reverse("explained", args=[saved.key]), asked_for, headers=HTMX)
        assert page.status_code == 200, figure.key
