"""Water that comes and goes by itself: float valves, and what is carried by the clock."""

from bathys.drawing.frame import Frame
from bathys.drawing.scene import Scene, Shape, Stroke, Text
from bathys.drawing.stations import Station
from bathys.plan.model import Plan
from bathys.plan.supply import TopUp, Transfer
from bathys.units import System, show

__all__ = ["draw_supplies"]

_ARM = 22.0  # of a float valve
_ARCH = 26.0  # how far over the rims water is carried
_ASIDE = 46.0  # where water from outside comes from, and what leaves goes to


def draw_supplies(
    frame: Frame, scene: Scene, plan: Plan, numbers: dict[str, Station], units: System
) -> None:
    """Draw them all, each with its number."""
    for valve in plan.top_ups:
        _float_valve(frame, scene, plan, valve, numbers)
    for number, transfer in enumerate(plan.transfers):
        _transfer(frame, scene, plan, transfer, number, numbers, units)


def _float_valve(
    frame: Frame, scene: Scene, plan: Plan, valve: TopUp, numbers: dict[str, Station]
) -> None:
    """A pipe in over the left wall, an arm, and a ball on the water at which it shuts."""
    vessel = plan.vessel(valve.stands_in)
    left, _ = frame.edges(vessel.id)
    rim = frame.y(vessel.floor_height + vessel.shape.height)
    level = frame.y(vessel.floor_height + valve.level)
    body = max(min(rim + 8.0, level - 4.0), rim - 6.0)
    ball = f"{left + _ARM},{level - 5} {left + _ARM + 5},{level} {left + _ARM},{level + 5} " \
           f"{left + _ARM - 5},{level}"  # fmt: skip
    pipe = f"{left - 14},{body} {left + 8},{body}"
    scene.strokes.append(Stroke(pipe, 4.0, "supply", valve.id))
    arm = f"{left + 8},{body} {left + _ARM},{level}"
    scene.strokes.append(Stroke(arm, 1.5, "supply", valve.id))
    scene.shapes.append(Shape(ball, "ball", valve.id))
    top, foot = min(body, level), max(body, level)
    scene.avoid((left - 14, top - 4, left + _ARM + 6, foot + 6))
    scene.number([(left - 26, body), (left - 14, body - 18), (left + 14, body - 20)],
                 numbers[valve.id])  # fmt: skip


def _over(frame: Frame, plan: Plan, id_: str, number: int) -> tuple[float, float]:
    """Where a hose hangs over a vessel's rim."""
    vessel = plan.vessel(id_)
    left, right = frame.edges(id_)
    x = left + (0.5 + 0.08 * (number % 4)) * (right - left)
    return round(x, 1), frame.y(vessel.floor_height + vessel.shape.height)


def _transfer(
    frame: Frame, scene: Scene, plan: Plan, transfer: Transfer, number: int,
    numbers: dict[str, Station], units: System,
) -> None:  # fmt: skip
    """A dotted line from vessel to vessel, or from and to beyond the layout."""
    ends = [None if id_ is None else _over(frame, plan, id_, number)
            for id_ in (transfer.source, transfer.target)]  # fmt: skip
    known = [p for p in ends if p is not None]
    over = max(min(y for _, y in known) - _ARCH - 9.0 * (number % 3), 12.0)
    (x0, y0), (x1, y1) = (
        p if p is not None else (known[0][0] + side * _ASIDE, over)
        for p, side in zip(ends, (-1.0, 1.0), strict=True)
    )
    start = f"{x0},{y0 + 14} {x0},{over}" if ends[0] is not None else f"{x0},{over}"
    end = f"{x1},{over} {x1},{y1 + 10}" if ends[1] is not None else f"{x1},{over}"
    scene.strokes.append(Stroke(f"{start} {end}", 1.8, "carried", transfer.id))
    tip = f"{x1 - 5},{y1 + 3} {x1},{y1 + 11} {x1 + 5},{y1 + 3}"
    if ends[1] is None:
        tip = f"{x1 - 8},{over - 5} {x1},{over} {x1 - 8},{over + 5}"
    scene.strokes.append(Stroke(tip, 1.8, "carried-tip", transfer.id))
    scene.avoid((min(x0, x1), over - 3, max(x0, x1), over + 3))
    middle = 0.5 * (x0 + x1)
    scene.number([(middle, over), (middle + 24, over), (middle - 24, over), (middle, over - 14)],
                 numbers[transfer.id])  # fmt: skip
    words = show(transfer.volume, "volume", units)
    places = [
        Text(round(middle + shift, 1), round(over + down, 1), words, "bore-figure")
        for shift in (14.0, -14.0)
        for down in (-8.0, 16.0)
    ]
    scene.write(places, must_be_clear=True)
