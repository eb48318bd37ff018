"""The command and its exit status."""

import json
from pathlib import Path
from typing import Any

import pytest

from bathys.cli import main
from tests.conftest import EXAMPLE


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


def test_a_sound_plan_exits_with_zero() -> None:
    """The demo keeps every margin."""
    assert main(["check", str(EXAMPLE)]) == 0


def test_json_is_json(capsys: pytest.CaptureFixture[str]) -> None:
    """In SI, with the source of each figure."""
    main(["check", str(EXAMPLE), "--json"])
    data = json.loads(capsys.readouterr().out)
    flow = next(f for f in data["figures"] if f["key"] == "P1.flow")
    assert 0.0 < flow["value"] < 0.001
    assert flow["source"]


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
