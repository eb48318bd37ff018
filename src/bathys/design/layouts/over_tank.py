"""What layouts with beds over the fish tank have in common."""

from bathys.design.brief import DesignBrief, shell_of
from bathys.design.draft import Draft
from bathys.design.refusing import DesignRefused

__all__ = ["bed_floor", "tank_below"]

_RETURN_UNDER = 0.09  # returns end so far under the tank's rim [m]
_ROOM = 0.12  # between the water at rest and the rim: freeboard and what a stop brings back [m]
_LEAST_DEPTH = 0.5  # of the tank's water that must stay in it when beds are full [-]


def tank_below(draft: Draft, brief: DesignBrief, swing: float) -> tuple[str, float]:
    """The fish tank on the ground, filled so that it neither spills nor runs low.

    Parameters
    ----------
    draft : Draft
        The draft
    brief : DesignBrief
        The brief
    swing : float
        Water that the beds take out of it at most, [m³]

    Returns
    -------
    (str, float)
        Its id, and the height of its returns over its floor, [m]

    Raises
    ------
    DesignRefused
        If the beds would take too much
    """
    shell = shell_of(brief.tank)
    depth = shell.height - min(_ROOM, 0.2 * shell.height)
    held = shell.holds(depth)
    if held - swing < _LEAST_DEPTH * held:
        one = swing / brief.beds.count
        count = int(_LEAST_DEPTH * held / one)
        sentence = (
            "The beds take {swing:volume} out of the {held:volume} in the tank: more than half of "
            "it. Take fewer or smaller beds, a larger tank, or a layout with a sump."
        )
        frees = {"beds": {"count": count}} if count else {"layout": "split_flow"}
        raise DesignRefused("beds", sentence, {"swing": swing, "held": held}, frees)
    tank = draft.vessel("T1", "Fish tank", "fish_tank", shell, 0.0, water_depth=round(depth, 3))
    return tank, shell.height - min(_RETURN_UNDER, 0.15 * shell.height)


def bed_floor(brief: DesignBrief, returns: float, drop: float) -> tuple[float, float]:
    """How high beds stand over the tank.

    Parameters
    ----------
    brief : DesignBrief
        The brief
    returns : float
        Where their drains end, over the ground, [m]
    drop : float
        Of a drain, from the bed's floor, [m]

    Returns
    -------
    (float, float)
        Height of their floors and the drop, [m]

    Raises
    ------
    DesignRefused
        If they would stand higher than is allowed
    """
    tank, bed = shell_of(brief.tank), shell_of(brief.beds)
    floor = max(returns + drop, tank.height + 0.1)
    rim = floor + bed.height
    if rim > brief.highest + 1e-9:
        sentence = (
            "The beds’ rims would stand {rim:length} over the ground, you allowed "
            "{highest:length}: water has to fall back into a tank of {tall:length}. Take a lower "
            "tank, or allow more."
        )
        figures = {"rim": rim, "highest": brief.highest, "tall": tank.height}
        raise DesignRefused("highest", sentence, figures, {"highest": round(rim + 0.005, 2)})
    return round(floor, 3), floor - returns
