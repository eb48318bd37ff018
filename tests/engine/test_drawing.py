"""The side view as a file: well formed, complete, and safe whatever a plan's words hold."""

from pathlib import Path
from xml.etree import ElementTree

import pytest

from bathys.cli import main
from bathys.commands.draw import as_svg
from bathys.drawing.stations import stations_of
from bathys.pipeline import assess
from bathys.plan import load_plan

pytestmark = pytest.mark.uncompiled

EXAMPLES = sorted((Path(__file__).resolve().parents[2] / "examples").glob("*.json"))
SVG = "{http://www.w3.org/2000/svg}"


@pytest.mark.parametrize("path", EXAMPLES, ids=lambda p: p.stem)
def test_a_drawing_names_every_part_and_fetches_nothing(path: Path) -> None:
    """Every part's label stands in the picture and, with its name, in the list below it."""
    plan = load_plan(path.read_bytes())
    text = as_svg(assess(plan), plan.site.units)
    root = ElementTree.fromstring(text)  # noqa: S314 - made here
    words = [t.text or "" for t in root.iter(f"{SVG}text")]
    for station in stations_of(plan):
        if station.group != "transfers":
            assert f"{station.id}  {station.name}" in words, station
            assert station.label in words
    assert root.find(f"{SVG}title").text == plan.name  # type: ignore[union-attr]
    assert not list(root.iter(f"{SVG}script"))
    assert "http" not in text.replace("http://www.w3.org/2000/svg", "")


def test_words_of_a_plan_are_words_in_its_drawing() -> None:
    """Markup in a name is written out, neither run nor lost."""
    told = '<script>alert("&")</script>'
    plan = load_plan(EXAMPLES[0].read_bytes())
    first = plan.vessels[0].model_copy(update={"name": told})
    plan = plan.model_copy(update={"name": told, "vessels": (first, *plan.vessels[1:])})
    root = ElementTree.fromstring(as_svg(assess(plan), "us"))  # noqa: S314 - made here
    assert any(told in (t.text or "") for t in root.iter(f"{SVG}text"))
    assert not list(root.iter(f"{SVG}script"))


def test_the_command_writes_a_file_or_prints(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    out = tmp_path / "plan.svg"
    assert main(["draw", str(EXAMPLES[0]), "-o", str(out)]) == 0
    assert main(["draw", str(EXAMPLES[0])]) == 0
    assert capsys.readouterr().out == out.read_text(encoding="utf-8")
    assert main(["draw", str(EXAMPLES[0]), "-o", str(tmp_path / "no" / "plan.svg")]) == 2
    assert "No such file" in capsys.readouterr().err
