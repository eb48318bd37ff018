"""A builder's own prices: typed, read from a file, and used by lists."""

import html
import re
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
from bathys_web.plans.models import OwnContainer, OwnPart, OwnPump, SavedPlan
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


OWN = {
    "air_pump": {"max_flow": "40 L/min", "max_pressure": "0.3 bar", "power": "28 W"},
    "medium": {"like": "lava", "void": "52 %", "grain": "12 mm"},
    "bore": {"inside": "26.645 mm", "outside": "33.4 mm"},
    "offcut": {"pipe": "pipe:ASTM D1785 Schedule 40:3 in", "length": "1.4 m", "count": "2"},
    "wall_fitting": {"like": "bulkhead", "pipe": "33 mm", "hole": "41 mm"},
}


def test_other_parts_of_ones_own_are_kept_and_take_their_places(
    browser: Client, stranger: Any, raft_line: SavedPlan
) -> None:
    """Each kind is typed once under Parts, and chosen on what it can stand for; an offcut is cut
    from before anything is bought, and a fitting's hole is drilled as it is stamped."""
    for kind, typed in OWN.items():
        address = reverse("keep_own_part", args=[kind])
        for field in typed:
            wrong = browser.post(address, {"name": "Mine", **typed, field: "<i>none</i>"})
            assert wrong.status_code == 422, (kind, field)
            assert "<i>none</i>" not in wrong.content.decode()
        assert browser.post(address, {"name": f"My {kind}", **typed}).status_code == 302, kind
    assert OwnPart.objects.count() == len(OWN)
    narrow = {"name": "Odd", "inside": "33 mm", "outside": "27 mm"}
    page = browser.post(reverse("keep_own_part", args=["bore"]), narrow).content.decode()
    assert "It must be wider outside than inside." in page
    assert browser.post(reverse("keep_own_part", args=["boat"]), {}).status_code == 404
    own = {p.kind: f"own-{p.pk}" for p in OwnPart.objects.all()}
    run = plan_of(raft_line.current).runs[0].id
    take = reverse("take", args=[raft_line.key, "change"])
    for number, (part, kind) in enumerate(((run, "bore"), ("AP1", "air_pump")), start=1):
        inspector = browser.get(
            reverse("inspector", args=[raft_line.key]),
            {"part": part},
            headers={"HX-Request": "true"},
        ).content.decode()
        assert f'value="{own[kind]}">My {kind}<' in inspector
        change = {"verb": "own", "target": part, "own": own[kind], "base": number}
        assert browser.post(take, change).status_code in (200, 302)
        raft_line.refresh_from_db()
    made = plan_of(raft_line.current)
    bore = next(r for r in made.runs if r.id == run).bore
    assert (bore.inside, bore.outside) == pytest.approx((0.026645, 0.0334))
    pump = made.part("AP1")
    assert (pump.name, pump.max_flow, pump.watts) == ("My air_pump", pytest.approx(40 / 60000), 28)
    browser.post(take, {"verb": "own", "target": run, "own": own["medium"], "base": 3})
    raft_line.refresh_from_db()
    assert raft_line.current.number == 3
    cuts = browser.get(reverse("offers", args=[raft_line.key, "cuts"])).content.decode()
    assert cuts.count("<td>an offcut</td>") == 2
    page = browser.get(reverse("holes", args=[raft_line.key])).content.decode()
    assert f'<option value="{own["wall_fitting"]}">My wall_fitting, ' in page
    key = re.search(rf'name="fitting:({run}\.[a-z]+)"', page)
    if key is None:
        pytest.fail("the run goes through no wall")
    boxes = {
        name: html.unescape(value)
        for name, value in re.findall(r'name="((?:drill|across):[^"]+)" value="([^"]*)"', page)
    }
    chosen = {f"fitting:{key[1]}": own["wall_fitting"], **boxes, "base": 3}
    assert browser.post(reverse("holes", args=[raft_line.key]), chosen).status_code == 302
    raft_line.refresh_from_db()
    told = next(r for r in plan_of(raft_line.current).runs if r.id == run)
    hole = told.start_hole or told.end_hole
    assert (hole.fitting, hole.drill) == ("bulkhead", pytest.approx(0.041))
    other = Client()
    other.force_login(stranger)
    pk = own["bore"].removeprefix("own-")
    assert other.post(reverse("delete_own_part", args=[pk])).status_code == 404
    assert browser.post(reverse("delete_own_part", args=[pk])).status_code == 302
    assert OwnPart.objects.count() == len(OWN) - 1


def test_all_own_parts_go_to_a_file_and_come_back(browser: Client, owner: Any) -> None:
    """Nothing is kept while a file is only looked at; each bad row has its number and a sentence;
    what is written is read as the same."""
    for kind, typed in OWN.items():
        browser.post(reverse("keep_own_part", args=[kind]), {"name": f"=My {kind}", **typed})
    vat = {"name": "Vat", "across": "1.2 m", "width": "80 cm", "tall": "1 m"}
    browser.post(reverse("keep_own_container"), vat)
    curve = {"name": "Old one", "power": "30", "points": "0 L/h at 2 m\n1500 L/h at 0 m"}
    browser.post(reverse("own_pumps"), curve)
    written = browser.get(reverse("own_parts_csv")).content
    assert b"\n=" not in written
    assert b",=" not in written
    before = [list(m.objects.order_by("name").values()) for m in (OwnPart, OwnContainer, OwnPump)]
    for model in (OwnPart, OwnContainer, OwnPump):
        model.objects.all().delete()
    bad = b"bore,Odd,,,,,,,,,,,,3 mm,2 mm\nboat,X\nmedium,=1+1\n"

    def upload(data: bytes) -> Any:
        file = BytesIO(data)
        file.name = "parts.csv"
        return browser.post(reverse("read_own_part_file"), {"file": file})

    page = html.unescape(upload(b"\xef\xbb\xbf" + written + bad).content.decode())
    assert not OwnPart.objects.exists()
    assert "7 rows can be taken" in page, re.findall(r"<li>(Row.*?)</li>", page)
    for row, words in ((9, "“"), (10, "“kind” must be one of"), (11, "is a formula")):
        assert re.search(rf"Row {row}: [^<]*{words}", page), row
    rows = re.search(r'<textarea name="rows" hidden>(.*?)</textarea>', page, re.DOTALL)
    assert rows is not None
    browser.post(reverse("take_own_part_file"), {"rows": rows[1]})
    after = [list(m.objects.order_by("name").values()) for m in (OwnPart, OwnContainer, OwnPump)]
    for old, new in zip(before, after, strict=True):
        assert [{**o, "id": 0} for o in old] == [{**n, "id": 0} for n in new]
    assert upload(b"").status_code == 422
    assert browser.post(reverse("read_own_part_file")).status_code == 422
