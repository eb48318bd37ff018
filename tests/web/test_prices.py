"""A builder's own prices: typed, read from a file, and used by lists."""

import html
from io import BytesIO
from typing import Any

import pytest
from django.test import Client
from django.urls import reverse

from bathys.parts.wall_fittings import WALL_FITTINGS
from bathys.plan import load_plan
from bathys.units import show_tape
from bathys_web.plans.actions.create_plan import create_plan
from bathys_web.plans.actions.keep_prices import prices_of
from bathys_web.plans.models import OwnContainer, SavedPlan
from bathys_web.plans.storing import plan_of
from tests.conftest import EXAMPLE

PIPE = "pipe:ASTM D1785 Schedule 40:1 1/2 in"


@pytest.fixture
def raft_line(owner: Any) -> SavedPlan:
    """A plan with pipe, stones and a settler."""
    plan = load_plan((EXAMPLE.parent / "raft-line.json").read_bytes())
    return create_plan(owner, plan, "made for a test")


def _upload(browser: Client, data: bytes) -> Any:
    file = BytesIO(data)
    file.name = "prices.csv"
    return browser.post(reverse("read_price_file"), {"file": file})


def test_prices_typed_beside_a_shopping_list_are_kept_and_added_up(
    browser: Client, owner: Any, raft_line: SavedPlan
) -> None:
    """A box that cannot be read keeps all from being kept, and all that was typed stays."""
    address = reverse("plan_prices", args=[raft_line.key])
    typed = {
        "currency": "EUR",
        "price:machine:Pump": "89,50",
        "owned:machine:Raft stone": "1",
        f"price:{PIPE}": "<b>four</b>",
    }
    wrong = browser.post(address, typed).content.decode()
    assert "&lt;b&gt;four&lt;/b&gt;” cannot be read" in wrong
    assert 'value="89,50"' in wrong
    assert not prices_of(owner).prices
    right = browser.post(address, {**typed, f"price:{PIPE}": "4"}).content.decode()
    assert "<b>161.50 EUR</b> in all, without 22 of 24 things" in right  # 89.50 + 18 m at 4
    kept = prices_of(owner)
    assert kept.of(PIPE) == 4.0
    assert kept.owned("machine:Raft stone") == 1.0
    cleared = browser.post(address, {f"price:{PIPE}": ""}).content.decode()
    assert "<b>89.50 EUR</b> in all" in cleared
    assert PIPE not in prices_of(owner).prices


def test_feet_and_gallons_are_kept_as_metres_and_cubic_metres(browser: Client, owner: Any) -> None:
    """A price typed for a foot is shown for a metre in the other units."""
    browser.post(reverse("switch_units"), {"units": "us", "next": "/"})
    browser.post(
        reverse("shelf_prices"),
        {f"price:{PIPE}": "1", f"owned:{PIPE}": "10", "price:medium:lava": "2"},
    )
    kept = prices_of(owner)
    assert kept.of(PIPE) == pytest.approx(1.0 / 0.3048)
    assert kept.owned(PIPE) == pytest.approx(3.048)
    assert kept.of("medium:lava") == pytest.approx(2.0 / 3.785411784e-3)
    browser.post(reverse("switch_units"), {"units": "metric", "next": "/"})
    page = browser.get(reverse("own_pumps")).content.decode()
    assert 'value="3.280839895"' in page
    assert 'value="3.048"' in page


def test_a_file_is_shown_before_it_is_taken(browser: Client, owner: Any) -> None:
    """What it holds, and each row that cannot be taken; nothing is kept until it is pressed. The
    file that is downloaded is read again without a fault."""
    data = "item;price;owned\ncontainer:tote-1000;45,50;1\ncontainer:drum-200;=2+2;\n"
    shown = _upload(browser, b"\xef\xbb\xbf" + data.encode()).content.decode()
    assert "Row 3: “price” is a formula" in shown
    assert "Take 1 row<" in shown
    assert not prices_of(owner).prices
    rows = shown.partition('name="rows" hidden>')[2].partition("</textarea>")[0]
    browser.post(reverse("take_price_file"), {"rows": html.unescape(rows)})
    assert prices_of(owner).of("container:tote-1000") == 45.5
    file = browser.get(reverse("prices_csv")).content
    again = _upload(browser, file).content.decode()
    assert "cannot be taken" not in again
    for wrong in (b"", b"\x00\xff", b"a,b\n1,2\n"):
        assert _upload(browser, wrong).status_code == 422
    assert browser.post(reverse("read_price_file")).status_code == 422


def test_a_shopping_list_as_a_file_is_read_as_prices(
    browser: Client, owner: Any, raft_line: SavedPlan
) -> None:
    """Filled in elsewhere, every row of it is taken."""
    text = browser.get(reverse("shopping_csv", args=[raft_line.key])).content.decode()
    lines = text.splitlines()
    assert lines[0].endswith("owned,buy")
    filled = [lines[0], *(line.replace(",each,,", ",each,7,") for line in lines[1:])]
    shown = _upload(browser, "\n".join(filled).encode()).content.decode()
    assert "cannot be taken" not in shown
    assert f"Take {len(lines) - 1} rows<" in shown


def test_containers_are_listed_by_the_builders_prices(
    browser: Client, raft_line: SavedPlan
) -> None:
    """What is at hand costs nothing; what has no price comes last, and that is said."""
    address = reverse("offers", args=[raft_line.key, "settlers"])
    none = browser.get(address, {"order": "price"}).content.decode()
    assert "None of these has a price yet" in none
    browser.post(
        reverse("shelf_prices"),
        {
            "currency": "EUR",
            "price:container:tote-1000": "45",
            "price:container:tote-600": "30",
        },
    )
    page = browser.get(address, {"order": "price"}).content.decode()
    small, large = page.index("Small tote, top cut out"), page.index("Tote, top cut out")
    assert small < large < page.index("no price")
    assert "30.00 EUR" in page
    browser.post(reverse("shelf_prices"), {"owned:container:tote-1000": "1"})
    page = browser.get(address, {"order": "price"}).content.decode()
    assert page.index("at hand") < page.index("Small tote, top cut out")


def test_no_more_prices_are_kept_than_a_page_can_show(browser: Client, owner: Any) -> None:
    rows = "\n".join(f"thing:{n},Sundries,Thing {n},3" for n in range(401))
    shown = _upload(browser, f"item,section,name,price\n{rows}\n".encode()).content.decode()
    assert "There is room for 400 rows." in shown
    browser.post(
        reverse("take_price_file"),
        {"rows": f"item,section,name,price\n{rows[: rows.index('thing:400')]}"},
    )
    assert len(prices_of(owner).prices) == 400
    one_more = {"rows": "item,section,name,price\nthing:x,Sundries,X,3"}
    assert browser.post(reverse("take_price_file"), one_more).status_code == 422
    assert browser.get(reverse("own_pumps")).status_code == 200
    boxes = {f"price:thing:{n}": "4" for n in range(400)}
    assert browser.post(reverse("shelf_prices"), boxes).status_code == 302
    assert prices_of(owner).of("thing:7") == 4.0


def test_a_container_of_ones_own_is_kept_and_offered_everywhere(
    browser: Client, stranger: Any, raft_line: SavedPlan
) -> None:
    """Typed once under Parts; listed first for a vessel and among settlers, where it costs nothing
    more; a vessel is made of it; what cannot be read stays in its box."""
    address = reverse("keep_own_container")
    wrong = browser.post(address, {"name": "Vat", "across": "<b>wide</b>", "tall": "90 cm"})
    page = wrong.content.decode()
    assert wrong.status_code == 422
    assert "&lt;b&gt;wide&lt;/b&gt;” cannot be read" in page
    assert 'value="90 cm"' in page
    for bad in (
        {"name": "", "across": "1 m", "tall": "1 m"},
        {"name": "Vat"},
        {"name": "a\x00b", "across": "1 m", "tall": "1 m"},
        {"name": "Vat", "across": "9 m", "tall": "1 m"},
        {"name": "Vat", "across": "1 m", "tall": ""},
    ):
        assert browser.post(address, bad).status_code == 422, bad
    assert not OwnContainer.objects.exists()
    browser.post(address, {"name": "Dairy vat", "across": "4 ft", "width": "", "tall": "1 m"})
    (kept,) = OwnContainer.objects.all()
    assert kept.shape == {"kind": "cylinder", "diameter": pytest.approx(1.2192), "height": 1.0}
    page = browser.get(reverse("own_pumps")).content.decode()
    assert "Dairy vat" in page
    inspector = browser.get(
        reverse("inspector", args=[raft_line.key]), {"part": "S1"}, headers={"HX-Request": "true"}
    ).content.decode()
    assert f'value="own-{kept.pk}">Dairy vat, ' in inspector
    listed = browser.get(reverse("offers", args=[raft_line.key, "settlers"]), {"order": "price"})
    row = listed.content.decode().partition("Dairy vat</td>")[2].partition("</tr>")[0]
    assert "at hand" in row
    change = {"verb": "container", "target": "C1", "container": f"own-{kept.pk}", "base": 1}
    browser.post(reverse("take", args=[raft_line.key, "change"]), change)
    raft_line.refresh_from_db()
    made = plan_of(raft_line.current).vessel("C1").shape
    assert made.height == 1.0
    assert made.across == pytest.approx(1.2192)
    other = Client()
    other.force_login(stranger)
    assert other.post(reverse("delete_own_container", args=[kept.pk])).status_code == 404
    assert "Dairy vat" not in other.get(reverse("own_pumps")).content.decode()
    browser.post(reverse("delete_own_container", args=[kept.pk]))
    assert not OwnContainer.objects.exists()
    assert plan_of(raft_line.current).vessel("C1").shape == made


def test_the_shelf_shows_fittings_holes_and_media(browser: Client) -> None:
    """Each by its own figures, in the reader's units."""
    page = browser.get(reverse("own_pumps")).content.decode()
    for words in ("elbow 90°, short", "Rubber grommet", "Expanded clay", "Hole", "Crane TP-410"):
        assert words in page
    hole = WALL_FITTINGS["grommet"].hole_for(0.0603) or 0.0
    assert show_tape(hole, "metric") in page
