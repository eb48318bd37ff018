"""The command and its exit status."""

import json
from pathlib import Path
from typing import Any

import pytest

from bathys.cli import main
from tests.conftest import EXAMPLE


@pytest.mark.uncompiled
def test_findings_exit_with_one(
    document: dict[str, Any], tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    """A tank filled to its rim has no freeboard."""
    document["vessels"][0]["water_depth"] = 0.74
    (tmp_path / "plan.json").write_text(json.dumps(document))
    assert main(["check", str(tmp_path / "plan.json"), "--units", "us"]) == 1
    printed = capsys.readouterr().out
    assert "gal/h" in printed
    assert "Cycle of grow bed" in printed


@pytest.mark.uncompiled
def test_a_sound_plan_exits_with_zero() -> None:
    """The demo keeps every margin."""
    assert main(["check", str(EXAMPLE)]) == 0


@pytest.mark.uncompiled
def test_json_is_json(capsys: pytest.CaptureFixture[str]) -> None:
    """In SI, with the source of each figure."""
    main(["check", str(EXAMPLE), "--json"])
    data = json.loads(capsys.readouterr().out)
    flow = next(f for f in data["figures"] if f["key"] == "P1.flow")
    assert 0.0 < flow["value"] < 0.001
    assert flow["source"]


@pytest.mark.uncompiled
@pytest.mark.parametrize("content", ["{", '{"format": "bathys-plan"}', None])
def test_bad_input_exits_with_two(
    content: str | None, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    """And says which file and what."""
    path = tmp_path / "plan.json"
    if content is not None:
        path.write_text(content)
    with pytest.raises(SystemExit) as ended:
        main(["check", str(path)])
    assert ended.value.code == 2
    assert "plan.json" in capsys.readouterr().err


@pytest.mark.uncompiled
def test_a_day_with_a_power_cut_is_told_and_written_down(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    """Cycles, levels, events, and one line of CSV for every sample."""
    table = tmp_path / "levels.csv"
    words = ["simulate", str(EXAMPLE), "--hours", "3", "--cut", "1:10", "--for", "30min"]
    assert main([*words, "--csv", str(table), "--dry-air"]) == 0
    printed = capsys.readouterr().out
    assert "1:10:00  Power cut" in printed
    assert "1:40:00  Power is back" in printed
    assert "went outside" in printed
    lines = table.read_text().splitlines()
    assert lines[0] == "time_s,T1_m,B1_m"
    assert len(lines) == 3 * 360 + 2
    assert main([*words, "--json"]) == 0
    assert json.loads(capsys.readouterr().out)["siphons"][0]["cycle"] > 60.0


@pytest.mark.uncompiled
@pytest.mark.parametrize(
    ("typed", "status", "told"),
    [
        ("block:R2", 0, "overflows"),
        ("dead:P1", 0, "lowest"),
        ("idle:S1", 0, "lowest"),
        ("stuck:S1", 0, "lowest"),
        ("rain:90mm", 0, "It begins to rain"),
        ("block:R9", 2, "There is R1, R2"),
        ("flood:R1", 2, "is not understood"),
        ("rain:much", 2, "cannot be read"),
    ],
)
def test_what_if(typed: str, status: int, told: str, capsys: pytest.CaptureFixture[str]) -> None:
    """Something fails, or what is typed is not understood and what could be is named."""
    assert main(["simulate", str(EXAMPLE), "--hours", "3", "--what-if", typed]) == status
    printed = capsys.readouterr()
    assert told in printed.out + printed.err


@pytest.mark.uncompiled
def test_too_many_hours_are_refused(capsys: pytest.CaptureFixture[str]) -> None:
    """A year is more than a run follows."""
    assert main(["simulate", str(EXAMPLE), "--hours", "8760"]) == 2
    assert "744 hours" in capsys.readouterr().err


def test_a_resilience_run_tells_sump_cuts_and_failures(capsys: pytest.CaptureFixture[str]) -> None:
    """In words, and the same as data."""
    assert main(["resilience", str(EXAMPLE)]) == 0
    printed = capsys.readouterr().out
    for words in (
        "What Fish tank must hold",
        "marks over its floor",
        "Power cut just after",
        "If something fails",
        "warning  U9",
    ):
        assert words in printed
    main(["resilience", str(EXAMPLE), "--json"])
    data = json.loads(capsys.readouterr().out)
    assert data["sumps"][0]["least"] < data["sumps"][0]["holds"]
    assert {m["kind"] for m in data["failures"]} >= {"blocked", "burst"}


@pytest.mark.uncompiled
def test_siphons_and_timers_are_sized(capsys: pytest.CaptureFixture[str]) -> None:
    """With what the bed gets, or with what is said; refusals in words."""
    timed = str(EXAMPLE.parent / "two-pump-timed.json")
    assert main(["size", "siphon", str(EXAMPLE)]) == 0
    assert "bell" in capsys.readouterr().out
    main(["size", "siphon", str(EXAMPLE), "--inflow", "20 L/h"])
    assert "too little for any siphon" in capsys.readouterr().out
    assert main(["size", "timer", timed, "--part", "O3", "--json"]) == 0
    choices = json.loads(capsys.readouterr().out)["choices"]
    assert all(c["dry_time"] >= 900.0 and c["fill_time"] <= 600.0 for c in choices)
    main(["size", "timer", timed, "--part", "O3", "--inflow", "100 L/h"])
    assert "at best" in capsys.readouterr().out
    with pytest.raises(SystemExit):
        main(["size", "siphon", timed])
