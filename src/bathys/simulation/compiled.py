"""A plan as the compiled core reads it: rows with named fields, and what is found at one moment."""

from typing import Any, NamedTuple

import numpy as np
from numpy.typing import NDArray

from bathys.compiling import record_of
from bathys.simulation.elimination import Structure
from bathys.simulation.line_tables import LineTables

__all__ = [
    "END",
    "HANGS",
    "LAYER",
    "NODE",
    "RUNS",
    "SIPHON",
    "SPILLS",
    "Compiled",
    "Pumped",
    "Rates",
    "Setup",
    "Weathered",
]

Floats = NDArray[np.float64]
Places = NDArray[np.int64]

SPILLS, RUNS, HANGS = 0, 1, 2
"""States of a siphon: over its rim with air in it, full, or gurgling at its intake."""

NODE: Any = record_of([("first", np.int64), ("last", np.int64), ("floor", np.float64)])
"""A node: its first layer, the one after its last, and its floor over the datum [m]."""
LAYER: Any = record_of([("held", np.float64), ("height", np.float64), ("per_area", np.float64)])
"""A layer of a node: water below it [m³], its height over the floor [m], one over its area."""
SIPHON: Any = record_of(
    [
        ("full", np.int64),  # its line when full
        ("spill", np.int64),  # its line with air in it
        ("bed", np.int64),  # the node it stands in
        ("starts", np.float64),  # level at which it starts [m]
        ("intake", np.float64),  # level of its intake [m]
        ("share", np.float64),  # it breaks if no more comes than this share of what it passes
        ("never_breaks", np.int64),
    ]
)
"""A siphon, or another way out with two states."""
END: Any = record_of(
    [
        ("source", np.int64),  # node the pump draws from
        ("node", np.int64),  # node it ends in, -1 for the outside
        ("is_alone", np.int64),  # only the difference of two levels counts
        ("inlet", np.float64),  # level at which the pump draws air [m]
        ("mouth", np.float64),  # level at which its end bares [m]
        ("answer", np.float64),  # how much less it brings for each metre more over it [m²/s]
        ("told", np.float64),  # level over it that the table is for [m]
    ]
)
"""An end of a run under pressure."""


class Pumped(NamedTuple):
    """What pumps bring.

    Attributes
    ----------
    ends : array of END
        Ends of runs under pressure, shape (ends,)
    grid, flows : array
        Levels of the source [m] and the flow at each [m³/s], shape (ends, points)
    """

    ends: Any
    grid: Floats
    flows: Floats


class Weathered(NamedTuple):
    """What comes from outside and goes there.

    Attributes
    ----------
    gains, losses : array
        Rain and evaporation of each node, [m³/s]
    sources, targets, moved : array
        Transfers under way: from, to, [m³/s]
    filled, set_levels, most, drawn : array
        Float valves: node, level, [m], flow wide open, [m³/s], node they draw from, -1 outside
    """

    gains: Floats
    losses: Floats
    sources: Places
    targets: Places
    moved: Floats
    filled: Places
    set_levels: Floats
    most: Floats
    drawn: Places

    @property
    def moves_any(self) -> bool:
        """Whether anything comes or goes."""
        steady = np.any(self.gains != 0.0) or np.any(self.losses != 0.0)
        return bool(steady or self.sources.size or self.filled.size)


class Compiled(NamedTuple):
    """A plan as the compiled core reads it.

    Attributes
    ----------
    nodes : array of NODE
        Vessels and junctions, shape (nodes,)
    layers : array of LAYER
        Their storage
    siphons : array of SIPHON
        All with two states
    lines : LineTables
        Lines and their laws
    laws : tuple
        The laws the tables are made from
    structure : Structure
        Which nodes feel each other
    """

    nodes: Any
    layers: Any
    siphons: Any
    lines: LineTables
    laws: tuple[Any, ...]
    structure: Structure


class Setup(NamedTuple):
    """How a plan stands between two events.

    Attributes
    ----------
    compiled : Compiled
        The plan
    modes : array of int
        State of each siphon
    pumped : Pumped
        What the pumps bring
    outer : Weathered
        What comes from outside and goes there
    has_weather : bool
        Whether anything does
    """

    compiled: Compiled
    modes: Places
    pumped: Pumped
    outer: Weathered
    has_weather: bool


class Rates(NamedTuple):
    """What :func:`rates_at` finds at one moment.

    Attributes
    ----------
    rates : array
        How fast each node and sink gains, [m³/s]
    flows : array
        Of each line, then of each end under pressure, [m³/s]
    tangents : array
        How each flow moves with the water upstream and downstream, shape (flows, 2), [1/s]
    levels, per_area : array
        Level of each node, [m], and one over its open area there, [1/m²]
    outside : array
        How the outside's gain moves with the water of each node, weather alone, [1/s]
    inflows : array
        What comes to each siphon's bed, [m³/s]
    """

    rates: Floats
    flows: Floats
    tangents: Floats
    levels: Floats
    per_area: Floats
    outside: Floats
    inflows: Floats
