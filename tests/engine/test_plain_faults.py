"""Whatever is wrong with a document, it is told in our own words."""

import json
import re
from pathlib import Path
from typing import Any

import pytest

from bathys.plan import BadPlan, plan_from_data
from tests.hunt.operators import spots_of
from tests.plan_files import lists_of

FILES = ["split-flow", "two-pump-timed", "decoupled-pair", "linked-beds"]
WRONG: list[Any] = [
    None,
    "",
    " ",
    "word",
    -1.0,
    1e300,
    10**30,
    True,
    [],
    {},
    [1],
    {"kind": "nothing"},
    "x" * 3000,
    "1" * 400,
    {"kind": "box"},
    ["a", "b"],
    1.5,
    "\x00",
]
FOREIGN = re.compile(
    r"[Ii]nput|pydantic|[Vv]alidat|[Vv]alid |dictionary|instance|discriminator|\btag\b|unpack|"
    r"parsing|JSON|type=|None|NoneType|Traceback|tuple|boolean|Extra|Field required|characters"
)


def _full(name: str) -> dict[str, Any]:
    """A plan with every optional thing there is in some part of it."""
    text = Path(f"examples/{name}.json").read_text()
    data: dict[str, Any] = plan_from_data(json.loads(text)).model_dump(mode="json", by_alias=True)
    return data


def _sentences(data: dict[str, Any]) -> set[str]:
    """What is wrong with a document; nothing if it is a plan."""
    try:
        plan_from_data(data)
    except BadPlan as bad:
        return {f.sentence for f in bad.faults}
    return set()


@pytest.mark.parametrize("name", FILES)
def test_no_library_wording_for_any_field_and_any_wrong_value(name: str) -> None:
    """Empty, wrong and huge values in every field of the schema."""
    data = _full(name)
    seen: set[str] = set()
    spots = {
        ".".join(s if isinstance(s, str) else "0" for s in spot.path): spot
        for spot in spots_of(data)
    }
    for spot in spots.values():
        here: Any = data
        for step in spot.path[:-1]:
            here = here[step]
        last, right = spot.path[-1], here[spot.path[-1]]
        for value in WRONG:
            here[last] = value
            seen |= _sentences(data)
        here[last] = right
        if isinstance(here, dict):
            rest = list(here.items())
            del here[last]
            seen |= _sentences(data)
            here.clear()
            here.update(rest)
    assert len(seen) > 20
    assert not sorted(s for s in seen if FOREIGN.search(s) or not s.endswith("."))


@pytest.mark.parametrize("data", [None, [], "plan", 3, {}, {"vessels": []}, {"vessels": "none"}])
def test_a_document_that_is_no_plan_at_all(data: Any) -> None:
    with pytest.raises(BadPlan) as bad:
        plan_from_data(data)
    assert not [f.sentence for f in bad.value.faults if FOREIGN.search(f.sentence)]


def test_no_vessel_is_narrower_than_a_pipe_in_it() -> None:
    data = lists_of(Path("examples/split-flow.json"))
    data["vessels"][0]["shape"]["diameter"] = 0.05
    with pytest.raises(BadPlan) as bad:
        plan_from_data(data)
    assert [f.path for f in bad.value.faults] == ["vessels.T1.shape"]


def test_a_bell_goes_over_its_standpipe_wall_and_all() -> None:
    """A bell of 32 mm inside over an inch pipe of 33 mm outside cannot be built."""
    data = lists_of(Path("examples/linked-beds.json"))
    data["siphons"][0]["bell_bore"] = {
        "kind": "standard",
        "standard": "ASTM D1785 Schedule 80",
        "nominal": "1 1/4 in",
    }
    with pytest.raises(BadPlan) as bad:
        plan_from_data(data)
    assert "bell must be wider" in bad.value.faults[0].sentence
