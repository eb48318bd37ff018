"""What the page of the ground plan shows."""

from collections.abc import Mapping
from typing import Any

from bathys.drawing.ground_picture import GroundPicture, WayDrawn
from bathys.drawing.ground_plan import LOAD_STEPS, draw_ground_plan
from bathys.ground import best_place, is_laid
from bathys.pipeline import Assessment
from bathys.plan import Plan
from bathys.units import System, entry, own_system, show, show_tape
from bathys_web.plans.actions.lay_ground import ADDABLE_MARKS
from bathys_web.plans.ground_rows import ChoiceGroup, RunRow, choices, run_row
from bathys_web.plans.shown_findings import shown_finding

__all__ = ["better_context", "ground_context"]

_RULES = "G"  # with which the names of rules of the ground begin


def ground_context(
    found: Assessment,
    units: System,
    picked: str,
    typed: Mapping[str, str],
    errors: Mapping[str, str],
    here: str,
) -> dict[str, Any]:
    """Everything on the page.

    Parameters
    ----------
    found : Assessment
        Numbers and findings of the plan
    units : System
        The reader's units
    picked : str
        Id of the part or mark that is picked
    typed : mapping of str to str
        What was typed and could not be read, by field
    errors : mapping of str to str
        Sentences by field
    here : str
        Address of the page

    Returns
    -------
    dict of str to object
        Variables of the template
    """
    evaluation = found.evaluation
    plan = evaluation.plan
    picture = draw_ground_plan(evaluation, units)
    shown = [f for f in found.findings if f.rule.id.startswith(_RULES)]
    pick = _picked(plan, picture, picked, units)
    if pick is not None and errors:
        for box in pick["boxes"]:
            box["text"] = typed.get(box["name"], box["text"])
            box["error"] = errors.get(box["name"], "")
    site = [
        _box("length", "Site, left to right", picture.ground.length, "length", units),
        _box("width", "Site, near to far", picture.ground.width, "length", units),
    ]
    if errors and "site" in typed:
        for box in site:
            box["text"] = typed.get(box["name"], box["text"])
            box["error"] = errors.get(box["name"], "")
    corners = picture.ground.outline
    outline = {
        "text": "\n".join(_corner_text((c.x, c.y), units) for c in corners),
        "error": errors.get("outline", ""),
    }
    if outline["error"]:
        outline["text"] = typed.get("outline", "")
    return {
        "picture": picture,
        "outline": outline,
        "picked": picked if pick is not None else "",
        "pick": pick,
        "site": site,
        "wrong": errors.get("", ""),
        "findings": [shown_finding(f, plan, units) for f in shown],
        "loads": [
            {"label": f.label, "load": show(f.load, "pressure_load", units)} for f in picture.feet
        ],
        "load_steps": _steps(units),
        "run_rows": [_run_row(way, plan, here, units) for way in picture.ways],
        "choices": choices(_groups(picture), picked if pick is not None else ""),
        "all_follow": all(way.follows for way in picture.ways),
        "has_sump": any(v.use.takes_up and v.within is None for v in plan.vessels),
        "is_laid": is_laid(plan),
        "is_placed": any(v.spot is not None for v in plan.vessels),
        "pipe": show(sum(way.length for way in picture.ways), "length", units),
        "marks": ADDABLE_MARKS.items(),
    }


def _run_row(way: WayDrawn, plan: Plan, here: str, units: System) -> str:
    planned = float(plan.part(way.run).level_length)
    return run_row(
        RunRow(
            here,
            way.run,
            way.label,
            way.name,
            show(way.length, "length", units),
            show(planned, "length", units),
            way.bends,
            way.follows,
            abs(way.length - planned) > 0.02,
        )
    )


def _groups(picture: GroundPicture) -> tuple[ChoiceGroup, ...]:
    """All that can be picked, by what it is."""
    vessels = [(f.placed.vessel, f.label) for f in picture.feet]
    told: tuple[ChoiceGroup, ...] = (
        ("Vessels", tuple((v.id, f"{label} {v.name}") for v, label in vessels)),
        ("Runs", tuple((w.run, f"{w.label} {w.name}") for w in picture.ways)),
        ("Joints", tuple((j.id, j.label) for j in picture.joints)),
        (
            "On the site",
            tuple(
                (m.mark.id, f"{m.mark.id} {ADDABLE_MARKS[m.mark.kind][0]}") for m in picture.marks
            ),
        ),
    )
    return tuple((title, rows) for title, rows in told if rows)


def _steps(units: System) -> list[str]:
    low = [0.0, *LOAD_STEPS]
    told = [f"to {show(high, 'pressure_load', units)}" for high in LOAD_STEPS]
    return [*told, f"over {show(low[-1], 'pressure_load', units)}"]


def _box(name: str, label: str, value: float, quantity: str, units: System) -> dict[str, Any]:
    return {
        "name": name,
        "label": label,
        "text": entry(value, quantity, units),
        "error": "",
    }


def _picked(
    plan: Plan, picture: GroundPicture, picked: str, units: System
) -> dict[str, Any] | None:
    """The part that is picked, with its boxes."""
    foot = next((f for f in picture.feet if f.placed.vessel.id == picked), None)
    if foot is not None:
        spot = foot.placed
        return {
            "kind": "vessel",
            "id": picked,
            "name": spot.vessel.name,
            "within": spot.vessel.within,
            "load": show(foot.load, "pressure_load", units),
            "boxes": [
                _box("x", "Middle, from the left", spot.x, "length", units),
                _box("y", "Middle, from the near edge", spot.y, "length", units),
                _box("turned", "Turned to the left", spot.turned, "angle", units),
            ],
        }
    mark = next((m.mark for m in picture.marks if m.mark.id == picked), None)
    if mark is not None:
        return {
            "kind": "mark",
            "id": picked,
            "name": ADDABLE_MARKS[mark.kind][0].capitalize(),
            "boxes": [
                _box("x", "Middle, from the left", mark.x, "length", units),
                _box("y", "Middle, from the near edge", mark.y, "length", units),
                _box("length", "Length, left to right", mark.length, "length", units),
                _box("width", "Width, near to far", mark.width, "length", units),
            ],
        }
    joint = next((j for j in picture.joints if j.id == picked), None)
    if joint is not None:
        x = (joint.x - picture.left) / picture.per_metre
        y = (picture.foot - joint.y) / picture.per_metre
        return {
            "kind": "joint",
            "id": picked,
            "name": plan.names[picked],
            "boxes": [
                _box("x", "From the left", round(x, 2), "length", units),
                _box("y", "From the near edge", round(y, 2), "length", units),
            ],
        }
    way = next((w for w in picture.ways if w.run == picked), None)
    if way is not None:
        corners = _corners(picture, way.corners)
        text = "\n".join(
            _corner_text((x, y) if z is None else (x, y, z), units) for x, y, z in corners
        )
        return {
            "kind": "run",
            "id": picked,
            "name": way.name,
            "way": way,
            "ground": show(way.length, "length", units),
            "planned": show(plan.part(picked).level_length, "length", units),
            "boxes": [
                {"name": "corners", "label": "Corners", "text": text, "error": "", "lines": True}
            ],
        }
    return None


def _corner_text(lengths: tuple[float, ...], units: System) -> str:
    """A corner as it is typed."""
    if own_system(units, "length") == "us":
        return ", ".join(show_tape(length, units) for length in lengths)
    return ", ".join(f"{length:.3f} m" for length in lengths)


def _corners(
    picture: GroundPicture, corners: tuple[tuple[float, float, float | None], ...]
) -> list[tuple[float, float, float | None]]:
    """Corners in metres, as they were before they were drawn."""
    return [
        ((x - picture.left) / picture.per_metre, (picture.foot - y) / picture.per_metre, z)
        for x, y, z in corners
    ]


def better_context(plan: Plan, units: System) -> dict[str, Any] | None:
    """Where a sump would save the most pipe.

    Parameters
    ----------
    plan : Plan
        The plan
    units : System
        The reader's units

    Returns
    -------
    dict of str to object or None
        The vessel, its place and what it saves, [m] in words; none if no place saves any
    """
    sumps = [v for v in plan.vessels if v.use.takes_up and v.within is None]
    found = [b for b in (best_place(plan, v.id) for v in sumps[:3]) if b is not None]
    if not found:
        return None
    best = max(found, key=lambda b: b.saved)
    return {
        "vessel": plan.vessel(best.vessel),
        "x": best.x,
        "y": best.y,
        "at": f"{show(best.x, 'length', units)} from the left and "
        f"{show(best.y, 'length', units)} from the near edge",
        "saved": show(best.saved, "length", units),
    }
