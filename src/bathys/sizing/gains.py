"""Which single change to a plan would gain most flow."""

from collections.abc import Iterator
from dataclasses import dataclass

from bathys.edits.editing import Edit, EditRefused, apply_edits
from bathys.edits.valves import has_lever, open_valve
from bathys.network import Balance, NotSolved
from bathys.network.layout import layout_of, pressure_network
from bathys.network.solving import solve
from bathys.plan.model import GROUPS, Plan
from bathys.plan.naming import named
from bathys.plan.pipes import Run
from bathys.plan.places import part_id
from bathys.plan.pumps import Pump
from bathys.plan.topology import tied_together
from bathys.plan.vessel import Vessel

__all__ = ["Gain", "gains"]

_LESS_LIFT = 0.1  # a change of lift worth telling [m]
_LOSSES_TRIED = 3  # runs tried with a wider bore: those that lose most
_OPEN_ENOUGH = 5.0  # a handle turned less has nothing to give [°]


@dataclass(frozen=True, slots=True)
class Gain:
    """A change and what it does to a flow.

    Attributes
    ----------
    label : str
        What to change, with slots ``{name:quantity}``
    place : str
        Id of the part
    flow : float
        The flow after it, [m³/s]
    gain : float
        More than before, [m³/s]
    edits : tuple of Edit
        The change to the plan
    """

    label: str
    place: str
    flow: float
    gain: float
    edits: tuple[Edit, ...]

    @property
    def figures(self) -> dict[str, float]:
        """Figures for the slots."""
        return {"less": _LESS_LIFT}


def gains(now: Balance, watched: str) -> tuple[Gain, ...]:
    """Single changes, by how much they add to a pump's or a run's flow, levels as they stand.

    Parameters
    ----------
    now : Balance
        The plan as it stands
    watched : str
        Id of a pump, or of a run under pressure

    Returns
    -------
    tuple of Gain
        Greatest first; changes that gain nothing are left out
    """
    before = now.pump_flows.get(watched, now.flows.get(watched, 0.0))
    found, about = [], _tied_to(now, watched)
    for label, place, edit in _changes(now, about):
        try:
            plan = apply_edits(about, [edit])
            network = pressure_network(layout_of(plan, now.layout.water), now.levels)
            flow = solve(network).flows[watched]
        except (EditRefused, NotSolved):
            continue
        if flow - before > 1e-3 * abs(before) + 1e-9:
            found.append(Gain(label, place, flow, flow - before, (edit,)))
    return tuple(sorted(found, key=lambda g: -g.gain))


def _tied_to(now: Balance, watched: str) -> Plan:
    """The plan of the pumped line that a pump or a run belongs to, and no more: whatever else is
    changed does nothing to its flow while the levels stand."""
    plan = now.plan
    part = plan.part(watched)
    first = [part.leads_from] if isinstance(part, Pump) else [part.start, part.end]
    runs, pumps = tied_together(plan, first)
    places = {e for r in runs for e in (r.start, r.end)}
    vessels = {part_id(e) for e in places} | {p.stands_in for p in pumps}
    return Plan.model_construct(
        **{f: getattr(plan, f) for f in type(plan).model_fields if f not in GROUPS},
        vessels=tuple(v for v in plan.vessels if v.id in vessels),
        pumps=pumps,
        runs=tuple(r for r in plan.runs if r.id in {t.id for t in runs}),
        junctions=tuple(j for j in plan.junctions if j.id in places),
        siphons=(),
        outlets=(),
        top_ups=(),
        transfers=(),
    )


def _changes(now: Balance, about: Plan) -> Iterator[tuple[str, str, Edit]]:
    pumped = {p.stands_in for p in about.pumps}
    runs = [r for r in about.runs if r.target not in pumped]
    for run in sorted(runs, key=lambda r: -_loss_but_valve(now, r))[:_LOSSES_TRIED]:
        yield from _wider(run)
        yield from _longer_elbows(run)
    for run in runs:
        if has_lever(run) and run.valve is not None and run.valve.turned > _OPEN_ENOUGH:
            yield f"open the valve of “{named(run)}”", run.id, open_valve(run)
        if run.wall.thickness > 0.0:
            field, clean = ("fouling", "new") if run.film is None else ("film", 0.0)
            yield f"clean “{named(run)}”", run.id, Edit(f"runs.{run.id}.{field}", clean)
    for pump in about.pumps:
        if pump.strainer_loss > 0.0:
            yield (
                f"clean the strainer of “{named(pump)}”",
                pump.id,
                Edit(f"pumps.{pump.id}.strainer_loss", 0.0),
            )
        if pump.dial < 1.0:
            yield f"turn “{named(pump)}” up", pump.id, Edit(f"pumps.{pump.id}.dial", 1.0)
    yield from _lower(now, runs)


def _loss_but_valve(now: Balance, run: Run) -> float:
    rows = now.layout.lines[run.id].losses_by_piece(abs(now.flows[run.id]))
    return sum(h for p, h in rows if p.kind != "valve")


def _wider(run: Run) -> Iterator[tuple[str, str, Edit]]:
    own, wider = run.bore.size, next(iter(run.bore.wider), None)
    if own is not None and wider is not None:
        label = f"“{named(run)}” in {wider.nominal} instead of {own.nominal}"
        yield label, run.id, Edit(f"runs.{run.id}.bore", wider.as_data)


def _longer_elbows(run: Run) -> Iterator[tuple[str, str, Edit]]:
    short = sum(f.count for f in run.fittings if f.kind == "elbow_90")
    if not short:
        return
    rows = [f.model_dump(mode="json") for f in run.fittings]
    for row in rows:
        row["kind"] = "elbow_90_long" if row["kind"] == "elbow_90" else row["kind"]
    yield f"long elbows in “{named(run)}”", run.id, Edit(f"runs.{run.id}.fittings", rows)


def _lower(now: Balance, runs: list[Run]) -> Iterator[tuple[str, str, Edit]]:
    for run in runs:
        vessel = now.plan.part(run.target)
        if isinstance(vessel, Vessel):
            port = now.plan.port(run.end)
            assert port is not None  # noqa: S101 - runs end at ports that exist
            path = f"vessels.{vessel.id}.ports.{port.name}.height"
            if port.height >= _LESS_LIFT:
                yield (
                    f"end “{named(run)}” {{less:length}} lower",
                    run.id,
                    Edit(path, port.height - _LESS_LIFT),
                )
