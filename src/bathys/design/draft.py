"""A plan while it is being drawn up: parts as plan data, put down one after the other."""

from collections import Counter
from collections.abc import Sequence
from typing import Any, NamedTuple

from bathys.parts.bores import PipeSize, pipe_sizes
from bathys.physics import area_of
from bathys.physics.part_full import manning_flow
from bathys.plan import Plan, plan_from_data
from bathys.plan.shell import Shell, shell_from

__all__ = ["DRAIN_SLOPE", "Draft", "FreeEnd", "drain_size", "pressed_size"]

DRAIN_SLOPE = 0.25 / 12.0
"""Fall of a drain over its length: a quarter inch a foot (common practice) [-]."""

_CALM = 1.2  # wanted velocity in pressure pipe at most [m/s]
_LEAST_WASTE = 0.045  # bore that solids go through without stopping it [m] (common practice)


class FreeEnd(NamedTuple):
    """Where a pump's water is to go.

    Attributes
    ----------
    name, place : str
        Of the run that leads there, and its end
    flow : float
        Wanted, [m³/s]
    """

    name: str
    place: str
    flow: float


def pressed_size(standard: str, flow: float, wider: int = 0) -> PipeSize:
    """Pipe for a pumped flow.

    Parameters
    ----------
    standard : str
        Standard of the pipe
    flow : float
        Flow, [m³/s]
    wider : int
        So many sizes more

    Returns
    -------
    PipeSize
        The smallest in which the flow keeps within 1.2 m/s, or so many sizes more
    """
    sizes = [s for s in pipe_sizes(standard) if s.bore > 0.012]
    first = next((n for n, s in enumerate(sizes) if flow / area_of(s.bore) <= _CALM), len(sizes))
    return sizes[min(first + wider, len(sizes) - 1)]


def drain_size(standard: str, flow: float, *, waste: bool = False, wider: int = 0) -> PipeSize:
    """Pipe for a drain.

    Parameters
    ----------
    standard : str
        Standard of the pipe
    flow : float
        Flow, [m³/s]
    waste : bool
        Whether it carries solids
    wider : int
        So many sizes more

    Returns
    -------
    PipeSize
        The smallest that the flow at most half fills at the usual fall, or so many sizes more
    """
    least = _LEAST_WASTE if waste else 0.012
    sizes = [s for s in pipe_sizes(standard) if s.bore >= least]
    first = next(
        (n for n, s in enumerate(sizes) if float(manning_flow(0.5, s.bore, DRAIN_SLOPE)) >= flow),
        len(sizes),
    )
    return sizes[min(first + wider, len(sizes) - 1)]


class Draft:
    """Parts of a plan to be.

    Parameters
    ----------
    name : str
        Name of the plan
    brief, site : dict
        As plan data
    """

    def __init__(self, name: str, brief: dict[str, Any], site: dict[str, Any]) -> None:
        self._data: dict[str, Any] = {
            "format": "bathys-plan",
            "version": 1,
            "name": name,
            "datum": "ground",
            "brief": brief,
            "site": site,
        }
        self._counts = Counter[str]()

    def _add(self, group: str, part: dict[str, Any]) -> None:
        self._data.setdefault(group, []).append(part)

    def named(self, letters: str) -> str:
        """A free id with these letters."""
        self._counts[letters] += 1
        return f"{letters}{self._counts[letters]}"

    def vessel(self, id_: str, name: str, job: str, shell: Shell, floor: float, **more: Any) -> str:
        """Put down a vessel.

        Parameters
        ----------
        id_, name, job : str
            Its id, name and job
        shell : Shell
            What it is made of
        floor : float
            Height of its floor, [m]
        **more
            Other fields of a vessel

        Returns
        -------
        str
            Its id
        """
        part = {
            "id": id_,
            "name": name,
            "job": job,
            "shape": shell.model_dump(mode="json"),
            "floor_height": round(floor, 3),
            "freeboard": 0.05,
            "ports": [],
            **more,
        }
        self._add("vessels", part)
        return id_

    def port(self, vessel: str, name: str, height: float) -> str:
        """Put an opening into a vessel.

        Parameters
        ----------
        vessel, name : str
            The vessel, and what the opening is called
        height : float
            Over its floor, [m]

        Returns
        -------
        str
            Its place, for a run
        """
        self._vessel(vessel)["ports"].append({"name": name, "height": round(height, 3)})
        return f"{vessel}.{name}"

    def rim_of(self, place: str) -> float:
        """Height of a vessel's rim by one of its openings [m]."""
        part = self._vessel(place.partition(".")[0])
        return float(part["floor_height"]) + shell_from(part["shape"]).height

    def _vessel(self, id_: str) -> dict[str, Any]:
        return next(v for v in self._data["vessels"] if v["id"] == id_)

    def run(
        self,
        name: str,
        start: str,
        end: str,
        size: PipeSize,
        length: float,
        elbows: int = 0,
        **more: Any,
    ) -> str:
        """Lay a run.

        Parameters
        ----------
        name, start, end : str
            Its name and its ends
        size : PipeSize
            Its pipe
        length : float
            Along the level, [m]
        elbows : int
            In it
        **more
            Other fields of a run

        Returns
        -------
        str
            Its id
        """
        id_ = self.named("R")
        fittings = [{"kind": "elbow_90", "count": elbows}] if elbows else []
        part = {
            "id": id_,
            "name": name,
            "from": start,
            "to": end,
            "bore": size.as_data,
            "level_length": round(length, 2),
            "fittings": fittings + more.pop("fittings", []),
            **more,
        }
        self._add("runs", part)
        return id_

    def part(self, group: str, **fields: Any) -> str:
        """Put down any other part.

        Parameters
        ----------
        group : str
            The list it belongs to
        **fields
            Its fields

        Returns
        -------
        str
            Its id
        """
        self._add(group, fields)
        return str(fields["id"])

    def pumped(
        self,
        pump: str,
        height: float,
        standard: str,
        outlets: Sequence[FreeEnd],
        apart: float,
        wider: int,
    ) -> None:
        """Lead a pump's water to its outlets: one after the other from a main of tees.

        Parameters
        ----------
        pump : str
            Id of the pump
        height : float
            Of the main, [m]
        standard : str
            Standard of the pipe
        outlets : sequence of FreeEnd
            Where it is to go, the nearest first
        apart : float
            Pipe from one to the next, [m]
        wider : int
            So many sizes wider than the velocity asks
        """
        place, left = f"{pump}.out", sum(outlet.flow for outlet in outlets)
        name, first = "Riser", True
        for number, (words, end, flow) in enumerate(outlets):
            size = pressed_size(standard, left, wider)
            fittings: list[dict[str, Any]] = [{"kind": "union", "count": 1}] if first else []
            valve = {"valve": {"kind": "ball"}, "wanted_flow": flow}
            if number == len(outlets) - 1:
                branch = pressed_size(standard, flow, wider)
                self.run(words, place, end, branch, apart, 2, fittings=fittings, **valve)
                return
            tee = self.named("J")
            self.part("junctions", kind="tee", id=tee, name=f"Tee {tee[1:]}", height=height)
            self.run(name, place, tee, size, apart, 1, fittings=fittings)
            branch = pressed_size(standard, flow, wider)
            self.run(words, tee, end, branch, 0.5, 1, **valve)
            place, left, name, first = tee, left - flow, "Main", False

    def plan(self) -> Plan:
        """The plan.

        Raises
        ------
        BadPlan
            If its parts do not go together
        """
        return plan_from_data(self._data)
