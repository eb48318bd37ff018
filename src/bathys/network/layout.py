"""What of a plan runs full under a pump's head, and what runs down by itself."""

from collections.abc import Iterator
from dataclasses import dataclass

from bathys.network.lines import Line
from bathys.network.runs import curve_of_pump, fouled_bore, holds_back, line_of_run, start_height
from bathys.network.solving import Network, NetworkLink
from bathys.physics.water import Water
from bathys.plan.model import FloatSwitch, Junction, Plan, Pump, Run, Vessel

__all__ = ["Layout", "end_node", "layout_of", "mouth_node", "pressure_network"]


@dataclass(frozen=True)
class Layout:
    """A plan compiled for its balance.

    Attributes
    ----------
    plan : Plan
        The plan
    water : Water
        Its water
    lines : dict of Line
        What each run loses, by id
    pressure : frozenset of str
        Runs that a pump keeps full, and whatever is tied to them
    gravity : tuple of str
        All other runs
    """

    plan: Plan
    water: Water
    lines: dict[str, Line]
    pressure: frozenset[str]
    gravity: tuple[str, ...]

    @property
    def pressure_runs(self) -> Iterator[Run]:
        """Runs under a pump's head, in the plan's order."""
        return (r for r in self.plan.runs if r.id in self.pressure)

    def drained_by(self, vessel: str) -> list[Run]:
        """Gravity runs that begin in a vessel: at its ports, outlets and siphons."""
        return [
            run for id_ in self.gravity if vessel_of(self.plan, (run := self.plan.part(id_)).start)
            == vessel
        ]  # fmt: skip


def vessel_of(plan: Plan, place: str) -> str | None:
    """The vessel a port, an outlet or a siphon belongs to; none for a junction."""
    part = plan.part(place.partition(".")[0])
    if isinstance(part, Vessel):
        return part.id
    return None if isinstance(part, Junction) else str(part.stands_in)


def layout_of(plan: Plan, water: Water) -> Layout:
    """Compile a plan.

    Parameters
    ----------
    plan : Plan
        The plan
    water : Water
        Its water

    Returns
    -------
    Layout
        Its runs as lines, and which of them a pump keeps full
    """
    lines = {r.id: line_of_run(plan, r, water.kinematic_viscosity) for r in plan.runs}
    pressure: set[str] = set()
    waiting = [f"{p.id}.out" for p in plan.pumps]
    seen = set(waiting)
    while waiting:
        place = waiting.pop()
        for run in (*plan.runs_from(place), *plan.runs_to(place)):
            pressure.add(run.id)
            for end in (run.start, run.end):
                if isinstance(plan.part(end), Junction) and end not in seen:
                    seen.add(end)
                    waiting.append(end)
    gravity = tuple(r.id for r in plan.runs if r.id not in pressure)
    return Layout(plan, water, lines, frozenset(pressure), gravity)


def end_node(run: Run) -> str:
    """The node where a run under pressure ends in a vessel."""
    return f"{run.id}.end"


def mouth_node(run: Run) -> str:
    """The node where a run under pressure begins at a vessel's wall."""
    return f"{run.id}.mouth"


def pressure_network(
    layout: Layout, levels: dict[str, float], demands: dict[str, float] | None = None
) -> Network:
    """The runs under pressure, between vessels whose levels are known.

    Parameters
    ----------
    layout : Layout
        The plan compiled
    levels : dict
        Level of each vessel over the datum, [m]
    demands : dict, optional
        Runs that end in a vessel and are to carry just this flow, [m³/s]; they are left out and
        what they carry is taken away where they begin

    Returns
    -------
    Network
        Links named after their runs and pumps
    """
    plan, taken = layout.plan, demands or {}
    links, heads = [], {}
    away: dict[str, float] = {}
    for pump in plan.pumps:
        source = f"{pump.id}.in"
        heads[source] = levels[pump.stands_in]
        links.append(NetworkLink(pump.id, source, f"{pump.id}.out", pump=curve_of_pump(pump)))
    for run in layout.pressure_runs:
        if run.id in taken:
            away[run.start] = away.get(run.start, 0.0) + taken[run.id]
            continue
        link, known = _link(plan, run, layout.lines[run.id], levels)
        links.append(link)
        heads.update(known)
    return Network(tuple(links), heads, away)


def _link(
    plan: Plan, run: Run, line: Line, levels: dict[str, float]
) -> tuple[NetworkLink, dict[str, float]]:
    start, end, known = run.start, run.end, {}
    one_way = holds_back(run)
    ending = plan.port(run.end)
    if ending is not None:
        end = end_node(run)
        outlet, level = plan.elevation(run.end) or 0.0, levels[run.end.partition(".")[0]]
        known[end] = max(outlet, level)
        one_way = one_way or level <= outlet  # a jet in the air carries nothing back
    if plan.port(run.start) is not None:
        # A vessel tied into a pumped line gives water while its level covers the mouth.
        start = mouth_node(run)
        known[start] = max(
            levels[run.start.partition(".")[0]], start_height(plan, run) - 0.5 * fouled_bore(run)
        )
    return NetworkLink(run.id, start, end, line=line, one_way=one_way), known


def float_switch_of(pump: Pump) -> FloatSwitch | None:
    """A pump's float switch, if that is what switches it."""
    return pump.switch if isinstance(pump.switch, FloatSwitch) else None
