"""Heights from the end backwards: the sump, then what drains into it, then the fish tank."""

from dataclasses import dataclass

from bathys.design.brief import DesignBrief, shell_of
from bathys.design.draft import DRAIN_SLOPE
from bathys.design.refusing import DesignRefused
from bathys.plan.shell import Shell

__all__ = [
    "SUMP_UNDER_RIM",
    "TANK_FALL",
    "Fall",
    "check_rim",
    "floor_over",
    "sump_floor",
    "tank_floor",
]

SUMP_UNDER_RIM = 0.06
"""Returns end so far under a sump's rim [m]."""
TANK_FALL = 0.1
"""From a fish tank's water to the settler's at the least (common practice) [m]."""

_RIM_OVER_GROUND = 0.1  # a sump that is dug in keeps out what runs over the ground [m]
_MARGIN = 0.06  # of every other fall, over the slope of its pipe [m]
_OVER_OUTLET = 0.05  # water stands so far over the middle of an outlet, at most [m]
_CREST_UNDER_RIM = 0.12  # of a tank's overflow [m]


@dataclass(frozen=True, slots=True)
class Fall:
    """A drain's two ends.

    Attributes
    ----------
    low : float
        Height of its end, [m]
    length : float
        Along the level, [m]
    """

    low: float
    length: float

    @property
    def least_start(self) -> float:
        """Where it has to begin at the least [m]."""
        return self.low + DRAIN_SLOPE * self.length + _MARGIN


def sump_floor(brief: DesignBrief, sump: Shell) -> float:
    """How deep a sump stands: as deep as may be dug, its rim kept over the ground [m].

    Parameters
    ----------
    brief : DesignBrief
        The brief
    sump : Shell
        The sump

    Returns
    -------
    float
        Height of its floor, [m]
    """
    return -round(min(brief.dig, max(sump.height - _RIM_OVER_GROUND, 0.0)), 3)


def floor_over(fall: Fall, outlet: float, least: float = 0.0) -> float:
    """Floor of a vessel whose outlet drains into something lower.

    Parameters
    ----------
    fall : Fall
        Its drain
    outlet : float
        Height of its outlet over its floor, [m]
    least : float
        It stands so high at the least, [m]

    Returns
    -------
    float
        Height of its floor, [m]
    """
    return round(max(fall.least_start - outlet, least), 3)


def tank_floor(settler_floor: float, settler: Shell, tank: Shell) -> tuple[float, float]:
    """Floor and crest of a fish tank that overflows into a settler.

    Parameters
    ----------
    settler_floor : float
        Height of the settler's floor, [m]
    settler, tank : Shell
        What they are made of

    Returns
    -------
    (float, float)
        Height of the tank's floor, and of its overflow's crest over it, [m]
    """
    water = settler_floor + settler.height - 0.14 + _OVER_OUTLET
    crest = round(tank.height - min(_CREST_UNDER_RIM, 0.25 * tank.height), 3)
    return round(max(water + TANK_FALL + _MARGIN - crest, 0.0), 3), crest


def check_rim(brief: DesignBrief, what: str, rim: float, sump: Shell | None) -> None:
    """See to it that a rim is no higher than is allowed.

    Parameters
    ----------
    brief : DesignBrief
        The brief
    what : str
        What it is the rim of, in words
    rim : float
        Over the ground, [m]
    sump : Shell or None
        The sump, which may be dug in; none where there is none

    Raises
    ------
    DesignRefused
        If it is higher, with what would free it: digging the sump in, so far as that helps
    """
    over = rim - brief.highest
    if over <= 1e-9:
        return
    figures = {"rim": rim, "highest": brief.highest, "over": over}
    deeper = max(sump.height - _RIM_OVER_GROUND, 0.0) - brief.dig if sump is not None else -1.0
    sentence = (
        f"The rim of the {what} would stand {{rim:length}} over the ground, you allowed "
        "{highest:length}."
    )
    frees: dict[str, float] = {"highest": round(rim + 0.005, 2)}
    if shell_of(brief.tank).height < brief.highest and over <= deeper:
        sentence += " Dig the sump in {over:length} deeper, or allow a higher rim."
        frees = {"dig": round(brief.dig + over + 0.005, 2)}
    else:
        sentence += " Take a lower container, or allow a higher rim."
    raise DesignRefused("highest", sentence, figures, frees)
