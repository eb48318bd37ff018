"""Which siphon would start and stop with a given inflow, and why none does."""

from collections.abc import Iterator
from dataclasses import dataclass
from functools import partial
from typing import Any

from bathys.edits.editing import Edit
from bathys.halving import least
from bathys.kinds import facets, kind_named
from bathys.network import line_of_run
from bathys.parts.bores import PipeSize, pipe_sizes
from bathys.parts.practice import START_MARGIN, STOP_MARGIN
from bathys.physics.water import water_at
from bathys.plan.loading import plan_from_data
from bathys.plan.pipes import Run
from bathys.plan.way_out import Siphon
from bathys.simulation import SiphonModel, Window

__all__ = [
    "SiphonAsk",
    "SiphonChoice",
    "SiphonDesign",
    "ask_of_bed",
    "choice_edits",
    "design_siphon",
    "siphon_pipes",
]


_SIZES = (0.012, 0.055)  # bores tried [m]
_SLOTS = 0.03  # of a bell in the place of a siphon that has none [m]
_STANDARD = "ASTM D1785 Schedule 40"
_MOST_DROP = 2.0  # [m]
_HALVINGS = 7  # to a centimetre or two


@dataclass(frozen=True, slots=True)
class SiphonAsk:
    """What a siphon has to do.

    Attributes
    ----------
    least, most : float
        Inflow to the bed as the siphon should start, and as it should break, [m³/s]
    rim_height, slot_height : float
        Over the bed's floor, [m]
    drop : float
        Bed's floor over the tail's outlet, [m]
    level_length : float
        Of the tail, [m]
    elbows : int
        In the tail
    standard : str
        Pipe to build it of
    """

    least: float
    most: float
    rim_height: float = 0.25
    slot_height: float = 0.03
    drop: float = 0.4
    level_length: float = 0.3
    elbows: int = 2
    standard: str = _STANDARD


@dataclass(frozen=True, slots=True)
class SiphonChoice:
    """One siphon that could be built.

    Attributes
    ----------
    kind : str
        ``bell`` or ``loop``
    nominal, bell : str
        Sizes of the standpipe or tube, and of the bell; none for a loop
    has_tube, is_turned_up : bool
        With an air tube; with the tail's last elbow turned up
    window : Window
        Inflows that work
    peak : float
        What it passes as it starts, [m³/s]
    room_to_start, room_to_stop : float
        Inflow over the start flow, and the greatest inflow at which it breaks over the inflow, [-]
    fits, fits_all : bool
        Whether the margins are kept; and whether it works anywhere within the bands
    part, tail_bore : dict
        As plan data
    """

    kind: str
    nominal: str
    bell: str
    has_tube: bool
    is_turned_up: bool
    window: Window
    peak: float
    room_to_start: float
    room_to_stop: float
    fits: bool
    fits_all: bool
    part: dict[str, Any]
    tail_bore: dict[str, str]

    @property
    def works(self) -> bool:
        """Whether it starts and stops at all."""
        return self.room_to_start > 1.0 and self.room_to_stop > 1.0


@dataclass(frozen=True, slots=True)
class SiphonDesign:
    """What would do.

    Attributes
    ----------
    choices : tuple of SiphonChoice
        Those that work, the best first
    tried : tuple of SiphonChoice
        All of them
    refusal : str
        Why none does, with slots; empty if one keeps the margins
    figures : dict of float
        For the slots
    """

    choices: tuple[SiphonChoice, ...]
    tried: tuple[SiphonChoice, ...]
    refusal: str = ""
    figures: dict[str, float] | None = None


def ask_of_bed(built: SiphonModel, tail: Run, least: float, most: float) -> SiphonAsk:
    """What a bed of a plan asks of its siphon, its tail as it lies.

    Parameters
    ----------
    built : SiphonModel
        The siphon it has
    tail : Run
        Its tail
    least, most : float
        Inflow as it should start and as it should break, [m³/s]

    Returns
    -------
    SiphonAsk
        The ask
    """
    elbows = sum(f.count for f in tail.fittings if f.kind.startswith("elbow"))
    standard = tail.bore.size.standard if tail.bore.size is not None else _STANDARD
    slots = getattr(built.part, "slot_height", _SLOTS)
    return SiphonAsk(
        least,
        max(least, most),
        built.rim,
        slots,
        built.floor - built.outlet,
        tail.level_length,
        elbows,
        standard,
    )


def _model(ask: SiphonAsk, part: dict[str, Any], tail_bore: dict[str, str]) -> SiphonModel:
    document = {
        "format": "bathys-plan",
        "version": 1,
        "name": "design",
        "vessels": [
            {
                "id": "B1",
                "name": "bed",
                "job": "grow_bed",
                "floor_height": max(ask.drop, 0.0) + 1.0,
                "shape": {
                    "kind": "box",
                    "length": 1.0,
                    "width": 1.0,
                    "height": ask.rim_height + 0.2,
                },
            },
            {
                "id": "S1",
                "name": "sump",
                "job": "sump",
                "floor_height": 0.0,
                "shape": {"kind": "box", "length": 1.0, "width": 1.0, "height": 1.5},
                "ports": [{"name": "in", "height": max(ask.drop, 0.0) + 1.0 - ask.drop}],
            },
        ],
        "siphons": [{**part, "id": "X1", "name": "siphon", "stands_in": "B1"}],
        "runs": [
            {
                "id": "R1",
                "name": "tail",
                "from": "X1.tail",
                "to": "S1.in",
                "bore": tail_bore,
                "level_length": ask.level_length,
                "fittings": [{"kind": "elbow_90", "count": ask.elbows}] if ask.elbows else [],
            }
        ],
    }
    plan = plan_from_data(document)
    tail = plan.runs[0]
    line = line_of_run(plan, tail, water_at(20.0).kinematic_viscosity)
    return SiphonModel(plan, plan.siphons[0], tail, line)


def siphon_pipes(standard: str) -> tuple[PipeSize, ...]:
    """Pipes of a standard that siphons are built of.

    Parameters
    ----------
    standard : str
        Name of the pipe standard

    Returns
    -------
    tuple of PipeSize
        The sizes, smallest first
    """
    return tuple(p for p in pipe_sizes(standard) if _SIZES[0] <= p.bore <= _SIZES[1])


def _tries(ask: SiphonAsk) -> Iterator[tuple[PipeSize, str, dict[str, Any]]]:
    for pipe in siphon_pipes(ask.standard):
        for sizing in facets("sizing").values():
            for bell, part in sizing.tries(ask, pipe):
                yield pipe, bell, part


def _choices(ask: SiphonAsk) -> Iterator[SiphonChoice]:
    for pipe, bell, part in _tries(ask):
        tail_bore = pipe.as_data
        model = _model(ask, part, tail_bore)
        siphon = model.part
        window = model.window(model.outlet)
        start, stop = window.start, window.stop
        to_start, to_stop = ask.least / start.value, stop.value / ask.most
        yield SiphonChoice(
            siphon.kind,
            pipe.nominal,
            bell,
            bool(siphon.has_air_tube),
            siphon.end_elbow is not None and siphon.end_elbow > 0.0,
            window,
            float(model.full_flow(model.priming_level, model.outlet)[0]),
            to_start,
            to_stop,
            to_start >= START_MARGIN and to_stop * STOP_MARGIN >= 1.0,
            ask.least > start.high and ask.most < stop.low,
            part,
            tail_bore,
        )


def design_siphon(ask: SiphonAsk) -> SiphonDesign:
    """Siphons that start and stop with what a bed gets.

    Parameters
    ----------
    ask : SiphonAsk
        What it has to do

    Returns
    -------
    SiphonDesign
        The best first, or why there is none

    Notes
    -----
    First come those that keep the margins, then those that work anywhere within the bands of the
    coefficients, then those that are simplest to build; of these the one that leaves most room on
    the side where it has least.
    """
    if ask.least <= 0.0 or ask.most <= 0.0:
        return SiphonDesign((), (), "No water comes into this bed: feed it first.", {})
    tried = tuple(_choices(ask))
    working = [c for c in tried if c.works]

    def rank(choice: SiphonChoice) -> tuple[bool, bool, int, float]:
        least = min(choice.room_to_start / START_MARGIN, choice.room_to_stop * STOP_MARGIN)
        more_work = choice.has_tube + choice.is_turned_up
        return not choice.fits, not choice.fits_all, more_work, -least

    working.sort(key=rank)
    if working and working[0].fits:
        return SiphonDesign(tuple(working), tried)
    refusal, figures = _refusal(ask, tried)
    return SiphonDesign(tuple(working), tried, refusal, figures)


def _refusal(ask: SiphonAsk, tried: tuple[SiphonChoice, ...]) -> tuple[str, dict[str, float]]:
    figures = {"least": ask.least, "most": ask.most, "drop": ask.drop}
    if not tried:
        return "This pipe has no sizes a siphon is built of; choose another standard.", figures
    smallest = min(c.window.start.value for c in tried)
    largest = max(c.window.stop.value for c in tried)
    if ask.least < START_MARGIN * smallest:
        return (
            "{least:flow} is too little for any siphon of this pipe: the least takes {start:flow}. "
            "Feed fewer beds at once, send more water, or flood it by a timer with small holes.",
            {**figures, "start": START_MARGIN * smallest},
        )
    wanted = _drop_needed(ask)
    if wanted is not None:
        return (
            "With a drop of {drop:length} from the bed’s floor to the tail’s end none both starts "
            "and stops with {least:flow}; with {wanted:length} one does. Raise the bed or lead the "
            "tail lower.",
            {**figures, "wanted": wanted},
        )
    if ask.most > STOP_MARGIN * largest:
        return (
            "{most:flow} is too much: the widest siphon tried stops only below {stop:flow}. Split "
            "the feed over two beds or two siphons, or throttle it.",
            {**figures, "stop": STOP_MARGIN * largest},
        )
    return "No siphon of this pipe both starts and stops with {least:flow}.", figures


def _drop_needed(ask: SiphonAsk) -> float | None:
    """Least drop with which one keeps the margins [m]."""
    if not _any_fits(ask, _MOST_DROP):
        return None
    return least(partial(_any_fits, ask), ask.drop, _MOST_DROP, _HALVINGS)


def _any_fits(ask: SiphonAsk, drop: float) -> bool:
    tried = _choices(
        SiphonAsk(
            ask.least,
            ask.most,
            ask.rim_height,
            ask.slot_height,
            drop,
            ask.level_length,
            ask.elbows,
            ask.standard,
        )
    )
    return any(c.fits for c in tried)


def choice_edits(old: Siphon, choice: SiphonChoice, tail: str) -> tuple[Edit, ...]:
    """Build a choice in place of a bed's siphon.

    Parameters
    ----------
    old : Siphon
        The siphon that stood there
    choice : SiphonChoice
        What is to be built
    tail : str
        Id of its tail

    Returns
    -------
    tuple of Edit
        The edits that do so
    """
    name = old.name.replace(old.kind, choice.kind).replace(
        old.kind.capitalize(), choice.kind.capitalize()
    )
    part = {**choice.part, "id": old.id, "name": name, "stands_in": old.stands_in}
    bells = [s for s in pipe_sizes(choice.tail_bore["standard"]) if s.nominal == choice.bell]
    if bells:
        part |= kind_named(choice.kind, "sizing").in_place_of(old, bells[0])
    return (
        Edit(f"siphons.{old.id}", part),
        Edit(f"runs.{tail}.bore", choice.tail_bore),
    )
