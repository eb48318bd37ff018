"""The page of a plan's instruments: what is wrong, what is read beside what should be."""

from collections.abc import Mapping, Sequence
from datetime import datetime, timedelta
from typing import Any

import numpy as np
from django.conf import settings

from bathys.drawing import draw_side_view
from bathys.drawing.measured import measured_lines
from bathys.drawing.stations import stations_of
from bathys.evaluation import Evaluation
from bathys.instruments import CHANNEL_KINDS, Band, unit_labels, usual_channels
from bathys.rules import FAILURES
from bathys.scenarios.failures import failures_of
from bathys.units import System, show
from bathys_web.computing.asking import Answer
from bathys_web.instruments.expecting import Expected
from bathys_web.instruments.models import (
    Board,
    BoardChannel,
    ForetoldHarm,
    Incident,
    SentMessage,
    WatchSettings,
)
from bathys_web.instruments.storage import latest_of, series_of
from bathys_web.instruments.words import incident_words
from bathys_web.plans.models import SavedPlan

__all__ = ["instruments_context", "shown_reading"]

_SILENT = timedelta(minutes=15)
_SHOWN = 12  # incidents that are past
_THREE = 3  # readings, of which the middle counts


def shown_reading(kind: str, value: float, units: System) -> str:
    """A reading as it is shown.

    Parameters
    ----------
    kind : str
        Kind of its channel
    value : float
        The reading, [SI unit of its kind]
    units : System
        The reader's units

    Returns
    -------
    str
        With its unit; of a float contact, whether it is closed
    """
    if kind == "contact":
        return "closed" if value >= 0.5 else "open"
    return show(value, CHANNEL_KINDS[kind].quantity, units)


def instruments_context(
    saved: SavedPlan, found: Evaluation, answer: Answer, now: datetime, units: System
) -> dict[str, Any]:
    """Everything that the page shows.

    Parameters
    ----------
    saved : SavedPlan
        The plan
    found : Evaluation
        Its numbers
    answer : Answer
        What is known of what its instruments should read
    now : datetime
        When it is shown
    units : System
        The reader's units

    Returns
    -------
    dict of str to object
        For the page
    """
    boards = list(saved.boards.prefetch_related("channels"))
    rows = [channel for board in boards for channel in board.channels.all()]
    expected = answer.result if answer.is_done and isinstance(answer.result, Expected) else None
    bands = expected.bands if expected is not None else {}
    latest = latest_of([row.pk for row in rows])
    steady = _steady(rows, now)
    incidents = list(Incident.objects.filter(plan=saved).prefetch_related("alarms")[: _SHOWN + 1])
    open_now = next((i for i in incidents if i.ended is None), None)
    simulated = next((b for b in boards if b.is_simulated), None)
    names = found.plan.names
    return {
        "open_now": _incident(open_now, found, units) if open_now is not None else None,
        "past": [_incident(i, found, units) for i in incidents if i is not open_now][:_SHOWN],
        "readings": [_reading(row, names, bands, (latest, steady), now, units) for row in rows],
        "boards": [_board(b, names) for b in boards],
        **_picture(found, rows, bands, (latest, steady), now, units),
        "is_expected": expected is not None,
        "why_not": answer.result if answer.is_done and expected is None else "",
        "unfollowed": expected.unfollowed if expected is not None else "",
        "unnoticed": _unnoticed(expected, names),
        "usual": [
            {
                "value": f"{c.kind} {c.part}",
                "words": f"{CHANNEL_KINDS[c.kind].title}, {names[c.part]}",
            }
            for c in usual_channels(found)
        ],
        "kinds": [
            {
                "key": kind.key,
                "title": kind.title,
                "parts": [(id_, names[id_]) for id_ in kind.parts(found)],
                "units": unit_labels(kind.key),
            }
            for kind in CHANNEL_KINDS.values()
        ],
        **_watch(saved),
        "foretold": ForetoldHarm.objects.filter(plan=saved)[:_SHOWN],
        "messages_sent": SentMessage.objects.filter(incident__plan=saved)[:_SHOWN],
        "has_push": bool(settings.PUSH_URL),
        "simulated": simulated,
        "failures": [
            {"value": f"{f.kind} {f.place}", "words": _failure_words(f.kind, f.place, names)}
            for f in failures_of(found.plan)
            if f.kind != "stuck_open"
        ]
        if simulated is not None
        else [],
        "failing": [
            {"words": _failure_words(f.kind, f.place, names), "ends": f.ends}
            for f in simulated.faults.filter(ends__gt=now, begins__lte=now)
        ]
        if simulated is not None
        else [],
    }


_Read = tuple[Mapping[int, tuple[datetime, float]], Mapping[int, float]]
"""By the channel: its last reading and when, and the middle of its last three."""


def _steady(rows: Sequence[BoardChannel], now: datetime) -> dict[int, float]:
    """The middle of the last three readings of each, so that one odd reading alarms nobody."""
    told = series_of([row.pk for row in rows], now - _SILENT, now)
    return {
        int(key): float(np.median(series.values[-_THREE:]))
        for key, series in told.items()
        if len(series) >= _THREE
    }


def _picture(
    found: Evaluation,
    rows: Sequence[BoardChannel],
    bands: Mapping[str, Band],
    read: _Read,
    now: datetime,
    units: System,
) -> dict[str, Any]:
    """The side view with measured levels over what is expected; nothing where none is measured."""
    plan, heights, off = found.plan, dict[str, float](), set[str]()
    latest, steady = read
    for row in rows:
        at, value = latest.get(row.pk, (None, 0.0))
        in_plan = any(v.id == row.part for v in plan.vessels)
        if row.kind not in ("level", "below") or not in_plan or at is None or now - at > _SILENT:
            continue
        rim = float(plan.vessel(row.part).shape.height)
        heights[row.part] = rim - value if row.kind == "below" else value
        band = bands.get(str(row.pk))
        if band is not None and not band.low <= steady.get(row.pk, value) <= band.high:
            off.add(row.part)
    if not heights:
        return {"scene": None}
    return {
        "scene": draw_side_view(found, stations_of(plan), units),
        "lines": [
            {
                "line": line,
                "words": show(heights[line.vessel], "length", units),
                "is_off": line.vessel in off,
                "name": plan.names[line.vessel],
            }
            for line in measured_lines(plan, heights)
        ],
    }


def _watch(saved: SavedPlan) -> dict[str, Any]:
    watch = WatchSettings.objects.filter(plan=saved).first() or WatchSettings(plan=saved)
    return {
        "watch": watch,
        "quiet_from": f"{watch.quiet_from // 60:02d}:{watch.quiet_from % 60:02d}",
        "quiet_until": f"{watch.quiet_until // 60:02d}:{watch.quiet_until % 60:02d}",
    }


def _failure_words(kind: str, place: str, names: Mapping[str, str]) -> str:
    words = FAILURES[kind].format(name=names.get(place, place))
    return words[:1].upper() + words[1:]


def _unnoticed(expected: Expected | None, names: Mapping[str, str]) -> list[str]:
    if expected is None:
        return []
    return [
        _failure_words(f.kind, f.place, names)
        for f, after in expected.noticed
        if after is None and f.place in names
    ]


def _incident(incident: Incident, found: Evaluation, units: System) -> dict[str, Any]:
    return {"row": incident, "words": incident_words(incident, found, units)}


def _board(board: Board, names: Mapping[str, str]) -> dict[str, Any]:
    return {
        "row": board,
        "channels": [
            {
                "row": channel,
                "what": CHANNEL_KINDS[channel.kind].title,
                "name": names.get(channel.part, channel.part),
                "is_there": channel.part in names,
            }
            for channel in board.channels.all()
        ],
    }


def _reading(
    row: BoardChannel,
    names: Mapping[str, str],
    bands: Mapping[str, Band],
    read: _Read,
    now: datetime,
    units: System,
) -> dict[str, Any]:
    latest, steady = read
    at, value = latest.get(row.pk, (None, 0.0))
    lasting = steady.get(row.pk, value)
    band = bands.get(str(row.pk))
    told: dict[str, Any] = {
        "pk": row.pk,
        "what": CHANNEL_KINDS[row.kind].title,
        "part": row.part,
        "board": row.board.name,
        "name": names.get(row.part, row.part),
        "is_there": row.part in names,
        "at": at,
        "value": shown_reading(row.kind, value, units) if at is not None else "",
        "expected": _band_words(row.kind, band, units) if band is not None else "",
        "look": "",
    }
    if at is None:
        told["verdict"] = "nothing yet"
    elif now - at > _SILENT:
        told["verdict"], told["look"] = "silent", "grave"
    elif band is None:
        told["verdict"] = ""
    elif lasting < band.low:
        told["verdict"], told["look"] = "less than expected", "grave"
    elif lasting > band.high:
        told["verdict"], told["look"] = "more than expected", "grave"
    elif not band.low <= value <= band.high:
        told["verdict"] = "one odd reading"
    else:
        told["verdict"] = "as expected"
    return told


def _band_words(kind: str, band: Band, units: System) -> str:
    if kind == "contact":
        return shown_reading(kind, band.low, units)
    low, high = (show(v, CHANNEL_KINDS[kind].quantity, units) for v in (band.low, band.high))
    return f"{low} to {high}"
