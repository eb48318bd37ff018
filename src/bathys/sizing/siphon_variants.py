"""A siphon built a little otherwise: which inflows it would then start and stop with."""

from dataclasses import dataclass
from typing import Any, Literal

from bathys.edits import Edit, EditRefused, apply_edits
from bathys.kinds import facet
from bathys.network import line_of_run
from bathys.parts.bores import PipeSize, pipe_sizes
from bathys.parts.practice import START_MARGIN, STOP_MARGIN
from bathys.plan import Plan
from bathys.plan.pipes import Run
from bathys.plan.way_out import Siphon
from bathys.simulation import SiphonModel, Window
from bathys.sizing.siphons import (
    siphon_pipes,
)

__all__ = [
    "Outcome",
    "SiphonVariant",
    "Tried",
    "outcome_of",
    "sizes_for",
    "try_variant",
    "variant_edits",
    "variant_of",
]

Outcome = Literal["never_starts", "little_to_start", "works", "little_to_stop", "hangs", "holds"]
"""What a siphon does with an inflow: works with the margins, has little to spare on one side, or
trickles over for ever, gurgles at its intake, or is kept full."""

_LEAST_FALL = 0.02  # [m]
_MOST_ELBOWS = 8


@dataclass(frozen=True, slots=True)
class SiphonVariant:
    """How a siphon and its tail are to be built.

    Attributes
    ----------
    nominal : str
        Size of the standpipe or tube, with its bell and its tail; empty leaves them as they are
    fall : float or None
        Bed's floor over the tail's end, [m]; none where the end cannot be led lower by itself,
        since other pipes end there too
    elbows : int
        In the tail
    has_tube : bool
        With an air tube
    turned_up : float or None
        How far the tail's last elbow is turned up, [°]; none for a tail that ends straight
    """

    nominal: str
    fall: float | None
    elbows: int
    has_tube: bool
    turned_up: float | None


@dataclass(frozen=True, slots=True)
class Tried:
    """What it does when it is built so.

    Attributes
    ----------
    window : Window
        Inflows that work
    peak : float
        What it passes as it starts, [m³/s]
    outcome : str
        What it does with the inflow it gets
    """

    window: Window
    peak: float
    outcome: Outcome


def _tail(plan: Plan, siphon: Siphon) -> Run:
    tail = plan.run_of(siphon)
    if tail is None:
        raise EditRefused(f"{siphon.name} has no tail yet.")
    return tail


def _size_of(siphon: Siphon) -> PipeSize | None:
    return siphon.pipe.size if siphon.pipe is not None else None


def sizes_for(siphon: Siphon) -> tuple[str, ...]:
    """Sizes a siphon may be rebuilt in, of its own pipe; none where that is known only by its
    inside diameter.

    Parameters
    ----------
    siphon : Siphon
        The siphon

    Returns
    -------
    tuple of str
        Nominal sizes
    """
    own = _size_of(siphon)
    if own is None:
        return ()
    return tuple(
        s.nominal
        for s in siphon_pipes(own.standard)
        if facet(siphon, "sizing").can_be_of(own.standard, s)
    )


def variant_of(plan: Plan, siphon: Siphon) -> SiphonVariant:
    """A siphon as it stands.

    Parameters
    ----------
    plan : Plan
        The plan
    siphon : Siphon
        One of its siphons

    Returns
    -------
    SiphonVariant
        What would leave everything as it is

    Raises
    ------
    EditRefused
        If it has no tail
    """
    tail = _tail(plan, siphon)
    size = _size_of(siphon)
    height, floor = plan.elevation(tail.end), plan.vessel(siphon.stands_in).floor_height
    is_alone = plan.port(tail.end) is not None and not plan.runs_from(tail.end)
    is_alone = is_alone and len(plan.runs_to(tail.end)) == 1
    return SiphonVariant(
        size.nominal if size is not None else "",
        floor - height if is_alone and height is not None else None,
        sum(f.count for f in tail.fittings if f.kind.startswith("elbow")),
        bool(siphon.has_air_tube),
        siphon.end_elbow,
    )


def variant_edits(plan: Plan, siphon: Siphon, variant: SiphonVariant) -> tuple[Edit, ...]:
    """Build it so.

    Parameters
    ----------
    plan : Plan
        The plan
    siphon : Siphon
        One of its siphons
    variant : SiphonVariant
        How it is to be built

    Returns
    -------
    tuple of Edit
        What of the plan changes; none where it is built so already

    Raises
    ------
    EditRefused
        If it cannot be built so
    """
    now, tail = variant_of(plan, siphon), _tail(plan, siphon)
    edits: list[Edit] = []
    part = _part(siphon, now, variant)
    if part != siphon.model_dump(mode="json"):
        edits.append(Edit(f"siphons.{siphon.id}", part))
    if variant.nominal != now.nominal:
        edits.append(Edit(f"runs.{tail.id}.bore", _size_named(siphon, variant.nominal).as_data))
    if variant.elbows != now.elbows:
        edits.append(Edit(f"runs.{tail.id}.fittings", _fittings(tail, variant.elbows)))
    if variant.fall is not None and now.fall is not None and abs(variant.fall - now.fall) > 1e-6:
        if variant.fall < _LEAST_FALL - 1e-9:
            raise EditRefused("A tail falls by two centimetres at least.")
        edits.append(_lead_to(plan, tail, variant.fall - now.fall))
    return tuple(edits)


def _part(siphon: Siphon, now: SiphonVariant, variant: SiphonVariant) -> dict[str, Any]:
    part: dict[str, Any] = siphon.model_dump(mode="json")
    part["end_elbow"] = variant.turned_up
    sizing = facet(siphon, "sizing")
    if siphon.has_air_tube is not None and variant.has_tube != now.has_tube:
        part |= sizing.with_air_tube(siphon, variant.has_tube)
    if variant.nominal == now.nominal:
        return part
    size = _size_named(siphon, variant.nominal)
    resized: dict[str, Any] = sizing.resized(siphon, size.standard, size)
    return part | resized


def _size_named(siphon: Siphon, nominal: str) -> PipeSize:
    """One of the sizes it may be rebuilt in."""
    own = _size_of(siphon)
    sizes = pipe_sizes(own.standard) if own is not None and nominal in sizes_for(siphon) else []
    size = next((s for s in sizes if s.nominal == nominal), None)
    if size is None:
        raise EditRefused(f"No siphon is built of {nominal or 'no'} pipe here.")
    return size


def _fittings(tail: Run, elbows: int) -> list[dict[str, Any]]:
    """The tail's fittings with so many elbows, all of the kind it has most of."""
    if not 0 <= elbows <= _MOST_ELBOWS:
        raise EditRefused(f"A tail has no elbow to {_MOST_ELBOWS} elbows.")
    own = [f for f in tail.fittings if f.kind.startswith("elbow")]
    kind = max(own, key=lambda f: f.count).kind if own else "elbow_90"
    rest = [f.model_dump(mode="json") for f in tail.fittings if not f.kind.startswith("elbow")]
    return [*([{"kind": kind, "count": elbows}] if elbows else []), *rest]


def _lead_to(plan: Plan, tail: Run, lower: float) -> Edit:
    """The tail's end led lower by so much, in the wall it ends at."""
    vessel, _, name = tail.end.partition(".")
    port = plan.port(tail.end)
    assert port is not None  # noqa: S101 - a fall is told only of ends in a vessel
    height = port.height - lower
    part = plan.vessel(vessel)
    if not 0.0 <= height <= part.shape.height + 1.0:
        raise EditRefused(f"There the tail would end outside {part.name}.")
    return Edit(f"vessels.{vessel}.ports.{name}.height", height)


def try_variant(
    plan: Plan,
    siphon: Siphon,
    variant: SiphonVariant,
    tailwater: float,
    least: float,
    most: float,
    viscosity: float,
) -> Tried:
    """What it would do, built so.

    Parameters
    ----------
    plan : Plan
        The plan
    siphon : Siphon
        One of its siphons
    variant : SiphonVariant
        How it is to be built
    tailwater : float
        Level of what it empties into, as high as it stands while it runs, [m]
    least, most : float
        Inflow to its bed as it should start, and as it should break, [m³/s]
    viscosity : float
        Kinematic viscosity of the water, [m²/s]

    Returns
    -------
    Tried
        Its window, and what it does with the inflow

    Raises
    ------
    EditRefused
        As :func:`variant_edits`
    """
    changed = apply_edits(plan, variant_edits(plan, siphon, variant))
    built = next(s for s in changed.siphons if s.id == siphon.id)
    tail = _tail(changed, built)
    model = SiphonModel(changed, built, tail, line_of_run(changed, tail, viscosity))
    window = model.window(tailwater)
    peak = float(model.full_flow(model.priming_level, tailwater)[0])
    return Tried(window, peak, outcome_of(window, least, most))


def outcome_of(window: Window, least: float, most: float) -> Outcome:
    """What a siphon of a window does with an inflow.

    Parameters
    ----------
    window : Window
        Inflows that work
    least, most : float
        Inflow as it should start, and as it should break, [m³/s]

    Returns
    -------
    str
        One of ``Outcome``
    """
    if least <= window.start.value:
        return "never_starts"
    if most >= window.full_at_intake:
        return "holds"
    if most > window.stop.value:
        return "hangs"
    if least < START_MARGIN * window.start.value:
        return "little_to_start"
    return "works" if most <= STOP_MARGIN * window.stop.value else "little_to_stop"
