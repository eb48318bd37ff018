"""How an exchange is drawn in the side view: out over the rim, and in again."""

from collections.abc import Mapping

from bathys.components.exchange.model import WaterExchange
from bathys.drawing.frame import Frame
from bathys.drawing.scene import Scene, Stroke, Text
from bathys.drawing.stations import Station
from bathys.plan.model import Plan
from bathys.units import System, show

__all__ = ["draw"]

_OVER = 20.0


def draw(
    frame: Frame,
    scene: Scene,
    plan: Plan,
    exchange: WaterExchange,
    numbers: Mapping[str, Station],
    units: System,
) -> None:
    """Two arrows over the rim, one out and one in, with what is exchanged.

    Parameters
    ----------
    frame : Frame
        Where the plan lies in the picture
    scene : Scene
        The picture
    plan : Plan
        The plan
    exchange : WaterExchange
        The exchange
    numbers : mapping of str to Station
        The number of each part in the picture
    units : System
        The reader's units
    """
    vessel = plan.vessel(exchange.stands_in)
    left, right = frame.edges(vessel.id)
    rim = frame.y(vessel.floor_height + vessel.shape.height)
    x, top = round(0.5 * (left + right), 1), rim - _OVER
    for side, tip in ((-7.0, top), (7.0, rim + 6.0)):
        scene.strokes.append(
            Stroke(f"{x + side},{top} {x + side},{rim + 6}", 1.8, "carried", exchange.id)
        )
        up = 5.0 if tip == top else -5.0
        head = f"{x + side - 4},{tip + up} {x + side},{tip} {x + side + 4},{tip + up}"
        scene.strokes.append(Stroke(head, 1.8, "carried-tip", exchange.id))
    scene.avoid((x - 12, top - 2, x + 12, rim + 8))
    scene.number([(x, top - 12), (x + 26, top), (x - 26, top)], numbers[exchange.id])
    words = show(exchange.volume_of(vessel), "volume", units)
    scene.write([Text(x + 16, top + 4, words, "bore-figure")], must_be_clear=True)
