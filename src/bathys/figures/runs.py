"""Figures of runs."""

from collections.abc import Iterator

from bathys.evaluation.falls import Fall
from bathys.evaluation.result import Evaluation
from bathys.evaluation.runs import RunResult
from bathys.figures import formulas as by
from bathys.figures.figure import Figure, Input
from bathys.physics import area_of
from bathys.physics.friction import hazen_williams_head

__all__ = ["fall_figure", "run_details", "run_figures"]

_TABLE_BORE, _NEW, _OLD = 0.025, 150.0, 130.0  # of Hazen–Williams: least bore [m], C [-]


def _second_opinion(result: RunResult) -> float | None:
    """What the formula behind many tables of the trade would give, where it holds [m]."""
    if result.gravity is not None or result.bore < _TABLE_BORE or result.regime != "turbulent":
        return None
    coefficient = _NEW if result.run.wall.thickness == 0.0 else _OLD
    return hazen_williams_head(abs(result.flow), result.bore, result.length, coefficient)


def _across(found: Evaluation, result: RunResult) -> float:
    if result.velocity == 0.0:
        return result.bore
    return result.reynolds * found.water.kinematic_viscosity / result.velocity


def run_figures(found: Evaluation, result: RunResult) -> Iterator[Figure]:
    """Flow and velocity of a run.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    result : RunResult
        The numbers of the run

    Yields
    ------
    Figure
        Flow and velocity
    """
    run, id_ = result.run, result.run.id
    inside = Input("bore the film leaves", result.bore, "length")
    yield by.RUN_FLOW.of(
        f"{id_}.flow",
        id_,
        (inside, Input("length", result.length, "head")),
        "{mean:flow} with rests counted" if result.mean_flow != result.flow else "",
        {"mean": result.mean_flow},
        value=result.flow,
        label=f"Flow in {run.name}",
    )
    carried, label = Input("flow", abs(result.flow), "flow"), f"Velocity in {run.name}"
    is_full = result.wetted == area_of(result.bore)
    if is_full:
        yield by.VELOCITY.of(f"{id_}.velocity", id_, (carried, inside), label=label)
    else:
        part = Input("area of the water", result.wetted, "area")
        yield by.PART_FULL_VELOCITY.of(f"{id_}.velocity", id_, (carried, part), label=label)
    yield by.REYNOLDS.of(
        f"{id_}.reynolds",
        id_,
        (
            Input("velocity", result.velocity, "speed"),
            Input("hydraulic diameter", _across(found, result), "length"),
            Input("kinematic viscosity", found.water.kinematic_viscosity, "viscosity"),
        ),
        result.regime,
        label=f"Reynolds number in {run.name}",
    )
    opinion = _second_opinion(result)
    yield by.LOSS.of(
        f"{id_}.loss",
        id_,
        tuple(Input(p.label, h, "head") for p, h in result.losses),
        "Hazen–Williams would say {theirs:head} for the pipe alone" if opinion else "",
        {"theirs": opinion or 0.0},
        label=f"Head lost in {run.name}",
    )
    gravity = result.gravity
    if gravity is None:
        return
    yield by.HEAD_OVER.of(
        f"{id_}.over",
        id_,
        (
            Input("level upstream", gravity.crest + gravity.head_over, "length"),
            Input("crest", gravity.crest, "length"),
        ),
        "it falls back to the crest when the pump stops",
        label=f"Level over {run.name}",
    )
    yield by.DRAIN_FILL.of(
        f"{id_}.fill",
        id_,
        (Input("flow", result.flow, "flow"), inside, Input("slope", gravity.slope, "percent")),
        "its end stands under water, so it runs full there"
        if gravity.is_drowned
        else "at most half, so that air passes over the water",
        value=gravity.fill,
        label=f"Depth in {run.name}",
    )
    yield by.SPARE.of(
        f"{id_}.capacity",
        id_,
        (inside,),
        "{spare:flow} to spare",
        {"spare": gravity.capacity - result.flow},
        value=gravity.capacity,
        label=f"Most {run.name} could pass",
    )


def run_details(result: RunResult, viscosity: float) -> Iterator[Figure]:
    """What the tables tell of a run besides.

    Parameters
    ----------
    result : RunResult
        The numbers of the run
    viscosity : float
        Kinematic viscosity of the water, [m²/s]

    Yields
    ------
    Figure
        One figure after the other
    """
    run, id_ = result.run, result.run.id
    for piece, head in result.losses:
        if piece.kind == "filter" and run.filter is not None:
            through = min(run.filter.share_through(abs(result.flow), viscosity), 1.0)
            yield by.FILTER_LOSS.of(
                f"{id_}.filter",
                id_,
                (
                    Input("flow", abs(result.flow), "flow"),
                    Input("load", run.filter.loaded, "percent"),
                    Input("can hold, dry", run.filter.capacity, "mass"),
                ),
                "{through:percent} of the water goes through it" if through < 1.0 else "",
                {"through": through},
                value=head,
                label=f"Lost in the filter of {run.name}",
            )
        if piece.kind == "valve" and result.flow:
            speed = abs(result.flow) / piece.area
            yield by.VALVE_LOSS.of(
                f"{id_}.valve",
                id_,
                (
                    Input("K of the valve as it stands", piece.loss, "ratio"),
                    Input("velocity in its bore", speed, "speed"),
                ),
                value=head,
                label=f"Lost in the valve of {run.name}",
            )


def fall_figure(fall: Fall) -> Figure:
    """How far water falls through a run, or is lifted.

    Parameters
    ----------
    fall : Fall
        Where the run begins and ends

    Returns
    -------
    Figure
        The fall, below 0 for a lift, [m]
    """
    run = fall.run.run
    kind = by.LIFT if fall.is_lift else by.FALL
    return kind.of(
        f"{run.id}.fall",
        run.id,
        (
            Input("level it leaves", fall.up, "length"),
            Input("where it comes to", fall.down, "length"),
        ),
        label=f"{'Lift' if fall.is_lift else 'Fall'} of {run.name}",
    )
