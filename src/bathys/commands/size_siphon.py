"""``bathys size siphon`` and ``timer``: siphons and timers that would do, for a terminal."""

from typing import Any

from bathys.commands.tables import table
from bathys.sizing import (
    SiphonDesign,
    TimerDesign,
)
from bathys.units import System, fill_sentence, show

__all__ = ["siphon_data", "siphon_text", "timer_data", "timer_text"]


def siphon_text(found: SiphonDesign, units: System) -> str:
    """Siphons that would do for a bed.

    Parameters
    ----------
    found : SiphonDesign
        What was worked out
    units : System
        The reader's units

    Returns
    -------
    str
        Lines for a terminal
    """
    rows = [
        (
            c.kind,
            c.nominal,
            c.bell,
            " ".join(
                w
                for w, said in (("air tube", c.has_tube), ("last elbow up", c.is_turned_up))
                if said
            ),
            show(c.window.start.value, "flow", units),
            show(c.window.stop.value, "flow", units),
            show(c.peak, "flow", units),
            "yes" if c.fits else "no",
            "yes" if c.fits_all else "no",
        )
        for c in found.choices
    ]
    head = (
        "",
        "pipe",
        "bell",
        "with",
        "starts above",
        "stops up to",
        "peak",
        "with margins",
        "in the worst band",
    )
    lines = table(head, rows, 4) if rows else []
    if found.refusal:
        lines = [fill_sentence(found.refusal, found.figures or {}, units, {}), "", *lines]
    return "\n".join(lines)


def siphon_data(found: SiphonDesign) -> dict[str, Any]:
    """The same as data, in SI units.

    Parameters
    ----------
    found : SiphonDesign
        What was worked out

    Returns
    -------
    dict of str to object
        Figures in SI units, by name
    """
    return {
        "refusal": fill_sentence(found.refusal, found.figures or {}, "metric", {}),
        "choices": [
            {
                "kind": c.kind,
                "nominal": c.nominal,
                "bell": c.bell,
                "air_tube": c.has_tube,
                "elbow_up": c.is_turned_up,
                "starts_above": c.window.start.value,
                "stops_up_to": c.window.stop.value,
                "peak": c.peak,
                "with_margins": c.fits,
                "in_the_worst_band": c.fits_all,
                "part": c.part,
            }
            for c in found.choices
        ],
    }


def timer_text(found: TimerDesign, units: System) -> str:
    """Timers and holes that would do for a bed.

    Parameters
    ----------
    found : TimerDesign
        What was worked out
    units : System
        The reader's units

    Returns
    -------
    str
        Lines for a terminal
    """
    if found.refusal:
        return fill_sentence(found.refusal, found.figures or {}, units, {})
    rows = [
        (
            f"{c.holes} × {show(c.diameter, 'length', units)}",
            show(c.on, "clock", units),
            show(c.off, "clock", units),
            show(c.fill_time, "time", units),
            show(c.drain_time, "time", units),
            show(c.dry_time, "time", units),
        )
        for c in found.choices
    ]
    return "\n".join(table(("holes", "on", "off", "fills in", "drains in", "left dry"), rows, 1))


def timer_data(found: TimerDesign) -> dict[str, Any]:
    """The same as data, in SI units.

    Parameters
    ----------
    found : TimerDesign
        What was worked out

    Returns
    -------
    dict of str to object
        Figures in SI units, by name
    """
    names = ("holes", "diameter", "fill_time", "drain_time", "dry_time", "on", "off")
    return {
        "refusal": fill_sentence(found.refusal, found.figures or {}, "metric", {}),
        "choices": [{n: getattr(c, n) for n in names} for c in found.choices],
    }
