"""Trials that anybody can run with a bucket and a clock, and what the engine says of each.

A file of trials is CSV: its first row names the columns, each further row is one trial.
"""

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass

from bathys.network.lines import Line, Piece
from bathys.parts.fittings import FITTINGS
from bathys.physics import GRAVITY, area_of
from bathys.physics.settling import basin_capture, fall_speed
from bathys.physics.siphon import START_FROUDE
from bathys.physics.water import water_at
from bathys.quality.grains import EXCESS_DENSITY, FRESH, classes_of
from bathys.shelf import BadCell, RowError
from bathys.shelf.tables import plain_cell, rows_of

__all__ = ["TRIAL_KINDS", "TrialKind", "TrialRow", "read_trials", "trial_template"]

_MOST_ROWS = 500
_WATER = 20.0  # [°C]
_ROUGH = 1.5e-6  # new plastic pipe [m]
_SHARP, _FREE = 0.5, 1.0  # K of a sharp mouth, and of an end (Crane TP-410)
_FLOW_DOUBT = 0.1  # of a flow by a pipe’s own laws and typed lengths (assumed) [-]
_CAUGHT_DOUBT = 0.2  # of what a settler catches (assumed) [-]


@dataclass(frozen=True, slots=True)
class TrialKind:
    """A kind of trial.

    Attributes
    ----------
    key, title : str
        Its name in files, and for people
    how : tuple of str
        How it is done, step by step
    columns : tuple of (str, str, float, float)
        Name, what it is with its unit, and what it cannot be under or over
    measure : str
        What comes of it
    told : callable
        From the figures of a row to what was measured, and from and to which it is expected
    """

    key: str
    title: str
    how: tuple[str, ...]
    columns: tuple[tuple[str, str, float, float], ...]
    measure: str
    told: Callable[[Mapping[str, float]], tuple[float, float, float]]


@dataclass(frozen=True, slots=True)
class TrialRow:
    """A trial of a file.

    Attributes
    ----------
    row : int
        Its row, as a spreadsheet counts
    measured, low, high : float
        What was measured, and from and to which it is expected, in the unit of its kind
    """

    row: int
    measured: float
    low: float
    high: float

    @property
    def is_within(self) -> bool:
        """Whether it lies where it is expected."""
        return self.low <= self.measured <= self.high

    @property
    def middle(self) -> float:
        """Of what is expected, in the unit of its kind."""
        return 0.5 * (self.low + self.high)


def _drain(told: Mapping[str, float]) -> tuple[float, float, float]:
    """Flow through a straight pipe from a kept level to a free end [L/h]."""
    bore = told["bore_mm"] / 1e3
    elbows = told["elbows"] * FITTINGS["elbow_90"].loss(bore, bore)
    pieces = [
        Piece("opening", "mouth", bore, _SHARP),
        Piece("friction", "pipe", bore, length=told["length_m"], roughness=_ROUGH),
        Piece("fitting", "elbows", bore, elbows),
        Piece("velocity", "end", bore, _FREE),
    ]
    line = Line(pieces, water_at(_WATER).kinematic_viscosity)
    expected = 3.6e6 * float(line.flow(told["head_mm"] / 1e3).item())
    measured = 3600.0 * told["litres"] / told["seconds"]
    return measured, expected * (1.0 - _FLOW_DOUBT), expected * (1.0 + _FLOW_DOUBT)


def _siphon(told: Mapping[str, float]) -> tuple[float, float, float]:
    """Froude number in the standpipe at the least flow that starts it [-]."""
    bore = told["standpipe_mm"] / 1e3
    speed = told["starts_l_h"] / 3.6e6 / area_of(bore)
    return speed / math.sqrt(GRAVITY * bore), START_FROUDE.low, START_FROUDE.high


def _settler(told: Mapping[str, float]) -> tuple[float, float, float]:
    """Share of dry waste that a settler caught [%]."""
    rate = told["flow_l_h"] / 3.6e6 / area_of(told["diameter_mm"] / 1e3)
    viscosity = water_at(_WATER).kinematic_viscosity
    caught = sum(
        g.share * basin_capture(fall_speed(g.grain, EXCESS_DENSITY, viscosity), rate, 1.0)
        for g in classes_of([(1.0, FRESH)])
    )
    measured = told["caught_g"] / (told["caught_g"] + told["passed_g"])
    low, high = max(caught - _CAUGHT_DOUBT, 0.0), min(caught + _CAUGHT_DOUBT, 1.0)
    return 100.0 * measured, 100.0 * low, 100.0 * high


TRIAL_KINDS: dict[str, TrialKind] = {
    kind.key: kind
    for kind in (
        TrialKind(
            "drain",
            "A pipe and a bucket",
            (
                "Lead a straight pipe of known bore out of a vessel: mouth square, end free.",
                "Keep the level in the vessel with a hose; measure from the water to the middle of "
                "the end.",
                "Time a bucket three times, and write the mean.",
            ),
            (
                ("bore_mm", "inside diameter, mm", 5.0, 300.0),
                ("length_m", "length of pipe, m", 0.05, 50.0),
                ("elbows", "short elbows of 90° in it", 0.0, 20.0),
                ("head_mm", "water over the middle of the end, mm", 20.0, 5000.0),
                ("litres", "bucket, L", 0.5, 1000.0),
                ("seconds", "time to fill it, s", 1.0, 3600.0),
            ),
            "flow, L/h",
            _drain,
        ),
        TrialKind(
            "siphon",
            "When a bell siphon starts",
            (
                "Measure the standpipe inside. Let the bed fill with the valve nearly shut.",
                "Open the valve bit by bit, a full cycle each, until the siphon starts.",
                "Time a bucket at the bed’s inlet at once: that is the least flow that starts it.",
            ),
            (
                ("standpipe_mm", "standpipe, inside diameter, mm", 10.0, 150.0),
                ("starts_l_h", "least flow that starts it, L/h", 5.0, 100_000.0),
            ),
            "Froude number at the start",
            _siphon,
        ),
        TrialKind(
            "settler",
            "What a settler catches",
            (
                "Clean the settler, and put a fine sock behind it. Feed as always for three days.",
                "Let all sludge out; dry and weigh it, and what the sock held, apart.",
                "Time a bucket for the flow.",
            ),
            (
                ("diameter_mm", "settler, inside diameter, mm", 100.0, 5000.0),
                ("flow_l_h", "flow through it, L/h", 10.0, 200_000.0),
                ("caught_g", "dry sludge let out, g", 0.1, 100_000.0),
                ("passed_g", "dry waste in the sock, g", 0.1, 100_000.0),
            ),
            "caught, %",
            _settler,
        ),
    )
}
"""By their names."""


def trial_template(kind: str) -> str:
    """A file to fill in.

    Parameters
    ----------
    kind : str
        A key of :data:`TRIAL_KINDS`

    Returns
    -------
    str
        CSV: the names of its columns
    """
    return ",".join(name for name, *_ in TRIAL_KINDS[kind].columns) + "\n"


def read_trials(kind: str, data: bytes) -> tuple[list[TrialRow], list[RowError]]:
    """The trials of a file.

    Parameters
    ----------
    kind : str
        A key of :data:`TRIAL_KINDS`
    data : bytes
        A CSV file, such as spreadsheets of any country write

    Returns
    -------
    (list of TrialRow, list of RowError)
        Trials beside what the engine expects, and rows that are none
    """
    about = TRIAL_KINDS[kind]
    names = [name for name, *_ in about.columns]
    try:
        rows = rows_of(data, names, names)
    except BadCell as bad:
        return [], [RowError(0, str(bad))]
    trials, wrong = list[TrialRow](), list[RowError]()
    for number, row in rows[:_MOST_ROWS]:
        try:
            told = {
                name: _figure(row.get(name, ""), what, least, most)
                for name, what, least, most in about.columns
            }
        except BadCell as bad:
            wrong.append(RowError(number, str(bad)))
            continue
        trials.append(TrialRow(number, *about.told(told)))
    if len(rows) > _MOST_ROWS:
        wrong.append(RowError(0, f"Only the first {_MOST_ROWS} rows are read."))
    return trials, wrong


def _figure(cell: str, what: str, least: float, most: float) -> float:
    text = plain_cell(cell).strip().replace(",", ".")
    try:
        value = float(text)
    except ValueError:
        raise BadCell(f"“{cell[:20]}” is no number: {what}.") from None
    if not math.isfinite(value) or not least <= value <= most:
        raise BadCell(f"“{cell[:20]}” cannot be: {what}, from {least:g} to {most:g}.")
    return value
