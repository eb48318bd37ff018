"""From a brief to plans, through the pages."""

import html
import re
from typing import Any

import pytest
from django.test import Client
from django.urls import reverse

from bathys.design import LAYOUTS
from bathys.edits import Edit, apply_edits
from bathys.pipeline import assess
from bathys_web.plans.actions.add_revision import add_revision
from bathys_web.plans.actions.keep_brief import kept_brief_of
from bathys_web.plans.models import KeptBrief, OwnContainer, OwnPump, SavedPlan
from bathys_web.plans.storing import plan_of

HTMX = {"HX-Request": "true"}
BORE = {"kind": "standard", "standard": "ASTM D1785 Schedule 40"}
PAIR = {
    "layout": "stacked_pair",
    "name": "<b>Alder</b> pair",
    "tank_container": "tote-1000-low",
    "beds_count": "1",
    "rafts_count": "0",
}


def test_what_is_typed_is_kept_and_told_beside_its_box(browser: Client) -> None:
    """Each wrong answer has its sentence, all that was typed stays, also for the next visit; data
    is never read as markup."""
    wrong = PAIR | {
        "dig": "<i>deep</i>",
        "highest": "1.5 kg",
        "beds_count": "many",
        "tank_across": "0 m",
        "tank_tall": "1 m",
        "pipe": "bamboo",
        "fish": "-3 kg",
    }
    answer = browser.post(reverse("brief"), wrong)
    page = answer.content.decode()
    assert answer.status_code == 422
    assert "<i>deep</i>" not in page
    assert "<b>Alder</b>" not in page
    for box in ("dig", "highest", "beds_count", "tank_across"):
        assert re.search(rf'name="{box}"[^>]*aria-invalid="true"', page), box
    again = html.unescape(browser.get(reverse("brief")).content.decode())
    assert 'value="<i>deep</i>"' in again
    assert 'class="row-error"' not in again
    for bad in ({"beds_count": "13"}, {"highest": "9 m"}, {"fish": "-3 kg"}, {"layout": "boat"}):
        assert browser.post(reverse("brief"), PAIR | bad).status_code == 422, bad
    assert browser.get(reverse("brief") + "?plan=none").status_code == 404
    assert browser.post(reverse("brief"), PAIR | {"name": "a\x00b"}).status_code == 302


@pytest.mark.parametrize("units", ["metric", "us"])
def test_a_brief_comes_to_plans_that_can_be_taken_and_planned_again(
    browser: Client, owner: Any, units: str
) -> None:
    """Three aims side by side with their reasons; the one that is taken is sound and keeps its
    brief; planned again it is a variant; all can be kept at once."""
    browser.post(reverse("switch_units"), {"units": units})
    assert browser.post(reverse("brief"), PAIR).url == reverse("brief_answers")
    assert "Size it" in browser.get(reverse("brief_answers")).content.decode()
    page = browser.post(reverse("brief_answers")).content.decode()
    cards = page.split('<article class="brief-card">')[1:]
    assert 1 <= len(cards) <= 3
    assert "Why each size is so" in cards[0]
    assert (" L/h" in cards[0]) == (units == "metric")
    assert "&lt;b&gt;Alder&lt;/b&gt; pair" in page
    taken = browser.post(reverse("take_answer"), {"number": "0"})
    saved = SavedPlan.objects.get(owner=owner)
    assert taken.url == reverse("plan", args=[saved.key])
    plan = plan_of(saved.current)
    assert plan.name == PAIR["name"]
    assert not [f for f in assess(plan).findings if f.severity == "fault"]
    assert saved.brief["tank_container"] == "tote-1000-low"
    assert f"?plan={saved.key}" in browser.get(taken.url).content.decode()
    again = browser.get(reverse("brief"), {"plan": saved.key}).content.decode()
    assert f'name="plan" value="{saved.key}"' in again
    browser.post(reverse("brief"), PAIR | {"plan": str(saved.key), "beds_count": "2"})
    browser.post(reverse("brief_answers"))
    kept = browser.post(reverse("take_answer"), {"number": "all"})
    assert kept.status_code == 302
    variants = SavedPlan.objects.filter(owner=owner).exclude(pk=saved.pk)
    assert {v.origin_id for v in variants} == {saved.head_id}
    assert browser.post(reverse("take_answer"), {"number": "17"}).status_code == 404


def test_a_refusal_names_the_wish_and_frees_it_in_one_press(browser: Client) -> None:
    """The change that is offered fills the form, and comes to plans."""
    browser.post(reverse("brief"), PAIR | {"highest": "1 m"})
    page = browser.post(reverse("brief_answers")).content.decode()
    assert "you allowed 1,000 mm" in page
    form = page.partition('<form method="post" action="/plans/brief/">')[2].partition("</form>")[0]
    boxes = dict(re.findall(r'name="([^"]+)" value="([^"]*)"', form))
    boxes = {name: html.unescape(typed) for name, typed in boxes.items()}
    assert boxes["highest"] == "1350 mm"
    assert browser.post(reverse("brief"), boxes).status_code == 302
    assert "Take this plan" in browser.post(reverse("brief_answers")).content.decode()


def test_layouts_are_held_against_each_other(browser: Client, owner: Any) -> None:
    """Those that do come with their plan, the others with the reason; one's own container is as
    good as any; the layout chosen is the one that is made."""
    shape = {"kind": "box", "length": 1.0, "width": 0.9, "height": 0.7}
    vat = OwnContainer.objects.create(owner=owner, name="Vat", shape=shape, litres=630.0)
    told = PAIR | {"layout": "any", "tank_container": f"own-{vat.pk}"}
    browser.post(reverse("brief"), told)
    page = browser.post(reverse("brief_answers")).content.decode()
    assert page.count('<article class="brief-card">') == len(LAYOUTS)
    assert "It is for rafts only, and you chose none." in page
    browser.post(reverse("take_answer"), {"number": "0", "layout": "constant_flood"})
    plan = plan_of(SavedPlan.objects.get(owner=owner).current)
    assert not plan.siphons
    assert plan.vessel("T1").shape.model_dump()["length"] == 1.0


def test_a_brief_is_its_own_builders_alone(browser: Client, stranger: Any, owner: Any) -> None:
    """Nobody sees another's answers, or plans another's plan again."""
    browser.post(reverse("brief"), PAIR)
    browser.post(reverse("brief_answers"))
    browser.post(reverse("take_answer"), {"number": "0"})
    saved = SavedPlan.objects.get(owner=owner)
    other = Client()
    other.force_login(stranger)
    assert other.get(reverse("brief_answers")).url == reverse("brief")
    assert other.post(reverse("brief"), PAIR | {"plan": str(saved.key)}).status_code == 404
    assert kept_brief_of(stranger) is None
    assert KeptBrief.objects.count() == 1


def test_a_part_is_sized_for_the_builder_unless_it_is_locked(
    browser: Client, saved: SavedPlan, stranger: Any
) -> None:
    """Offered with what it changes and does; taken as any offer, one undo away; a lock keeps a
    part, also when all is sized; nobody else locks it."""
    address = reverse("offers", args=[saved.key, "sized"])
    edits = [Edit("runs.R1.bore", BORE | {"nominal": "1/2 in"})]
    add_revision(saved, saved.owner, 1, lambda plan: (apply_edits(plan, edits), "narrow"))
    page = browser.get(address, {"target": "R1"}).content.decode()
    assert "Size it so" in page
    offer = re.search(r'name="offer" value="([^"]+)"', page)
    assert offer is not None
    lock = reverse("lock", args=[saved.key])
    browser.post(lock, {"part": "R1", "locked": "1"})
    browser.post(lock, {"part": "nothing", "locked": "1"})
    saved.refresh_from_db()
    assert saved.locked == ["R1"]
    assert "It is locked" in browser.get(address, {"target": "R1"}).content.decode()
    assert "To the bed" not in browser.get(address, {"target": "all"}).content.decode()
    inspector = browser.get(reverse("inspector", args=[saved.key]), {"part": "R1"}, headers=HTMX)
    assert "Unlock its size" in inspector.content.decode()
    other = Client()
    other.force_login(stranger)
    assert other.post(lock, {"part": "R1", "locked": "0"}).status_code == 404
    browser.post(lock, {"part": "R1", "locked": "0"})
    posted = {"offer": offer[1], "base": "2"}
    browser.post(reverse("take", args=[saved.key, "offer"]), posted)
    saved.refresh_from_db()
    assert plan_of(saved.current).runs[0].bore.inside > 0.02
    browser.post(reverse("undo", args=[saved.key]), {"base": "3"})
    saved.refresh_from_db()
    assert saved.current.number == 2
    assert "Choose a part" in browser.get(address, {"target": "<x>"}).content.decode()


def test_limits_are_read_kept_and_freed_in_one_press(browser: Client, owner: Any) -> None:
    """Money, watts, loads, a pump of one's own and quiet; what is too much is told beside its
    sentence, and the press that frees it fills the right boxes."""
    OwnPump.objects.create(owner=owner, name="Shed pump", max_flow=3e-4, max_head=1.0, power=15.0)
    page = browser.get(reverse("brief")).content.decode()
    assert '<option value="Shed pump"' in page
    told = html.unescape(browser.post(reverse("brief"), PAIR | {"highest": "5 m"}).content.decode())
    assert "It must be at most 3,000 mm, and is 5,000 mm." in told
    for wrong in ({"budget": "cheap"}, {"budget": "0"}, {"most_load": "4 L"}, {"own_pump": "gone"}):
        assert browser.post(reverse("brief"), PAIR | wrong).status_code == 422, wrong
    for told, sentence, box in (
        ({"own_pump": "Shed pump"}, "Shed pump gives", "own_pump"),
        ({"most_load": "200 kg/m2"}, "on its footprint", "most_load"),
        ({"is_quiet": "yes"}, "Siphons gurgle", "layout"),
    ):
        browser.post(reverse("brief"), PAIR | told)
        page = html.unescape(browser.post(reverse("brief_answers")).content.decode())
        assert sentence in page
        form = page.partition('<form method="post" action="/plans/brief/">')[2]
        boxes = dict(re.findall(r'name="([^"]+)" value="([^"]*)"', form.partition("</form>")[0]))
        assert boxes[box] != told.get(box)
        assert browser.post(reverse("brief"), boxes).status_code == 302
        assert "Take this plan" in browser.post(reverse("brief_answers")).content.decode()


def test_a_power_cut_is_told_in_hours_and_answered_with_a_battery(
    browser: Client, owner: Any
) -> None:
    """Why it is so stands among the reasons; the plan keeps it."""
    for wrong in ("soon", "4 L", "-1 h", "9 days"):
        assert browser.post(reverse("brief"), PAIR | {"power_cut": wrong}).status_code == 422
    for typed in ("12", "720 min", "12 h"):
        assert browser.post(reverse("brief"), PAIR | {"power_cut": typed}).status_code == 302
    page = html.unescape(browser.post(reverse("brief_answers")).content.decode())
    assert re.search(r"your longest power cut 12 h: a 12 V battery of \d+(\.\d+)? Ah", page)
    browser.post(reverse("take_answer"), {"number": "0"})
    assert plan_of(SavedPlan.objects.get(owner=owner).current).brief.power_cut == 43200.0


def test_all_that_was_tried_is_drawn_and_can_be_taken(browser: Client, owner: Any) -> None:
    """Each plan is a dot and a row; one of them is made, and why its sizes are so stays with it,
    beside what they are now."""
    browser.post(reverse("brief"), PAIR)
    page = browser.post(reverse("brief_tradeoffs")).content.decode()
    assert page.count('<circle class="tried-spot') == page.count('name="among"') > 1
    assert "is-beaten" in page
    browser.post(reverse("take_answer"), {"number": "1", "among": "all"})
    saved = SavedPlan.objects.get(owner=owner)
    address = reverse("plan_reasons", args=[saved.key])
    assert ">changed since<" not in browser.get(address).content.decode()
    assert address in browser.get(reverse("brief"), {"plan": saved.key}).content.decode()
    plan = plan_of(saved.current)
    edits = [Edit(f"pumps.{plan.pumps[0].id}.power", 77.0)]
    add_revision(saved, owner, 1, lambda _: (apply_edits(plan, edits), "stronger"))
    assert ">changed since<" in browser.get(address).content.decode()
    assert browser.get(reverse("plan_reasons", args=[SavedPlan().key])).status_code == 404
