"""What can be measured of a layout, and what a plan says that should come out."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass

from bathys.evaluation import Evaluation
from bathys.instruments.missing import drying_of
from bathys.plan.naming import named
from bathys.quality.water import water_of
from bathys.quality.water_result import Otherwise

__all__ = ["MEASURES", "MODEL_SPREAD", "Asked", "Measure", "Reading", "ammonia_of", "asked_figures"]

_STILL = 1e-7  # [m³/s]
MODEL_SPREAD = 0.02
"""Of what is computed with all parameters right, as a share of it (assumed) [-]."""


@dataclass(frozen=True, slots=True)
class Reading:
    """A reading of a layout that runs.

    Attributes
    ----------
    kind : str
        A key of :data:`MEASURES`
    part : str
        Id of the part
    value, spread : float
        What was read, and one spread of it, in the SI unit of its kind
    fed : float
        Share of the plan's feed that was given before it, [-]: only what fish make hangs on it
    """

    kind: str
    part: str
    value: float
    spread: float
    fed: float = 1.0


@dataclass(frozen=True, slots=True)
class Measure:
    """A kind of reading.

    Attributes
    ----------
    kind : str
        Its key
    quantity : str
        What it measures
    advice : str
        What to do, with the slot ``{part:words}``
    spread : float
        One spread of a reading that is still to be taken, as a share of it, [-]
    predicted : callable
        From the numbers of a plan to what should come out, by part, in SI; parts at which nothing
        comes out are left out
    is_put_forward : bool
        Whether it is worth asking for by itself, and not only read where it is in the log
    """

    kind: str
    quantity: str
    advice: str
    spread: float
    predicted: Callable[[Evaluation], Iterator[tuple[str, float]]]
    is_put_forward: bool = True


def _buckets(found: Evaluation) -> Iterator[tuple[str, float]]:
    for duty in found.duties.values():
        yield from ((d.run, d.flow) for d in duty.deliveries if d.flow > _STILL)


def _periods(found: Evaluation) -> Iterator[tuple[str, float]]:
    for bed in found.beds:
        period = bed.cycle.period
        if period is not None and not bed.fed_by:
            yield bed.bed.id, period


def _drains(found: Evaluation) -> Iterator[tuple[str, float]]:
    for bed in found.beds:
        if bed.cycle.drain_time is not None and not bed.fed_by:
            yield bed.bed.id, bed.cycle.drain_time


def _starts(found: Evaluation) -> Iterator[tuple[str, float]]:
    yield from ((bed.bed.id, bed.cycle.window.start.value) for bed in found.beds)


def _stops(found: Evaluation) -> Iterator[tuple[str, float]]:
    yield from ((bed.bed.id, bed.cycle.window.stop.value) for bed in found.beds)


def _lifts(found: Evaluation) -> Iterator[tuple[str, float]]:
    yield from ((id_, duty.shut_off_head) for id_, duty in found.duties.items())


def _watts(found: Evaluation) -> Iterator[tuple[str, float]]:
    yield from ((id_, duty.power) for id_, duty in found.duties.items() if duty.power > 0.0)


def _dries(found: Evaluation) -> Iterator[tuple[str, float]]:
    """Off all vessels together in a day, so at no part [m³]."""
    dries = 86400.0 * drying_of(found.plan)
    if dries > 0.0:
        yield "", dries


def ammonia_of(found: Evaluation, fed: float = 1.0) -> Iterator[tuple[str, float]]:
    """Ammonia nitrogen of each tank in the long run.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    fed : float
        Share of its feed that is given, [-]

    Yields
    ------
    (str, float)
        Id of the tank, and its ammonia, [g/m³]
    """
    water = water_of(found, Otherwise(feed=fed))
    for tank in water.stock if water is not None else ():
        yield tank, water.vessels[tank].tan  # type: ignore[union-attr]


MEASURES: dict[str, Measure] = {
    m.kind: m
    for m in (
        Measure("bucket", "flow", "Time a bucket at the end of “{part:words}”", 0.02, _buckets),
        Measure("cycle", "clock", "Time “{part:words}” from start to start", 0.02, _periods),
        Measure("drain", "clock", "Time “{part:words}” from start to stop", 0.03, _drains),
        Measure(
            "starts",
            "flow",
            "Throttle the water to “{part:words}” until its siphon just starts; time a bucket then",
            0.04,
            _starts,
        ),
        Measure(
            "stops",
            "flow",
            "Let in water to “{part:words}” until its siphon just still stops; time a bucket then",
            0.05,
            _stops,
        ),
        Measure(
            "lift", "head", "Lift the hose of “{part:words}” until nothing comes out", 0.01, _lifts
        ),
        Measure("watts", "power", "Put a plug meter on “{part:words}”", 0.03, _watts, False),
        Measure("dries", "volume", "Write down what is topped up", 0.1, _dries, False),
        Measure(
            "ammonia", "dissolved", "Test the ammonia of “{part:words}”", 0.3, ammonia_of, False
        ),
    )
}
"""Kinds of readings that a plan is fitted to."""


@dataclass(frozen=True, slots=True)
class Asked:
    """A figure whose doubt is to be made smaller.

    Attributes
    ----------
    key, label, quantity : str
        Its name, what it is for people, with slots for names of parts, and what it measures
    value : float
        The figure, in SI
    """

    key: str
    label: str
    quantity: str
    value: float


def asked_figures(found: Evaluation) -> tuple[Asked, ...]:
    """Figures that a builder may ask about.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    tuple of Asked
        Flow of each pump, lowest level of what it stands in, and how far the inflow of each bed is
        over what starts its siphon
    """
    rows = []
    for id_, duty in found.duties.items():
        rows.append(Asked(f"flow.{id_}", f"flow of “{named(duty.pump)}”", "flow", duty.flow))
        vessel = found.vessels[duty.pump.stands_in]
        low = vessel.levels.low - vessel.vessel.floor_height
        label = f"lowest level of “{named(vessel.vessel)}”"
        rows.append(Asked(f"low.{vessel.vessel.id}", label, "length", low))
    for bed in found.beds:
        start, label = (
            bed.cycle.window.start.value,
            f"reserve over the start of “{named(bed.siphon)}”",
        )
        if start > 0.0 and not bed.fed_by:
            reserve = bed.cycle.mean_inflow / start - 1.0
            rows.append(Asked(f"reserve.{bed.siphon.id}", label, "percent", reserve))
    return tuple({row.key: row for row in rows}.values())
