"""Kinds traded for others, and runs led elsewhere: what can be kept is kept."""

from itertools import product

import pytest

from bathys.edits import SWITCHES, EditRefused, apply_edits, connect, lead_elsewhere, switch_kind
from bathys.network import NotSolved
from bathys.parts.media import MEDIA
from bathys.pipeline import assess
from bathys.plan import Plan, load_plan
from bathys.vessels import storage_of
from tests.conftest import EXAMPLE

FOLDER = EXAMPLE.parent
NAMES = sorted(p.stem for p in FOLDER.glob("*.json") if p.stem != "twelve-beds")


def _plan(name: str) -> Plan:
    return load_plan((FOLDER / f"{name}.json").read_bytes())


@pytest.mark.parametrize("name", NAMES)
def test_a_shell_keeps_its_height_and_its_area(name: str) -> None:
    """Of whatever kind it is made; measured by filling it, it holds what it held at every level."""
    plan = _plan(name)
    for vessel, kind in product(plan.vessels, SWITCHES["shape"]):
        shape = switch_kind(plan, f"vessels.{vessel.id}.shape", kind).plan.vessel(vessel.id).shape
        assert shape.height == pytest.approx(vessel.shape.height, abs=1e-4)
        assert shape.footprint == pytest.approx(vessel.shape.footprint, rel=1e-3)
        if kind == "measured":
            measured = switch_kind(plan, f"vessels.{vessel.id}.shape", kind).plan
            before, after = (storage_of(p, p.vessel(vessel.id)) for p in (plan, measured))
            full = float(before.volume(shape.height))
            for share in (0.1, 0.35, 0.6, 0.85, 1.0):
                level = share * shape.height
                assert float(after.volume(level)) == pytest.approx(
                    float(before.volume(level)), abs=0.005 * full
                )


@pytest.mark.parametrize("name", NAMES)
def test_siphons_and_outlets_keep_their_height_and_their_runs(name: str) -> None:
    """There and back again, whichever kind comes between, and each can be worked out."""
    plan = _plan(name)
    for group in ("siphons", "outlets"):
        for part, kind in product(getattr(plan, group), SWITCHES[group]):
            path = f"{group}.{part.id}"
            other = switch_kind(plan, path, kind).plan
            assert other.part(part.id).kind == kind
            assert other.runs == plan.runs
            assess(other)
            back = switch_kind(other, path, part.kind).plan.part(part.id)
            for field in ("rim_height", "crest_height", "height"):
                if field in type(part).model_fields and not getattr(part, "holes", 0):
                    assert getattr(back, field) == getattr(part, field)


def test_a_filling_brings_its_own_voids() -> None:
    """What was measured is kept as long as the new medium can have it."""
    plan = _plan("stacked-pair")
    media = plan.vessel("B1").media
    assert media is not None
    for kind, medium in MEDIA.items():
        filled = switch_kind(plan, "vessels.B1.media", kind).plan.vessel("B1").media
        assert filled is not None
        assert filled.kind == kind
        assert medium.void_low <= filled.void_fraction <= medium.void_high
        assert (filled.bottom, filled.top) == (media.bottom, media.top)
    bare = switch_kind(plan, "vessels.B1.media", "none").plan
    assert bare.vessel("B1").media is None
    assert switch_kind(bare, "vessels.B1.media", "lava").plan.vessel("B1").media is not None


@pytest.mark.parametrize("name", NAMES)
def test_a_run_led_elsewhere_leaves_no_hole_behind(name: str) -> None:
    """To any other part it may lead to; else a sentence says why not."""
    plan = _plan(name)
    parts = [p.id for g in ("vessels", "junctions", "pumps") for p in getattr(plan, g)]
    led = 0
    for run, end in product(plan.runs, ("from", "to")):
        for id_ in parts:
            try:
                edits = lead_elsewhere(plan, run.id, end, id_)  # type: ignore[arg-type]
                other = apply_edits(plan, edits)
            except EditRefused as refused:
                assert str(refused)[-1] in ".)"
                continue
            moved = next(r for r in other.runs if r.id == run.id)
            place = moved.start if end == "from" else moved.end
            assert place.partition(".")[0] == id_
            kept = {q for r in other.runs for q in (r.start, r.end)}
            was = {q for r in plan.runs for q in (r.start, r.end)}
            holes = {f"{v.id}.{p.name}" for v in other.vessels for p in v.ports}
            assert not (was - kept) & holes
            led += 1
    assert led > 0


def test_a_run_that_was_led_away_can_be_led_back() -> None:
    """And the plan is worked out as it was, but for the height of its new hole."""
    plan = _plan("stacked-pair")
    edits, new = connect(plan, "B1", "T1")
    with_pipe = apply_edits(plan, edits)
    assert lead_elsewhere(with_pipe, new, "to", "T1") == []
    with pytest.raises(EditRefused, match="one part to another"):
        lead_elsewhere(with_pipe, new, "to", "B1")
    try:
        assess(with_pipe)
    except NotSolved as error:  # pragma: no cover - would be a fault of the plan above
        pytest.fail(str(error))
