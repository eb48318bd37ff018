"""How water that is carried over rims is drawn in the side view."""

from bathys.drawing.frame import Frame
from bathys.drawing.scene import Scene, Stroke, Text
from bathys.drawing.stations import Station
from bathys.plan.model import Plan
from bathys.plan.supply import Move
from bathys.units import System, show

__all__ = ["draw_carried"]

_ARCH = 26.0  # how far over the rims water is carried
_ASIDE = 46.0  # where water from outside comes from, and what leaves goes to


def _over(frame: Frame, plan: Plan, id_: str, number: int) -> tuple[float, float]:
    """Where a hose hangs over a vessel's rim."""
    vessel = plan.vessel(id_)
    left, right = frame.edges(id_)
    x = left + (0.5 + 0.08 * (number % 4)) * (right - left)
    return round(x, 1), frame.y(vessel.floor_height + vessel.shape.height)


def draw_carried(
    frame: Frame,
    scene: Scene,
    plan: Plan,
    move: Move,
    number: int,
    station: Station | None,
    units: System,
) -> None:
    """A dotted line from vessel to vessel, or from and to beyond the layout.

    Parameters
    ----------
    frame : Frame
        Where the plan lies in the picture
    scene : Scene
        The picture
    plan : Plan
        The plan
    move : Move
        What is carried
    number : int
        Which of those beside it, so that they hang apart
    station : Station or None
        The number of its part in the picture; none to leave it out
    units : System
        The reader's units
    """
    ends = [
        None if id_ is None else _over(frame, plan, id_, number)
        for id_ in (move.source, move.target)
    ]
    known = [p for p in ends if p is not None]
    over = max(min(y for _, y in known) - _ARCH - 9.0 * (number % 3), 12.0)
    (x0, y0), (x1, y1) = (
        p if p is not None else (known[0][0] + side * _ASIDE, over)
        for p, side in zip(ends, (-1.0, 1.0), strict=True)
    )
    start = f"{x0},{y0 + 14} {x0},{over}" if ends[0] is not None else f"{x0},{over}"
    end = f"{x1},{over} {x1},{y1 + 10}" if ends[1] is not None else f"{x1},{over}"
    scene.strokes.append(Stroke(f"{start} {end}", 1.8, "carried", move.id))
    tip = f"{x1 - 5},{y1 + 3} {x1},{y1 + 11} {x1 + 5},{y1 + 3}"
    if ends[1] is None:
        tip = f"{x1 - 8},{over - 5} {x1},{over} {x1 - 8},{over + 5}"
    scene.strokes.append(Stroke(tip, 1.8, "carried-tip", move.id))
    scene.avoid((min(x0, x1), over - 3, max(x0, x1), over + 3))
    middle = 0.5 * (x0 + x1)
    if station is not None:
        scene.number(
            [(middle, over), (middle + 24, over), (middle - 24, over), (middle, over - 14)],
            station,
        )
    words = show(move.volume, "volume", units)
    places = [
        Text(round(middle + shift, 1), round(over + down, 1), words, "bore-figure")
        for shift in (14.0, -14.0)
        for down in (-8.0, 16.0)
    ]
    scene.write(places, must_be_clear=True)
