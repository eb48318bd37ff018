"""What the commands print and hand on: the same figures, in any units, and sums that come out."""

import json
import math
import re
from itertools import pairwise
from pathlib import Path
from typing import Any

import pytest

from bathys.cli import main
from bathys.evaluation import evaluate
from bathys.plan import Plan, load_plan
from bathys.quality.solids import solids_of
from bathys.quality.water import water_of

EXAMPLES = Path(__file__).parent.parent.parent / "examples"
NAMES = (
    "split-flow", "twin-sumps", "small-settler", "fish-and-leaves", "decoupled-pair",
    "stacked-pair", "two-pump-timed",
)  # fmt: skip
STOCKED = [n for n in NAMES if '"species"' in (EXAMPLES / f"{n}.json").read_text("utf-8")]
PUMPED = ("split-flow", "two-pump-timed", "twin-sumps", "decoupled-pair")


def _plan(name: str) -> Plan:
    return load_plan((EXAMPLES / f"{name}.json").read_bytes())


def _data(capsys: pytest.CaptureFixture[str], *words: str) -> Any:
    """What a command hands on as JSON: no word that JSON does not have."""
    name = next(w for w in words if w in NAMES)
    at = words.index(name)
    main([*words[:at], str(EXAMPLES / f"{name}.json"), *words[at + 1 :], "--json"])

    def refused(word: str) -> float:
        raise AssertionError(f"{word} is no JSON")

    return json.loads(capsys.readouterr().out, parse_constant=refused)


def _text(capsys: pytest.CaptureFixture[str], *words: str) -> str:
    name = next(w for w in words if w in NAMES)
    at = words.index(name)
    main([*words[:at], str(EXAMPLES / f"{name}.json"), *words[at + 1 :]])
    printed = capsys.readouterr().out
    assert not re.search(r"\b(nan|inf|None)\b", printed)
    return printed


@pytest.mark.counted
@pytest.mark.parametrize("name", NAMES)
def test_solids_that_are_made_end_somewhere(name: str, capsys: pytest.CaptureFixture[str]) -> None:
    """Made is what ends in parts, what leaves and what climbs: mass is kept."""
    told = _data(capsys, "solids", name)
    ends = math.fsum(told["ends_a_day"].values())
    assert ends + told["leaves_a_day"] + told["climbs_a_day"] == pytest.approx(
        told["solids_made_a_day"], rel=1e-6, abs=1e-9
    )
    for settler in told["settlers"]:
        caught = settler["caught"]
        assert 0.0 <= caught["low"] <= caught["value"] <= caught["high"] <= 1.0
        assert settler["flow"] == pytest.approx(
            settler["overflow_rate"]
            * next(s["area"] for s in settler["ladder"] if s["name"] == "open water"),
            rel=1e-6,
        )
        for step in settler["ladder"]:
            assert step["speed"] * step["area"] == pytest.approx(settler["flow"], rel=1e-6)
    for held in (*told["beds"], *told["filters"]):
        assert held["held_a_day"] >= 0.0
    assert told["feed_a_day"] == pytest.approx(solids_of(evaluate(_plan(name))).feed)
    printed = _text(capsys, "solids", name, "--units", "us")
    for settler in told["settlers"]:
        assert f"Velocities in {_plan(name).names[settler['vessel']]}" in printed


@pytest.mark.counted
@pytest.mark.parametrize("name", ["split-flow", "small-settler", "fish-and-leaves"])
def test_with_nobody_cleaning_loads_only_grow_until_something_happens(
    name: str, capsys: pytest.CaptureFixture[str]
) -> None:
    told = _data(capsys, "solids", name, "--days")
    days = [moment["day"] for moment in told["moments"]]
    assert days == sorted(days)
    happened = [h["day"] for h in told["happenings"]]
    assert happened == sorted(happened)
    first = happened[0] if happened else math.inf
    before = [m for m in told["moments"] if m["day"] < first]
    for earlier, later in pairwise(before):
        for part, load in earlier["loads"].items():
            assert later["loads"][part] >= load - 1e-9
    printed = _text(capsys, "solids", name, "--days")
    assert ("nothing happens" in printed) == (not happened)
    assert len(happened) <= printed.count("days")


@pytest.mark.counted
@pytest.mark.parametrize("name", NAMES)
def test_ammonia_that_fish_make_goes_somewhere(
    name: str, capsys: pytest.CaptureFixture[str]
) -> None:
    told = _data(capsys, "water", name)
    printed = _text(capsys, "water", name)
    if told is None:
        assert name not in STOCKED
        assert "Nothing is fed" in printed
        return
    made, nitrified, taken_up, used, brought = (
        math.fsum(told[k].values()) if isinstance(told[k], dict) else told[k]
        for k in ("ammonia_made", "nitrified", "taken_up", "oxygen_used", "oxygen_brought")
    )
    assert nitrified <= made * (1.0 + 1e-6)
    assert made == pytest.approx(taken_up + told["gas"] + told["nitrate_left"], rel=0.01)
    assert used == pytest.approx(brought, rel=1e-3)
    for row in told["vessels"].values():
        assert 4.0 <= row["ph"] <= 10.0
        assert 0.0 <= row["oxygen"] < 25.0
        if row["tan"] is not None:
            assert 0.0 <= row["ammonia"] <= row["tan"]
    for row in told["survival"]:
        known = [row[k] for k in ("no_flow", "no_air") if row[k] is not None]
        if row["neither"] is not None:
            assert row["neither"] <= min(known, default=math.inf) * (1.0 + 1e-9)
    water = water_of(evaluate(_plan(name)))
    assert water is not None
    assert told["feed_a_day"] == pytest.approx(sum(s.feed for s in water.stock.values()))
    for id_ in told["vessels"]:
        assert _plan(name).names[id_] in printed


@pytest.mark.counted
@pytest.mark.parametrize("name", NAMES)
def test_watts_and_hours_are_the_energy_that_is_paid(
    name: str, capsys: pytest.CaptureFixture[str]
) -> None:
    told, site = _data(capsys, "power", name), _plan(name).site
    for row in told["consumers"]:
        assert row["energy"] == pytest.approx(1e-3 * row["watts"] * row["hours"])
        assert 0.0 <= row["hours"] <= 24.0
    for what in ("energy", "cost"):
        assert math.fsum(c[what] for c in told["circuits"]) == pytest.approx(
            math.fsum(c[what] for c in told["consumers"])
        )
    heat = told["heat"]
    assert heat["wanted"] >= 0.0
    if heat["wanted"] > 1.0:
        given = heat["pumps"] + heat["wanted"]
        lost = heat["walls"] + heat["surface"] + heat["evaporation"] + heat["fresh"]
        assert given == pytest.approx(lost, rel=1e-6)
        assert heat["heater"] >= heat["wanted"]
    if told["hottest_day"] is not None:
        day = told["hottest_day"]
        assert all(m["hottest"] <= day["hottest"] + 1e-6 for m in day["measures"])
    printed = _text(capsys, "power", name)
    assert site.currency in printed or not told["consumers"]


@pytest.mark.counted
@pytest.mark.parametrize("name", PUMPED)
def test_pumps_that_are_said_to_do_have_head_to_spare(
    name: str, capsys: pytest.CaptureFixture[str]
) -> None:
    """Its curve at the wanted flow, worked out here anew, lies over the wanted head."""
    told = _data(capsys, "size", "pump", name)
    for pump in told["pumps"]:
        share = told["flow"] / pump["max_flow"]
        reaches = pump["max_head"] * (1.0 - share ** pump["exponent"])
        assert reaches - told["head"] == pytest.approx(pump["spare_head"], abs=1e-6)
        assert pump["spare_head"] >= -1e-9
        assert pump["energy_year"] == pytest.approx(365.0 * 24e-3 * pump["power"], rel=0.01)
    assert told["count"] >= len(told["pumps"])
    printed = _text(capsys, "size", "pump", name, "--units", "us")
    assert f"{told['count']} of " in printed
    assert all(pump["name"] in printed for pump in told["pumps"])


@pytest.mark.counted
@pytest.mark.parametrize("name", PUMPED)
def test_a_wider_bore_lets_through_no_less(name: str, capsys: pytest.CaptureFixture[str]) -> None:
    for run in _plan(name).runs[:6]:
        told = _data(capsys, "size", "pipe", name, "--part", run.id)
        bores = sorted(told["bores"], key=lambda b: b["bore"])
        for bore in bores:
            area = 0.25 * math.pi * bore["bore"] ** 2
            assert bore["velocity"] * area == pytest.approx(bore["flow"], rel=1e-3, abs=1e-12)
        for narrow, wide in pairwise(bores):
            if wide["bore"] > narrow["bore"] + 1e-6 and narrow["flow"] > 0.0:
                assert wide["flow"] >= narrow["flow"] * (1.0 - 1e-6)
                assert wide["half_flow"] > narrow["half_flow"]
        assert sum(b["is_advised"] for b in bores) <= 1
        printed = _text(capsys, "size", "pipe", name, "--part", run.id)
        assert len(printed.splitlines()) >= len(bores)


@pytest.mark.counted
@pytest.mark.parametrize("name", PUMPED)
def test_valves_give_the_wanted_flows_in_the_same_shares(
    name: str, capsys: pytest.CaptureFixture[str]
) -> None:
    told, printed = _data(capsys, "size", "valves", name), _text(capsys, "size", "valves", name)
    for mode in told["modes"]:
        assert f"{mode['mode']}:" in printed
        if mode["refusal"]:
            assert not mode["valves"] or mode["share"] != 1.0
            continue
        for valve in mode["valves"]:
            assert 0.0 <= valve["angle"] <= 90.0
            if mode["mode"] in ("exact", "proportional"):
                assert valve["flow"] == pytest.approx(mode["share"] * valve["wanted"], rel=0.02)


def test_parts_that_are_not_there_are_named(capsys: pytest.CaptureFixture[str]) -> None:
    for what, part in (("pump", "R1"), ("pipe", "P1"), ("siphon", "T1"), ("settler", "T9")):
        with pytest.raises(SystemExit) as ended:
            main(["size", what, str(EXAMPLES / "split-flow.json"), "--part", part])
        assert ended.value.code == 2
        assert "has no such" in capsys.readouterr().err
