"""Prices: files of any spreadsheet, and what is bought for a plan, by hand."""

import json
import math
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from bathys.build import cut_list, made_of, pipe_pieces, shopping_list, tote_cuts
from bathys.cli import main
from bathys.edits import apply_edits
from bathys.edits.containers import use_container
from bathys.evaluation import evaluate
from bathys.parts.containers import containers
from bathys.plan import load_plan
from bathys.shelf import (
    SECTIONS,
    Price,
    PriceList,
    ShelfItem,
    read_prices,
    shelf_items,
    write_prices,
)
from tests.conftest import EXAMPLE

_TEXT = st.text(
    st.characters(
        codec="utf-8", exclude_categories=("Cc", "Cs", "Cn", "Zl", "Zp", "Zs", "Cf", "Co")
    ),
    min_size=1,
    max_size=30,
)


def _items() -> st.SearchStrategy[ShelfItem]:
    own = st.builds(
        lambda name, section, measure: ShelfItem(f"thing:{name}", section, name, measure),
        _TEXT.map(str.strip).filter(bool),
        st.sampled_from(SECTIONS),
        st.sampled_from(["each", "length", "volume"]),
    )
    return own | st.sampled_from(shelf_items())


@settings(max_examples=80)
@given(
    st.lists(
        st.builds(
            Price,
            _items(),
            st.none() | st.floats(0.0, 1e5).map(lambda x: float(f"{x:.6g}")),
            st.floats(0.0, 1e2).map(lambda x: float(f"{x:.6g}")),
        ),
        max_size=12,
        unique_by=lambda p: p.item.key,
    ),
    st.sampled_from(["metric", "us"]),
    st.sampled_from(["utf-8", "utf-8-sig", "utf-16"]),
)
def test_a_price_list_that_is_written_is_read_again(
    prices: list[Price], units: str, encoding: str
) -> None:
    """In either units; no cell begins as a formula does; the stored form as well."""
    text = write_prices(prices, units)
    for line in text.splitlines()[1:]:
        assert line.lstrip('"')[:1] not in ("=", "+", "-", "@")
    found = read_prices(text.encode(encoding))
    assert not found.errors
    assert [p.item for p in found.prices] == [p.item for p in prices]
    for read, written in zip(found.prices, prices, strict=True):
        assert read.owned == pytest.approx(written.owned, rel=1e-8)
        assert (read.price is None) == (written.price is None)
        assert (read.price or 0.0) == pytest.approx(written.price or 0.0, rel=1e-8)
    kept = PriceList("EUR", {p.item.key: p for p in prices})
    assert PriceList.from_data(json.loads(json.dumps(kept.as_data))) == kept


@pytest.mark.parametrize(
    ("row", "words"),
    [
        ("container:tote-1000;1.234,5;;each", "cannot be read; write"),
        ("container:tote-1000;1,200;;each", "can mean two things"),
        ("container:tote-1000;=A1;;each", "is a formula"),
        ("=cmd|'/c calc'!A1;5;;each", "is a formula"),
        ("container:tote-1000;-3;;each", "between 0 and"),
        ("container:tote-1000;nan;;each", "cannot be read"),
        ("container:tote-1000;1e9;;each", "between 0 and"),
        ("container:tote-1000;5;;L", "is not sold by the L"),
        ("container:tote-1000;5;;dozen", "is not a unit"),
        ("mine;5;;each", "“section” must be one of"),
        (";5;;each", "“item” is empty"),
        ("container:tote-1000;40;;each\ncontainer:tote-1000;41;;each", "in a row before this"),
    ],
)
def test_a_row_that_cannot_be_taken_is_told_by_its_number(row: str, words: str) -> None:
    """The rows round it are taken: semicolons, decimal commas and a byte-order mark are read."""
    rows = ("\ufeffitem;price;owned;unit", "medium:gravel;0,12;;l", row, "", "medium:lava;3;;gal")
    text = "\r\n".join(rows)
    found = read_prices(text.encode())
    (error,) = found.errors
    assert words in error.sentence
    assert error.row == 3 + row.count("\n")
    told = {p.item.key: p.price for p in found.prices}
    assert told["medium:gravel"] == pytest.approx(120.0)  # for a cubic metre
    assert told["medium:lava"] == pytest.approx(3.0 / 3.785411784e-3)


@pytest.mark.parametrize(
    ("data", "words"),
    [
        (b"", "must name the columns"),
        (b"name,cost\nPump,3\n", "“item” is missing"),
        (b"item,price\n\xff\xfe\xfa,3\n", "store it as CSV UTF-8"),
        (b"item,price\n" + b"x" * 1_000_001, "larger than 1 MB"),
    ],
)
def test_a_file_that_is_no_price_list_is_told(data: bytes, words: str) -> None:
    found = read_prices(data)
    assert not found.prices
    assert words in found.errors[0].sentence
    assert found.errors[0].row == 0


@pytest.mark.parametrize("path", sorted(EXAMPLE.parent.glob("*.json")), ids=lambda p: p.stem)
def test_every_part_of_a_plan_is_on_its_list_once(path: Path) -> None:
    """Vessels, pumps and air by count; pipe as the cut list buys it; sections in order; the total
    is the sum of what has a price."""
    plan = load_plan(path.read_bytes())
    found = evaluate(plan)
    bought = shopping_list(found, 3.0)
    keys = [line.item.key for line in bought.lines]
    assert len(set(keys)) == len(keys)
    by_section = {s: sum(x.needed for x in bought.lines if x.item.section == s) for s in SECTIONS}
    saved = sum(len(cut.vessels) - 1 for cut in tote_cuts(plan))
    assert by_section["Vessels"] == len(plan.vessels) - saved
    assert by_section["Pumps and air"] >= len(plan.pumps) + len(plan.air_pumps)
    lengths = sum(
        3.0 * len(cut_list(n.pieces, 3.0, 0.003).stocks) if n.standard else n.length
        for n in pipe_pieces(found)
    )
    assert by_section["Pipe and hose"] == pytest.approx(lengths)
    order = [SECTIONS.index(line.item.section) for line in bought.lines]
    assert order == sorted(order)
    prices = PriceList("EUR", {x.item.key: Price(x.item, 2.0) for x in bought.lines})
    priced = shopping_list(found, 3.0, prices)
    assert not priced.without_price
    assert priced.total == pytest.approx(2.0 * math.fsum(x.buys for x in priced.lines))
    assert priced.total == pytest.approx(math.fsum(priced.total_of(s) for s in SECTIONS))
    at_hand = PriceList("", {x.item.key: Price(x.item, 2.0, 1e4) for x in bought.lines})
    assert shopping_list(found, 3.0, at_hand).total == 0.0


def test_what_is_at_hand_is_not_bought_and_pipe_is_bought_whole() -> None:
    """By hand: 18 m of pipe in six lengths of 3 m at 4 a metre; with 4 m at hand five are bought.
    Media: (0.95 × 1.15 less the corners) of a bed 0.3 m deep, and a twentieth more."""
    found = evaluate(load_plan((EXAMPLE.parent / "raft-line.json").read_bytes()))
    key = "pipe:ASTM D1785 Schedule 40:1 1/2 in"
    item = next(i for i in shelf_items() if i.key == key)
    for owned, stocks in ((0.0, 6), (4.0, 5), (15.5, 1), (18.0, 0)):
        prices = PriceList("", {key: Price(item, 4.0, owned)})
        line = next(x for x in shopping_list(found, 3.0, prices).lines if x.item.key == key)
        assert line.needed == 18.0
        assert line.stocks == stocks
        assert line.cost == pytest.approx(12.0 * stocks)
    bed = evaluate(load_plan(EXAMPLE.read_bytes()))
    (vessel,) = (v for v in bed.plan.vessels if v.media is not None)
    assert vessel.media is not None
    heap = vessel.shape.footprint * (vessel.media.top - vessel.media.bottom)
    line = next(
        x for x in shopping_list(bed, 3.0).lines if x.item.key == f"medium:{vessel.media.kind}"
    )
    assert line.buys == pytest.approx(1.05 * heap, rel=0.05)


@pytest.mark.parametrize("container", containers(), ids=lambda c: c.key)
def test_a_vessel_made_of_a_container_is_bought_as_that(container: object) -> None:
    """And as no other one."""
    plan = load_plan((EXAMPLE.parent / "raft-line.json").read_bytes())
    key: str = container.key  # type: ignore[attr-defined]
    made = apply_edits(plan, use_container(plan, "S1", key))
    found = made_of(made.vessel("S1").shape)
    assert found is not None
    assert found.key == key
    assert made_of(plan.vessel("S1").shape) is None


def test_the_commands_read_a_price_list(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """One with a wrong row ends them, told by its number."""
    prices = tmp_path / "prices.csv"
    prices.write_text("item,price\ncontainer:tote-1000,60\ncontainer:tote-600,40\n")
    path = str(EXAMPLE.parent / "raft-line.json")
    assert (
        main(["size", "settler", path, "--order", "price", "--prices", str(prices), "--json"]) == 0
    )
    options = json.loads(capsys.readouterr().out)["options"]
    assert [o["price"] for o in options[:3]] == [40.0, 60.0, None]
    assert main(["build", path, "--prices", str(prices)]) == 0
    assert "24 things have no price yet" in capsys.readouterr().out
    prices.write_text("item,price\ncontainer:tote-1000,cheap\n")
    with pytest.raises(SystemExit):
        main(["build", path, "--prices", str(prices)])
    assert "row 2: “price”: “cheap” cannot be read" in capsys.readouterr().err
