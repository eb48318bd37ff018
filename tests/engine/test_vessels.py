"""Level against volume, both ways."""

import math
from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from bathys.plan import plan_from_data
from bathys.vessels import Storage, storage_of
from tests.conftest import EXAMPLE
from tests.plan_files import lists_of

LAYERS = st.lists(st.tuples(st.floats(0.01, 0.5), st.floats(0.05, 3.0)), min_size=1, max_size=5)


def _storage(layers: list[tuple[float, float]]) -> Storage:
    heights = [0.0, *np.cumsum([step for step, _ in layers])[:-1]]
    return Storage(heights, [area for _, area in layers], sum(step for step, _ in layers))


@given(LAYERS, st.floats(0.0, 3.0))
def test_level_undoes_volume(layers: list[tuple[float, float]], level: float) -> None:
    """Exact, in every layer and above the rim."""
    storage = _storage(layers)
    assert float(storage.level(storage.volume(level))) == pytest.approx(level, abs=1e-12)


@given(LAYERS, st.floats(0.0, 2.0), st.floats(1e-6, 1.0))
def test_volume_rises_with_level(
    layers: list[tuple[float, float]], level: float, more: float
) -> None:
    """And by the area, within a layer."""
    storage = _storage(layers)
    assert float(storage.volume(level + more)) > float(storage.volume(level))
    tiny = 1e-9
    slope = float(storage.volume(level + tiny) - storage.volume(level)) / tiny
    areas = {float(storage.area(level)), float(storage.area(level + tiny))}
    assert any(slope == pytest.approx(area, rel=1e-3) for area in areas)


def test_a_bed_holds_its_voids_its_guard_and_the_water_above() -> None:
    """By hand: 1.10 × 0.75 m, 300 mm of media of 0.45 voids around a 110 mm guard."""
    document: dict[str, Any] = lists_of(EXAMPLE)
    plan = plan_from_data(document)
    storage = storage_of(plan, plan.vessel("B1"))
    guard = math.pi * 0.055**2
    wetted = 0.45 * (0.825 - guard) + guard
    assert float(storage.volume(0.2)) == pytest.approx(0.2 * wetted)
    assert float(storage.volume(0.32)) == pytest.approx(0.3 * wetted + 0.02 * 0.825)
    assert float(storage.volume(-1.0)) == 0.0


def test_a_round_shell(document: dict[str, Any]) -> None:
    """Area of a circle."""
    document["vessels"][0]["shape"] = {"kind": "cylinder", "diameter": 1.2, "height": 0.75}
    plan = plan_from_data(document)
    assert plan.vessel("T1").shape.footprint == pytest.approx(1.130973, rel=1e-6)


def test_shop_arithmetic_of_retention() -> None:
    """Common practice: 1,800 L/h through 200 L holds 6⅔ min; a 600 L raft held an hour takes at
    most 600 L/h."""
    drum = Storage([0.0], [0.2], 1.0)
    assert float(drum.volume(1.0)) / (1.8 / 3600) / 60 == pytest.approx(6.6667, abs=1e-3)
    raft = Storage([0.0], [2.0], 0.3)
    assert float(raft.volume(0.3)) / 3600 * 3.6e6 == pytest.approx(600.0)


SHELLS = [
    # Volume of cone, cap and cylinder by their closed forms; a tote's corners by hand.
    ({"kind": "cone", "diameter": 0.6, "height": 0.9, "cone_height": 0.3, "bottom_diameter": 0.1},
     math.pi / 12 * 0.3 * (0.01 + 0.06 + 0.36) + math.pi * 0.09 * 0.6),
    ({"kind": "dish", "diameter": 1.0, "height": 0.8, "dish_height": 0.2},
     math.pi * 0.2 / 6 * (3 * 0.25 + 0.04) + math.pi * 0.25 * 0.6),
    ({"kind": "tote", "height": 0.35}, (1.15 * 0.95 - (4 - math.pi) * 0.01) * 0.35),
    ({"kind": "measured", "marks": [{"level": 0.0, "volume": 0.0}, {"level": 0.1, "volume": 0.02},
                                    {"level": 0.5, "volume": 0.2}]}, 0.2),
]  # fmt: skip


@pytest.mark.parametrize(("shape", "volume"), SHELLS, ids=[str(s[0]["kind"]) for s in SHELLS])
def test_shells_of_every_shape(
    document: dict[str, Any], shape: dict[str, Any], volume: float
) -> None:
    """Full to the rim they hold what the closed form says; level and volume undo each other."""
    tank = document["vessels"][0]
    tank |= {"shape": shape, "water_depth": 0.2, "ports": [{"name": "return", "height": 0.3}]}
    tank["freeboard"] = 0.02
    plan = plan_from_data(document)
    vessel = plan.vessel("T1")
    storage = storage_of(plan, vessel)
    assert storage.volume_at(vessel.shape.height) == pytest.approx(volume, rel=1e-6)
    for level in np.linspace(0.0, vessel.shape.height, 57):
        assert storage.level_at(storage.volume_at(level)) == pytest.approx(level, abs=1e-9)


def test_what_is_displaced_is_missing(document: dict[str, Any]) -> None:
    """Fifty litres of fittings take fifty litres of water's place."""
    before = storage_of(plan := plan_from_data(document), plan.vessel("T1")).volume_at(0.75)
    document["vessels"][0]["displaced"] = 0.05
    after = storage_of(plan := plan_from_data(document), plan.vessel("T1")).volume_at(0.75)
    assert before - after == pytest.approx(0.05)
