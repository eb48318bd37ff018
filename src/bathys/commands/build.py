"""``bathys build``: what to level, drill, mark, cut and read."""

from dataclasses import asdict
from typing import Any

from bathys.build import (
    KERF,
    Packing,
    PipeNeed,
    bases_of,
    cut_list,
    fitting_counts,
    holes_of,
    marks_of,
    pipe_pieces,
    readings_of,
)
from bathys.commands.tables import table
from bathys.evaluation import Evaluation
from bathys.units import System, show

__all__ = ["as_data", "as_text"]


def _length(value: float | None, units: System) -> str:
    return show(value, "length", units) if value is not None else "-"


def as_text(found: Evaluation, stock: float, units: System) -> str:
    """Levels, holes, marks and cut lists, for a terminal.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    stock : float
        Length in which pipe is sold, [m]
    units : System
        The reader's units

    Returns
    -------
    str
        Lines for a terminal

    Raises
    ------
    BadStock
        If nothing can be cut from such a length
    """
    bases = [
        (row.vessel.name, _length(row.height, units), show(row.dug, "volume", units))
        for row in bases_of(found)
    ]
    holes = [
        (
            row.vessel.name,
            row.name,
            "in the floor" if row.is_in_floor else _length(row.height, units),
            _length(row.over_datum, units),
            _length(row.pipe, units),
        )
        for row in holes_of(found)
    ]
    marks = [
        (
            row.vessel.name,
            _length(row.safe, units),
            _length(row.low, units),
            _length(row.high, units),
            _length(row.at_rest, units),
        )
        for row in marks_of(found)
    ]
    lines = table(("Vessel", "Floor", "Dig"), bases)
    lines += ["", *table(("Hole in", "For", "Over floor", "Over datum", "Pipe outside"), holes)]
    lines += ["", *table(("Mark in", "Never under", "Low", "High", "Pump off"), marks), ""]
    for need, packing in _packed(found, stock):
        named = f"{need.size}, {need.standard}" if need.standard else _length(need.bore, units)
        lines.append(f"{named}: {_length(need.length, units)} in all")
        for row in packing.stocks if packing is not None else ():
            pieces = ", ".join(f"{p.name} {_length(p.length, units)}" for p in row.pieces)
            lines.append(f"  {pieces}; {_length(row.left, units)} left")
    return "\n".join(lines)


def _packed(found: Evaluation, stock: float) -> list[tuple[PipeNeed, Packing | None]]:
    """Each size of pipe with its cut list; hose has none."""
    return [
        (need, None if need.is_by_bore else cut_list(need.pieces, stock, KERF))
        for need in pipe_pieces(found)
    ]


def as_data(found: Evaluation, stock: float) -> dict[str, Any]:
    """The same as JSON data, in SI units.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    stock : float
        Length in which pipe is sold, [m]

    Returns
    -------
    dict of str to object
        JSON data

    Raises
    ------
    BadStock
        If nothing can be cut from such a length
    """
    return {
        "bases": [
            {"vessel": r.vessel.id, "height": r.height, "dug": r.dug} for r in bases_of(found)
        ],
        "holes": [
            {
                "vessel": r.vessel.id,
                "run": r.run.id,
                "name": r.name,
                "height": r.height,
                "over_datum": r.over_datum,
                "pipe": r.pipe,
                "in_floor": r.is_in_floor,
            }
            for r in holes_of(found)
        ],
        "marks": [
            {
                "vessel": r.vessel.id,
                "safe": r.safe,
                "low": r.low,
                "high": r.high,
                "at_rest": r.at_rest,
                "sludge": r.sludge,
            }
            for r in marks_of(found)
        ],
        "fittings": [asdict(r) for r in fitting_counts(found)],
        "pipes": [
            {
                "size": need.size,
                "standard": need.standard,
                "bore": need.bore,
                "length": need.length,
                "stocks": [asdict(s) for s in packing.stocks] if packing is not None else None,
                "least": packing.least if packing is not None else None,
            }
            for need, packing in _packed(found, stock)
        ],
        "readings": [asdict(r) for r in readings_of(found)],
    }
