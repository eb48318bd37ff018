"""A siphon tried otherwise on its bench: another bore, a lower tail, an elbow more, and what that
does to its window; built so in one press."""

import math
from dataclasses import replace
from typing import Any

from django.http import QueryDict

from bathys.edits import EditRefused
from bathys.evaluation import BedResult
from bathys.pipeline import Assessment
from bathys.plan import Plan
from bathys.plan.way_out import Siphon
from bathys.sizing import Outcome, SiphonVariant, sizes_for, try_variant, variant_edits, variant_of
from bathys.units import System, UnreadableQuantity, entry, read, show, unit_of
from bathys_web.plans.actions.apply_change import Offered
from bathys_web.plans.benches.windows import WIDE, band_of, flow_axis
from bathys_web.plans.numbers import whole_number

__all__ = ["take_variant", "variant_form", "variant_list"]

_LEAST_FALL, _MOST_FALL, _STEP = 0.02, 2.0, 0.01  # of the slider [m]
_MOST_ELBOWS = 99
_UPRIGHT = 90.0  # a last elbow turned straight up [°]
_MOVED = 1e-6  # a slider that stands further off than this was moved [m]
_OUTCOMES: dict[Outcome, tuple[str, str]] = {
    "works": ("It starts and stops, with room to spare on both sides.", "sound"),
    "little_to_start": ("It starts and stops, but is slow to start.", "warning"),
    "little_to_stop": ("It starts and stops, but has little to spare to stop.", "warning"),
    "never_starts": ("It never starts: the inflow trickles over its top.", "fault"),
    "hangs": ("It starts but does not stop: it gurgles at its intake.", "fault"),
    "holds": ("It starts and never stops: the inflow keeps it full.", "fault"),
}
_GONE = "That siphon is no longer in this plan."


def variant_form(found: Assessment, bed: BedResult, units: System) -> dict[str, Any]:
    """The boxes and sliders of a siphon as it stands, and what it does so.

    Parameters
    ----------
    found : Assessment
        Numbers and findings of a plan
    bed : BedResult
        The numbers of a bed
    units : System
        The reader's units

    Returns
    -------
    dict of str to object
        Variables of the template
    """
    plan, siphon = found.evaluation.plan, bed.siphon
    try:
        now = variant_of(plan, siphon)
    except EditRefused:
        return {}
    return {
        "sizes": sizes_for(siphon),
        "may_have_tube": siphon.has_air_tube is not None,
        **_range(plan, siphon, now),
        **_shown(found, bed, now, units),
    }


def _range(plan: Plan, siphon: Siphon, variant: SiphonVariant) -> dict[str, Any]:
    """How far its tail may fall, down to the floor of what it ends in; and the step of the slider
    that is nearest, since a slider stands only on its steps."""
    tail, most = plan.run_of(siphon), _MOST_FALL
    if tail is not None and plan.port(tail.end) is not None:
        lowest = plan.vessel(tail.target).floor_height
        most = min(most, plan.vessel(siphon.stands_in).floor_height - lowest)
    steps = int((most - _LEAST_FALL) / _STEP + _MOVED)
    nearest = round(((variant.fall or 0.0) - _LEAST_FALL) / _STEP)
    slid = _LEAST_FALL + _STEP * min(max(nearest, 0), steps)
    return {"least_fall": _LEAST_FALL, "most_fall": round(most, 3), "slid": round(slid, 2)}


def variant_list(
    found: Assessment, asked: QueryDict, units: System, context: object
) -> dict[str, Any]:
    """What a siphon would do built as asked.

    Parameters
    ----------
    found : Assessment
        Numbers and findings of a plan
    asked : QueryDict
        What is asked for, as in an address
    units : System
        The reader's units
    context : object
        What offers need to know; not used here

    Returns
    -------
    dict of str to object
        Variables of the template
    """
    bed = _bed(found, asked.get("siphon", ""))
    if bed is None:
        return {"variant_refused": _GONE}
    plan = found.evaluation.plan
    is_typed = asked.get("typed", "") != asked.get("told", "")
    try:
        variant = _read(variant_of(plan, bed.siphon), asked, is_typed, units)
        return {
            **_shown(found, bed, variant, units),
            **_range(plan, bed.siphon, variant),
            "is_typed": is_typed,
        }
    except (EditRefused, UnreadableQuantity) as error:
        return {"variant_refused": str(error)}


def _bed(found: Assessment, siphon: str) -> BedResult | None:
    return next((b for b in found.evaluation.beds if b.siphon.id == siphon), None)


def _read(now: SiphonVariant, asked: QueryDict, is_typed: bool, units: System) -> SiphonVariant:
    """From the form: what was typed counts, else the slider if it was moved; where neither was, the
    fall stays to the last digit."""
    fall = now.fall
    if fall is not None and is_typed:
        fall = read(asked.get("typed", ""), "length", units)
    elif fall is not None and "fall" in asked:
        slider, slid = _number(asked.get("fall", "")), _number(asked.get("slid", "0"))
        fall = slider if abs(slider - slid) > _MOVED else _number(asked.get("exact", str(fall)))
    elbows = asked.get("elbows", str(now.elbows))
    if not 0 <= whole_number(elbows) <= _MOST_ELBOWS:
        raise EditRefused("Elbows are counted: 0, 1, 2 …")
    return SiphonVariant(
        asked.get("size", now.nominal),
        fall,
        whole_number(elbows),
        "tube" in asked,
        _angle(asked.get("turned", "")) if "turned" in asked else now.turned_up,
    )


def _angle(text: str) -> float | None:
    """Of the last elbow [°]; none where the box is empty."""
    if not text.strip():
        return None
    try:
        angle = read(text, "angle", "metric")
    except UnreadableQuantity as error:
        raise EditRefused(str(error)) from None
    if not 0.0 <= angle <= _UPRIGHT:
        raise EditRefused("An elbow is turned up by 0° to 90°.")
    return angle


def _number(text: str) -> float:
    try:
        value = float(text)
    except ValueError:
        value = math.nan
    if not math.isfinite(value):
        raise EditRefused("The slider gave no number.")
    return value


def _shown(
    found: Assessment, bed: BedResult, variant: SiphonVariant, units: System
) -> dict[str, Any]:
    plan, cycle, siphon = found.evaluation.plan, bed.cycle, bed.siphon
    tailwater = float(bed.loop.tank_level(bed.loop.built.intake))
    tried = try_variant(
        plan,
        siphon,
        variant,
        tailwater,
        cycle.start_inflow,
        cycle.break_inflow,
        bed.loop.built.line.viscosity,
    )
    now, inflow = cycle.window, cycle.start_inflow
    scale, ticks = flow_axis(1.4 * max(inflow, now.stop.high, now.start.high), units)
    words, look = _OUTCOMES[tried.outcome]
    return {
        "siphon": siphon.id,
        "variant": variant,
        "tried": band_of(tried.window, inflow, scale),
        "stands": band_of(now, inflow, scale),
        "tried_ticks": ticks,
        "wide": WIDE,
        "tried_words": words,
        "tried_look": look,
        "tried_start": show(tried.window.start.value, "flow", units),
        "tried_stop": show(tried.window.stop.value, "flow", units),
        "tried_peak": show(tried.peak, "flow", units),
        "comes": show(inflow, "flow", units),
        "fall_text": "" if variant.fall is None else entry(round(variant.fall, 4), "length", units),
        "turned_text": "" if variant.turned_up is None else f"{variant.turned_up:g}",
        "unit": unit_of("length", units),
        "built": _text_of(variant),
        "is_other": bool(variant_edits(plan, siphon, variant)),
    }


def _text_of(variant: SiphonVariant) -> str:
    fall = "" if variant.fall is None else f"{variant.fall:.4f}"
    turned = "" if variant.turned_up is None else f"{variant.turned_up:g}"
    return f"{variant.nominal}|{fall}|{variant.elbows}|{int(variant.has_tube)}|{turned}"


def _variant_of(now: SiphonVariant, text: str) -> SiphonVariant:
    try:
        nominal, fall, elbows, tube, turned = text[:60].split("|")
        return replace(
            now,
            nominal=nominal,
            fall=float(fall) if fall else None,
            elbows=int(elbows),
            has_tube=tube == "1",
            turned_up=_angle(turned),
        )
    except ValueError:
        raise EditRefused("That offer no longer stands; here is the plan as it is.") from None


def take_variant(plan: Plan, posted: QueryDict, units: System, context: object) -> Offered:
    """Build it so.

    Parameters
    ----------
    plan : Plan
        The plan
    posted : QueryDict
        What was posted
    units : System
        The reader's units
    context : object
        What offers need to know; not used here

    Returns
    -------
    Offered
        The edits, and what the history says
    """
    siphon: Siphon | None = next(
        (s for s in plan.siphons if s.id == posted.get("siphon", "")), None
    )
    if siphon is None:
        raise EditRefused(_GONE)
    now = variant_of(plan, siphon)
    variant = _variant_of(now, posted.get("built", ""))
    return variant_edits(plan, siphon, variant), f"{siphon.name}: {_told(now, variant, units)}"


def _told(now: SiphonVariant, variant: SiphonVariant, units: System) -> str:
    """What is built otherwise, in words."""
    said = []
    if variant.nominal != now.nominal:
        said.append(f"built of {variant.nominal}")
    if variant.fall is not None and now.fall is not None and abs(variant.fall - now.fall) > 1e-4:
        said.append(f"tail falls {show(variant.fall, 'length', units)}")
    if variant.elbows != now.elbows:
        said.append(f"{variant.elbows} elbow{'s' * (variant.elbows != 1)} in its tail")
    tube = ("an air tube", now.has_tube, variant.has_tube)
    said += [f"with{'' if a else 'out'} {name}" for name, b, a in (tube,) if a != b]
    if variant.turned_up != now.turned_up:
        said.append(
            "its tail ends straight"
            if variant.turned_up is None
            else f"its last elbow turned up by {variant.turned_up:g}°"
        )
    return ", ".join(said) or "left as it is"
