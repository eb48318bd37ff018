"""What a newcomer is told: terms explained, boxes in groups, refused boxes pointed at."""

import re
from html.parser import HTMLParser
from pathlib import Path
from typing import Any

import pytest
from django.contrib.staticfiles import finders
from django.test import Client
from django.urls import reverse
from django.utils.text import slugify

from bathys.plan import GROUPS, Plan, load_plan
from bathys.wording.glossary import GLOSSARY
from bathys_web.learn.pages import HELP, HelpPage
from bathys_web.plans.actions.create_plan import create_plan
from bathys_web.plans.inspector import rows_of, site_rows
from bathys_web.plans.inspector.groups import grouped
from bathys_web.plans.models import SavedPlan

EXAMPLES = sorted((Path(__file__).resolve().parents[2] / "examples").glob("*.json"))


class _Ids(HTMLParser):
    """Ids of a page, and what its boxes say of themselves."""

    def __init__(self, page: str) -> None:
        super().__init__()
        self.ids: list[str] = []
        self.described: list[str] = []
        self.popovers: list[str] = []
        self.feed(page)

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        """Gather what one element has."""
        own = dict(attrs)
        if own.get("id"):
            self.ids.append(str(own["id"]))
        self.described += (own.get("aria-describedby") or "").split()
        if own.get("popovertarget"):
            self.popovers.append(str(own["popovertarget"]))


@pytest.mark.django_db
def test_the_glossary_is_open_to_everybody() -> None:
    """Every term with its meaning, each to be pointed at."""
    page = Client().get(reverse("glossary")).content.decode()
    for term in GLOSSARY:
        assert f'id="{slugify(term.name)}"' in page
        assert term.meaning.replace("'", "&#x27;") in page


@pytest.mark.parametrize("page", HELP, ids=lambda p: p.key)
def test_every_help_page_is_open_and_its_links_and_pictures_are_there(page: HelpPage) -> None:
    """To everybody; no sentence in it is longer than 25 words."""
    answer = Client().get(reverse("help", args=[page.key]))
    words = answer.content.decode()
    assert page.about in words
    assert [one.title in words for one in HELP] == [True] * len(HELP)
    for picture in re.findall(r'src="/static/([^"]+[.]png)"', words):
        assert finders.find(re.sub(r"[.][0-9a-f]{12}[.]", ".", picture)), picture
    for link in set(re.findall(r'href="(/[^"]*)"', words.split("<main")[1])):
        assert Client().get(link).status_code in (200, 302), link


@pytest.mark.django_db
def test_a_tour_begins_on_a_practice_plan(browser: Client, owner: Any) -> None:
    """A fresh one each time; what an earlier tour left unchanged is not kept, what was changed is.
    Each step of the tour has something to point at."""
    first = browser.post(reverse("start_tour"))
    assert first["Location"].endswith("?tour=1")
    plan = browser.get(first["Location"]).content.decode()
    steps = browser.get(reverse("tour_steps")).content.decode()
    targets = re.findall(r'data-target="[^"]*?([#.])([\w-]+)"', steps)
    assert len(targets) >= 10
    later = {"floor_height"}  # of the part that the tour has selected by then
    for mark, name in targets:
        own = f'id="{name}"' if mark == "#" else name
        assert own in plan or any(name.endswith(field) for field in later), name
    browser.post(reverse("start_tour"))
    (only,) = SavedPlan.objects.filter(owner=owner)
    edit = {"path": "vessels.B1.floor_height", "text": "1.3 m", "base": 1, "part": "B1"}
    browser.post(reverse("edit", args=[only.key]), edit, headers={"HX-Request": "true"})
    browser.post(reverse("start_tour"))
    assert SavedPlan.objects.filter(owner=owner).count() == 2


def test_going_to_no_part_says_so(browser: Client, saved: SavedPlan) -> None:
    page = browser.get(reverse("plan", args=[saved.key]), {"part": "<Q9>"}).content.decode()
    assert "is called “&lt;Q9&gt;”" in page


@pytest.mark.parametrize("path", EXAMPLES, ids=lambda p: p.stem)
def test_every_box_stands_in_one_group(path: Path) -> None:
    """Of every part of every example: none lost, none twice, what is rarely used folded last."""
    plan: Plan = load_plan(path.read_bytes())
    for group in GROUPS:
        for part in getattr(plan, group):
            rows = rows_of(plan, part, f"{group}.{part.id}", "metric")
            groups = grouped(rows, part.id)
            assert sorted(r.path for g in groups for r in g.rows) == sorted(r.path for r in rows)
            assert all(g.title for g in groups)
            folded = [g for g in groups if not g.is_open]
            assert folded == groups[len(groups) - len(folded) :]
            assert any(r.path.endswith(".note") for r in groups[-1].rows)
    (whole,) = grouped(site_rows(plan, "metric"), "site")
    assert whole.is_open
    assert whole.title == ""


def test_terms_are_explained_beside_their_boxes(browser: Client, saved: SavedPlan) -> None:
    """A button beside the label opens the one line; every id on the page is there once, and what a
    box is described by is on the page."""
    for part, term in (("B1", "Freeboard"), ("S1", "Standpipe"), ("P1", "Label flow")):
        page = browser.get(reverse("plan", args=[saved.key]), {"part": part}).content.decode()
        found = _Ids(page)
        assert f"<b>{term}</b>" in page
        assert found.popovers
        assert set(found.popovers) <= set(found.ids)
        assert set(found.described) <= set(found.ids)
        assert len(set(found.ids)) == len(found.ids)


def test_a_refused_box_is_pointed_at_and_its_group_open(browser: Client, saved: SavedPlan) -> None:
    """Without script the whole page comes back: the box says it is wrong and names its sentence;
    though it is rarely used it is in sight, with what was typed."""
    data: dict[str, Any] = {"path": "vessels.B1.covered", "text": "twice", "base": 1, "part": "B1"}
    answer = browser.post(reverse("edit", args=[saved.key]), data)
    assert answer.status_code == 422
    page = answer.content.decode()
    box = re.search(r'<input id="([^"]+)" name="text" value="twice"[^>]*>', page)
    assert box is not None
    assert 'aria-invalid="true"' in box[0]
    assert f'id="{box[1]}-error"' in page
    assert f"{box[1]}-error" in box[0]
    group = page[: box.start()].rpartition("<details")[2]
    assert group.startswith(' class="row-group" open')


def test_groups_follow_the_part_that_is_picked(browser: Client, owner: Any) -> None:
    """A pump's inspector has no group of what it holds; a vessel's has all of them."""
    saved = create_plan(owner, load_plan(EXAMPLES[0].read_bytes()), "made for a test")
    titles = {
        part: re.findall(
            r'class="row-group"[^>]*><summary>([^<]+)<',
            browser.get(reverse("plan", args=[saved.key]), {"part": part}).content.decode(),
        )
        for part in ("T1", "P1")
    }
    assert titles["T1"] == [
        "What it is",
        "Where it stands",
        "What it holds",
        "Your own limits",
        "More",
    ]
    assert titles["P1"] == ["What it is", "Where it stands", "Your own limits", "More"]
