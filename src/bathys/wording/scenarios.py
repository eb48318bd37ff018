"""What is done to a plan on its way through time, as it is typed and as it is told."""

import re

from bathys.plan import Plan
from bathys.scenarios import STEPS, ScenarioStep
from bathys.simulation import DRY_AIR, Event, Weather
from bathys.simulation.simulator import LONGEST
from bathys.units import System, UnreadableQuantity, read, show

__all__ = [
    "MOST_RAIN",
    "BadScenarioStep",
    "clock",
    "event_words",
    "seconds",
    "step_of",
    "step_words",
    "weather_of",
]

_WORDS = {
    "rain": "it begins to rain",
    "rain_ends": "the rain is over",
    "pump_on": "{name} starts to pump",
    "pump_off": "{name} stops",
    "starts": "{name} starts to siphon",
    "breaks": "{name} stops",
    "hangs": "{name} gurgles at its intake and does not stop",
    "spills": "{name} overflows",
    "spills_no_more": "{name} no longer overflows",
    "air": "{name} runs dry",
    "water": "{name} has water again",
    "transfer": "{name} begins",
    "transfer_ends": "{name} is done",
    "valve_opens": "the valve of {name} opens",
    "valve_shuts": "the valve of {name} shuts",
    "power_off": "power cut begins",
    "power_on": "power is back",
}
MOST_RAIN = 1.0
"""The deepest storm of an hour that is followed [m]; the greatest ever measured brought 0.4 m."""
_TIME = re.compile(r"^(?:(\d{1,3}):(\d{2})|(\d+(?:\.\d+)?)\s*(d|h|min|s))$")
_SECONDS = {"d": 86400.0, "h": 3600.0, "min": 60.0, "s": 1.0}


class BadScenarioStep(ValueError):
    """Something asked for that cannot be; its message is a sentence."""


def seconds(text: str) -> float:
    """A time as typed [s].

    Parameters
    ----------
    text : str
        What was typed

    Returns
    -------
    float
        The time, [s]

    Raises
    ------
    BadScenarioStep
        If it cannot be read
    """
    found = _TIME.match(text.strip())
    if found is None:
        raise BadScenarioStep(f"“{text}” is no time; write 3:10, 2h, 90min, 30s or 2d.")
    hours, minutes, amount, unit = found.groups()
    if hours is not None:
        return 3600.0 * int(hours) + 60.0 * int(minutes)
    return float(amount) * _SECONDS[unit]


def _within_a_month(text: str) -> float:
    time = seconds(text)
    if time > LONGEST:
        raise BadScenarioStep(
            f"“{text}” is longer than any run; a plan is followed for a month at most."
        )
    return time


def step_of(plan: Plan, text: str) -> ScenarioStep:
    """What is to be done to a plan on its way, from what was typed.

    Parameters
    ----------
    plan : Plan
        The plan
    text : str
        ``plug:2h`` takes the power away, ``block:R4`` shuts a run, ``turn:R4:30`` turns its valve
        that far, ``dead:P1`` stops a pump, ``idle:X1`` is a siphon that never starts and
        ``stuck:X1`` one that never breaks, ``rain:50mm`` a storm of an hour; ``@1:30`` after any
        of them says when, else it is at once, and the storm after an hour

    Returns
    -------
    ScenarioStep
        To be followed

    Raises
    ------
    BadScenarioStep
        If it cannot be read or there is no such part
    """
    what, _, when = text.strip().partition("@")
    kind, _, rest = what.partition(":")
    time = _within_a_month(when) if when else (3600.0 if kind == "rain" else 0.0)
    if kind == "plug":
        return ScenarioStep(time, "plug", amount=_within_a_month(rest or "2h"))
    if kind == "rain":
        try:
            depth = read(rest, "length")
        except UnreadableQuantity as error:
            raise BadScenarioStep(str(error)) from None
        if not 0.0 <= depth <= MOST_RAIN:
            raise BadScenarioStep("Enter up to a metre of rain, such as 50 mm or 2 in.")
        return ScenarioStep(time, "rain", amount=depth)
    known = next((k for k in STEPS if k == kind and STEPS[k]), None)
    place, _, amount = rest.partition(":")
    if known is None or plan.group_of(place) != STEPS[known]:
        there = ", ".join(p.id for p in getattr(plan, STEPS[known])) if known else ""
        raise BadScenarioStep(
            f"“{text}” is not understood. Write plug: and a time, rain: and a depth, block: or "
            "turn: and a run. Or dead: and a pump, idle: or stuck: and a siphon."
            f"{f' There is {there}.' if there else ''}"
        )
    if known != "turn":
        return ScenarioStep(time, known, place)
    try:
        return ScenarioStep(time, known, place, read(amount, "angle"))
    except UnreadableQuantity as error:
        raise BadScenarioStep(str(error)) from None


_STEP_WORDS = {
    "plug": "power cut for {time}",
    "block": "{name} is shut",
    "dead": "{name} stops for good",
    "turn": "the valve of {name} is turned to {angle}",
    "idle": "{name} no longer starts",
    "stuck": "{name} no longer stops",
    "rain": "it begins to rain, {depth} in an hour",
}


def step_words(plan: Plan, step: ScenarioStep, units: System) -> str:
    """When and what, as a sentence without its full stop.

    Parameters
    ----------
    plan : Plan
        The plan
    step : ScenarioStep
        The step
    units : System
        The reader's units

    Returns
    -------
    str
        The sentence
    """
    part = plan.part(step.place)
    words = _STEP_WORDS[step.kind].format(
        name=part.name if part is not None else "",
        time=show(step.amount, "time", units),
        angle=show(step.amount, "angle", units),
        depth=show(step.amount, "length", units),
    )
    return f"{clock(step.time).strip()} {words}"


def weather_of(plan: Plan, dry: bool) -> Weather:
    """The site's evaporation, if it is to count.

    Parameters
    ----------
    plan : Plan
        The plan
    dry : bool
        Whether nothing evaporates

    Returns
    -------
    Weather
        The weather
    """
    return Weather(plan.site.dries / 86400.0) if dry else DRY_AIR


def clock(time: float) -> str:
    """A time since the beginning, in hours, minutes and seconds.

    Parameters
    ----------
    time : float
        A time since the beginning, [s]

    Returns
    -------
    str
        Such as ``1:02:30``
    """
    whole = round(time)
    return f"{whole // 3600:3d}:{whole // 60 % 60:02d}:{whole % 60:02d}"


def event_words(plan: Plan, event: Event) -> str:
    """An event as a sentence without its full stop.

    Parameters
    ----------
    plan : Plan
        The plan
    event : Event
        The event

    Returns
    -------
    str
        The sentence
    """
    part = plan.part(event.place)
    words = _WORDS[event.kind].format(name=part.name if part is not None else "")
    return words[:1].upper() + words[1:]
