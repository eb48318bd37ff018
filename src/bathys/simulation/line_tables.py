"""Laws of gravity lines as tables: a flow between two levels in a few dozen multiplications.

What hangs on a line's flow alone (its inlet, its pipe's loss, a mouth's critical head, the loss of
a lift or a filter before its crest) is kept as cubics in the root of the flow, one a cell, each
made when it is first touched: most lines stay in a few cells all day. What the level downstream
does to it is the same arithmetic as in the steady balance
(:func:`bathys.network.gravity_laws.level_and_slopes`).
"""

import math
from typing import Any, NamedTuple

import numpy as np
from numba import njit
from numpy.typing import NDArray

from bathys.compiling import njit_inlined, record_of
from bathys.network.flow_laws import flat_surface, law_of_flow
from bathys.network.gravity_laws import LEAST_SLOPE, level_and_slopes, level_at

__all__ = ["CELLS", "LINE", "LineTables", "flow_between", "line_tables", "make_cell"]

Floats = NDArray[np.float64]

CELLS = 192
"""Cells of each line, even in the root of its flow."""
_LAWS = 4  # inlet, loss, critical head, loss before the crest
_MOST_FLOW = 0.5  # of any line [m³/s]
_LEAST_TOP = 1e-5  # [m³/s]
_MOST_TURNS = 60
_LEVEL_CLOSE = 1e-6  # a level this close needs one correction more, and no look at it [m]
_HAIR = 1e-7  # so far over its crest a line carries nothing worth a step [m]
_STEEPEST = 2.5  # most of d ln Q / d ln h of any law here: a part-full mouth has 2, a weir 1.5

LINE: Any = record_of(
    [
        ("begin", np.int64),  # node upstream
        ("end", np.int64),  # node or sink downstream
        ("kind", np.int64),
        ("pipe", np.int64),  # -1 for none
        ("lift", np.int64),  # or filter before its crest, -1 for none
        ("table", np.int64),  # of a flat pipe, -1 for none
        ("siphon", np.int64),  # whose line it is, -1 for none
        ("dry", np.float64),  # level upstream below which it carries nothing [m]
        ("felt", np.float64),  # level downstream above which that is felt [m]
        ("crest", np.float64),  # [m]
        ("bore", np.float64),  # [m]
        ("outlet", np.float64),  # [m]
        ("top", np.float64),  # flow at the end of its last cell [m³/s]
    ]
)
"""One line, as the compiled core reads it."""


class LineTables(NamedTuple):
    """Lines with their tables.

    Attributes
    ----------
    lines : array of LINE
        The lines, shape (lines,)
    cells : array
        Coefficients, shape (lines, cells, laws, 4), [m]
    made : array of int
        Which cells are made, shape (lines, cells)
    flat_flows, flat_energies : array
        Tables of flat pipes, as :class:`bathys.network.gravity.GravityLineArrays` has them
    """

    lines: Any
    cells: Floats
    made: NDArray[np.int8]
    flat_flows: Floats
    flat_energies: Floats


def line_tables(ends: tuple[Any, Any, Any], laws: tuple[Any, ...], highest: float) -> LineTables:
    """Tables of some lines, with no cell made yet.

    Parameters
    ----------
    ends : (array, array, array)
        Where each line begins and ends, and the level below which it is dry, [m]
    laws : tuple
        Their laws, as :attr:`bathys.network.gravity.GravityLineArrays.laws`
    highest : float
        A level that no node ever passes, [m]

    Returns
    -------
    LineTables
        One row a line
    """
    kinds, numbers = laws[0], laws[1]
    lines = np.zeros(len(kinds), dtype=LINE)
    lines["begin"], lines["end"], lines["dry"] = ends
    lines["kind"], lines["pipe"], lines["lift"], lines["table"] = kinds.T
    lines["siphon"] = -1
    lines["crest"], lines["bore"], lines["outlet"] = numbers[:, 0], numbers[:, 1], numbers[:, 4]
    lines["felt"] = lines["outlet"] - lines["bore"]
    lines["top"] = _tops(highest, *laws)
    return LineTables(
        lines,
        np.empty((len(lines), CELLS, _LAWS, 4)),
        np.zeros((len(lines), CELLS), dtype=np.int8),
        laws[2],
        laws[3],
    )


@njit(cache=True)
def _tops(
    highest: float,
    kinds: Any,
    numbers: Floats,
    flat_flows: Floats,
    flat_energies: Floats,
    minor: Floats,
    first: Any,
    pipes: Floats,
    viscosity: float,
) -> Floats:
    """A flow of each line that needs a level that is never reached [m³/s]."""
    laws = (kinds, numbers, flat_flows, flat_energies, minor, first, pipes, viscosity)
    tops = np.empty(numbers.shape[0])
    for i in range(tops.size):
        low, high = 0.0, _LEAST_TOP
        while high < _MOST_FLOW and level_at(high, -np.inf, i, *laws) < highest:
            low, high = high, 2.0 * high
        for _ in range(5):
            middle = 0.5 * (low + high)
            if level_at(middle, -np.inf, i, *laws) < highest:
                low = middle
            else:
                high = middle
        tops[i] = min(high, _MOST_FLOW)
    return tops


@njit_inlined
def make_cell(i: int, cell: int, tables: LineTables, laws: Any) -> None:
    """Cubics through four points of one cell of a line, over 0 to 1.

    Parameters
    ----------
    i : int
        Number of the line
    cell : int
        Number of the cell
    tables : LineTables
        Lines with their tables
    laws : object
        Laws of the lines
    """
    kinds, numbers, _, _, minor, first, pipes, viscosity = laws
    lines, cells = tables.lines, tables.cells
    for m in range(4):
        root = (cell + m / 3.0) / CELLS
        flow = lines[i].top * root * root
        inlet, lost, critical, before = law_of_flow(
            flow, i, kinds, numbers, minor, first, pipes, viscosity
        )
        cells[i, cell, 0, m], cells[i, cell, 1, m] = inlet, lost
        cells[i, cell, 2, m], cells[i, cell, 3, m] = critical, before
    for k in range(_LAWS):
        a, b = cells[i, cell, k, 0], cells[i, cell, k, 1]
        c, d = cells[i, cell, k, 2], cells[i, cell, k, 3]
        cells[i, cell, k, 1] = -5.5 * a + 9.0 * b - 4.5 * c + d
        cells[i, cell, k, 2] = 9.0 * a - 22.5 * b + 18.0 * c - 4.5 * d
        cells[i, cell, k, 3] = -4.5 * a + 13.5 * b - 13.5 * c + 4.5 * d
    tables.made[i, cell] = 1


@njit_inlined
def _read(
    cells: Floats, i: int, cell: int, law: int, x: float, by_flow: float
) -> tuple[float, float]:
    """A law in its cell, and its slope by the flow."""
    a, b = cells[i, cell, law, 0], cells[i, cell, law, 1]
    c, d = cells[i, cell, law, 2], cells[i, cell, law, 3]
    return a + x * (b + x * (c + x * d)), (b + x * (2.0 * c + x * 3.0 * d)) * by_flow


@njit_inlined
def _level(flow: float, down: float, i: int, tables: LineTables) -> tuple[float, float, float, int]:
    """Level that a flow needs, its slope, how it moves with the level downstream; and the cell
    that is yet to be made, or -1."""
    line, cells = tables.lines[i], tables.cells
    place = math.sqrt(flow / line.top) * CELLS
    cell = min(int(place), CELLS - 1)
    if tables.made[i, cell] == 0:
        return 0.0, 1.0, 0.0, cell
    x = place - cell
    by_flow = CELLS * CELLS / (2.0 * line.top * max(place, 1e-9))
    inlet = _read(cells, i, cell, 0, x, by_flow)
    lost, critical, flat, before = (0.0, 0.0), (0.0, 0.0), (0.0, 0.0, 0.0), (0.0, 0.0)
    if line.lift >= 0:
        before = _read(cells, i, cell, 3, x, by_flow)
    if line.pipe >= 0:
        lost = _read(cells, i, cell, 1, x, by_flow)
        critical = _read(cells, i, cell, 2, x, by_flow)
        if line.table >= 0:
            room = max(line.bore - critical[0], 1e-6)
            deep = down - line.outlet + 0.5 * line.bore - critical[0]
            level, by_root, by_share = flat_surface(
                flow, deep / room, line.table, tables.flat_flows, tables.flat_energies
            )
            moved = 0.0
            if by_share != 0.0:  # which it is over open air, infinitely deep
                moved = by_share * critical[1] * (deep / room - 1.0) / room
            flat = (level, by_root + moved, by_share / room)
    level, slope, moves = level_and_slopes(
        down,
        line.kind,
        line.pipe >= 0,
        line.crest,
        line.bore,
        line.outlet,
        line.table >= 0,
        inlet,
        lost,
        critical,
        flat,
        before,
    )
    return level, max(slope, LEAST_SLOPE), moves, -1


@njit_inlined
def flow_between(
    i: int, up: float, down: float, guess: float, tables: LineTables
) -> tuple[float, float, float, int]:
    """Flow through one line between two levels [m³/s], its slope [s/m²], how its level moves with
    that downstream [-]; and the cell that is yet to be made, or -1.

    Newton's steps from the flow of just before, held to a bracket.

    Parameters
    ----------
    i : int
        Number of the line
    up : float
        Level upstream, [m]
    down : float
        Level downstream, -inf for open air, [m]
    guess : float
        A flow to begin at, [m³/s]
    tables : LineTables
        Lines with their tables

    Returns
    -------
    (float, float, float, int)
        The flow, [m³/s], its slope, [s/m²], how its level moves with that downstream, [-], and the
        cell to make first, or -1
    """
    line = tables.lines[i]
    threshold = max(line.dry, down) if down > line.felt else line.dry
    if up <= threshold + _HAIR:
        return 0.0, 1.0, 0.0, -1
    low, high = 0.0, line.top
    q = min(max(guess, 1e-7), high)
    slope, moves = 1.0, 0.0
    for _ in range(_MOST_TURNS):
        need, slope, moves, cell = _level(q, down, i, tables)
        if cell >= 0:
            return q, slope, moves, cell
        off = up - need
        step = q + off / slope
        if abs(off) < _LEVEL_CLOSE:
            if low < step < high:
                q = step
            break
        if off > 0.0:
            low = q
        else:
            high = q
        if high - low < 1e-12:
            break
        if not low < step < high:
            step = 0.5 * (low + high) if low > 0.0 else 0.2 * high
        q = step
    # Near no flow a slope says little: no law lets its flow grow faster than in proportion to some
    # power of the level over its crest. A slope below that would let a step carry, without any
    # flow to show for it, whatever comes to a vessel just full to its outlet.
    return q, max(slope, (up - threshold) / (_STEEPEST * q)), moves, -1
