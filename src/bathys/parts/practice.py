"""What the trade holds to, each once, for rule, sizing, figure and page (common practice)."""

from dataclasses import dataclass

__all__ = [
    "A_FISH",
    "CARRIERS_TUMBLE",
    "LEAST_COVER",
    "LEAST_TURNOVER",
    "MEDIA_A_FISH",
    "OUTLET_CALM",
    "PRACTICES",
    "PUMP_RESERVE",
    "SCHOOLS",
    "SETTLER_HOLDS",
    "SETTLER_RATE",
    "SETTLER_RETENTION",
    "SETTLER_USUAL",
    "START_MARGIN",
    "STOP_MARGIN",
    "TANK_KEEPS",
    "TURNOVER_AIMS",
    "WASTE_CARRIED",
    "Practice",
    "Way",
]

_HOUR = 3600.0  # [s]

LEAST_COVER = 0.05
"""Water to keep over a pump's inlet [m]."""

LEAST_TURNOVER = 1.0 / _HOUR
"""Turnover below which fish or water are at risk [1/s]."""

SCHOOLS = {
    "tank": "tank, once an hour",
    "frugal": "bed, twice an hour",
    "whole_system": "whole system",
    "headroom": "pump with headroom",
}
"""Schools of how much water is to move, with their names."""

TURNOVER_AIMS: dict[str, float] = {
    "tank": 1.5 / _HOUR,
    "frugal": 2.0 / _HOUR,
    "whole_system": 2.0 / _HOUR,
}
"""Turnover that each school aims at [1/s]."""

SETTLER_RATE = 0.003
"""Greatest overflow rate of a settler (Davidson and Summerfelt 2005, memory) [m/s]."""
SETTLER_RETENTION = 120.0
"""Least time that water stays in a settler [s]."""
OUTLET_CALM = 0.026
"""Velocity through a settler's outlet holes that draws nothing along [m/s]."""
WASTE_CARRIED = 0.3
"""Velocity under which waste lies down in level pipe [m/s]."""
PUMP_RESERVE = 0.20
"""Flow to spare when a pump is chosen, over what is asked of it [-]."""

MEDIA_A_FISH, A_FISH = 0.025, 0.5
"""Wetted media that carry the bacteria for a fish, and such a fish [m³, kg]."""

CARRIERS_TUMBLE = 5.0 / _HOUR
"""Air from which carriers tumble, over the floor of their chamber [m/s]."""

START_MARGIN, STOP_MARGIN = 1.25, 0.75
"""Inflow of a siphon over the least that starts it, and over the most at which it breaks [-]."""

TANK_KEEPS = 0.5
"""Share of its water that a fish tank is to keep, whatever fails [-]."""


@dataclass(frozen=True, slots=True)
class Way:
    """One way of doing something that builders do in several ways.

    Attributes
    ----------
    name : str
        What it is called
    gains, costs : str
        What speaks for it and against it
    """

    name: str
    gains: str
    costs: str


@dataclass(frozen=True, slots=True)
class Practice:
    """Something that schools do differently; none of them is faulted for it.

    Attributes
    ----------
    title : str
        What it is about
    ways : dict of Way
        By what a plan file calls them
    """

    title: str
    ways: dict[str, Way]


PRACTICES: dict[str, Practice] = {
    "feed_place": Practice(
        "Where water enters a bed",
        {
            "corner": Way(
                "in the corner farthest from the drain",
                "The water passes the whole bed; one pipe is enough.",
                "Solids settle about one spot.",
            ),
            "ring": Way(
                "by a ring of holes round the bed",
                "Water and solids come to all of it alike.",
                "The holes clog, and cost some head.",
            ),
            "center": Way(
                "at the sides, with the drain in the middle",
                "Short ways to the drain from all sides.",
                "The guard stands in the middle of the plants.",
            ),
        },
    ),
    "tail_joints": Practice(
        "How a siphon’s tail is joined",
        {
            "glued": Way(
                "all joints glued",
                "No joint draws air, so the siphon runs full.",
                "To change the back pressure, it must be cut.",
            ),
            "dry": Way(
                "last elbow left dry",
                "It can be turned until the siphon starts and stops well.",
                "It may work loose, or draw a little air.",
            ),
        },
    ),
    "exchange": Practice(
        "How much water is exchanged",
        {
            "none": Way(
                "none, only topped up",
                "No nutrients and no heat are lost.",
                "Salts that plants leave behind build up.",
            ),
            "recycled": Way(
                "some, led to other plants",
                "Nutrients go to the garden, and salts leave.",
                "Fresh water must be free of chlorine and at a like temperature.",
            ),
            "weekly": Way(
                "about 20 % of the fish tank a week",
                "It keeps nitrate and salts low with few plants.",
                "Much water, heat and nutrients are lost.",
            ),
        },
    ),
    "bacteria": Practice(
        "Where the bacteria live",
        {
            "biofilter": Way(
                "in a biofilter of their own",
                "They do their work whatever the beds do, and can be aerated.",
                "One vessel more, and air for it.",
            ),
            "beds": Way(
                "in the media beds",
                "No filter is needed where there is media enough for the fish.",
                "Solids fill the media; beds that stand still do not clean.",
            ),
        },
    ),
    "start": Practice(
        "How the water is started",
        {
            "without_fish": Way(
                "without fish, by ammonia",
                "No fish suffer, and all may come at once.",
                "Weeks pass without fish; ammonia or urea must be bought and dosed.",
            ),
            "with_fish": Way(
                "with a few fish from the first day",
                "Fish stand in it at once, and feed it.",
                "They live in ammonia and nitrite for weeks; test daily, and exchange water.",
            ),
        },
    ),
    "solids": Practice(
        "Solids before the beds",
        {
            "out": Way(
                "as much as can be is taken out",
                "Beds stay clean, and their oxygen goes to roots and bacteria.",
                "Settlers and filters must be emptied and cleaned.",
            ),
            "some_in": Way(
                "some are let in for worms",
                "Worms break them down, and their nutrients stay.",
                "Beds fill where worms do not keep up; airless pockets may form.",
            ),
            "first_weeks": Way(
                "let in for the first weeks, then taken out",
                "A young bed ripens sooner.",
                "The change must not be forgotten.",
            ),
        },
    ),
    "draining": Practice(
        "How beds are flooded and drained",
        {
            "bell": Way(
                "bell siphon",
                "No switch; strong floods.",
                "It needs its inflow within a window.",
            ),
            "loop": Way(
                "loop siphon",
                "It starts with less water and is easily set.",
                "It stands outside, and needs room below.",
            ),
            "timer": Way(
                "timer and small holes",
                "Sure, and saves watts.",
                "A switch that may fail; the pump starts often.",
            ),
            "constant": Way(
                "constant flood",
                "Nothing to adjust; the sump hardly swings.",
                "Less air at the roots.",
            ),
        },
    ),
}
"""What schools do differently, chosen in the plan's brief."""

SETTLER_USUAL = 360.0
"""Usual hold of a settler [s]."""

SETTLER_HOLDS = (
    (SETTLER_RETENTION, "2 min: coarse waste alone"),
    (390.0, "6–7 min: common"),
    (840.0, "12–16 min: cautious"),
    (1500.0, "20–30 min: before rafts"),
)
"""What schools ask of a settler: the middle of each [s], and its words."""
