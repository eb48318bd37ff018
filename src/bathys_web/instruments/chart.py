"""Readings of a channel over a day, a week, a month or a year, beside what they should be."""

from datetime import datetime, timedelta
from typing import Any

from bathys.instruments import CHANNEL_KINDS, Band
from bathys.units import System
from bathys_web.instruments.models import BoardChannel
from bathys_web.instruments.page import shown_reading
from bathys_web.instruments.storage import rolled_up
from bathys_web.plans.benches.plots import Curve, Mark, Plot

__all__ = ["SPANS", "chart_of"]

_ROWS = 24  # of the table

SPANS: dict[str, tuple[str, timedelta, int]] = {
    "day": ("A day", timedelta(days=1), 60),
    "week": ("A week", timedelta(days=7), 3600),
    "month": ("A month", timedelta(days=31), 3600),
    "year": ("A year", timedelta(days=366), 86400),
}
"""What is shown, how long it is, and by what it is rolled up [s]."""


def chart_of(
    channel: BoardChannel, name: str, band: Band | None, span: str, now: datetime, units: System
) -> dict[str, Any]:
    """A chart.

    Parameters
    ----------
    channel : BoardChannel
        What was measured
    name : str
        Name of its part
    band : Band or None
        Between what it should be
    span : str
        A key of :data:`SPANS`
    now : datetime
        Its right edge
    units : System
        The reader's units

    Returns
    -------
    dict of str to object
        ``plot`` as JSON, empty where nothing was read; and ``table``, at most 24 rows, the latest
        first
    """
    words, length, step = SPANS[span]
    rows = rolled_up(channel.pk, step, now - length, now)
    kind = CHANNEL_KINDS[channel.kind]
    unit = 3600.0 if span == "day" else 86400.0
    xs = [(row.begin - now).total_seconds() / unit for row in rows]
    curves = [Curve("mean", xs, [r.mean for r in rows], "deep")]
    if step > 60:
        curves.append(Curve("least", xs, [r.least for r in rows], "soft", is_dashed=True))
        curves.append(Curve("most", xs, [r.most for r in rows], "soft", is_dashed=True))
    marks: tuple[Mark, ...] = ()
    if band is not None and channel.kind != "contact":
        marks = (Mark(band.low, "least expected"), Mark(band.high, "most expected"))
    axis = "hours; now is 0" if span == "day" else "days; now is 0"
    plot = Plot(
        f"{kind.title}, {name}", (axis, "ratio"), (kind.title, kind.quantity), tuple(curves), marks
    )
    told = list(reversed(rows))
    table = [
        {
            "begin": row.begin,
            "least": shown_reading(channel.kind, row.least, units),
            "mean": shown_reading(channel.kind, row.mean, units),
            "most": shown_reading(channel.kind, row.most, units),
        }
        for row in told[:: max(len(told) // _ROWS, 1)][:_ROWS]
    ]
    return {"plot": plot.as_json(units) if rows else "", "table": table, "words": words}
