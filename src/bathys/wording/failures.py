"""What fails, what that leads to, and what a sump must hold, in words."""

from bathys.evaluation.resilience import Promise
from bathys.plan import Plan
from bathys.rules import BROKEN, FAILURES
from bathys.scenarios.failures import FailureOutcome
from bathys.scenarios.power_cut import PowerCutTrial
from bathys.units import System, show

__all__ = [
    "CLAIMS",
    "broken_words",
    "consequence_words",
    "failure_words",
    "moment_words",
    "promise_words",
]

CLAIMS = {
    "cover": "water kept over the pump’s inlet",
    "start_up": "what the first start draws",
    "evaporation": "evaporation while you are away",
    "swing": "the beds’ swing",
    "schedule": "scheduled water in and out",
    "drain_back": "what a power cut adds over usual high water",
    "rain": "the greatest rainfall",
}
"""What a claim on a sump is, in words."""


def failure_words(plan: Plan, what_if: FailureOutcome) -> str:
    """What failed, as a sentence without its full stop.

    Parameters
    ----------
    plan : Plan
        The plan
    what_if : FailureOutcome
        What failed, and what came of it

    Returns
    -------
    str
        The sentence
    """
    name = plan.part(what_if.failure.place).name
    words = FAILURES[what_if.failure.kind].format(name=name)
    return words[:1].upper() + words[1:]


def consequence_words(plan: Plan, what_if: FailureOutcome, units: System) -> str:
    """What a failure leads to, in the order of what it does.

    Parameters
    ----------
    plan : Plan
        The plan
    what_if : FailureOutcome
        What failed, and what came of it
    units : System
        The reader's units

    Returns
    -------
    str
        The sentences
    """
    said: list[tuple[float, str]] = []
    if what_if.spills_in and what_if.spills_after is not None:
        lost = show(what_if.spilled, "volume", units)
        name = plan.vessel(what_if.spills_in).name
        after = show(what_if.spills_after, "time", units)
        said.append((what_if.spills_after, f"{name} overflows after {after}, {lost} in all"))
    if what_if.half_in and what_if.half_after is not None:
        name = plan.vessel(what_if.half_in).name
        after = show(what_if.half_after, "time", units)
        said.append(
            (
                what_if.half_after,
                f"half of {name} is gone after {after}, "
                f"{show(what_if.tank_left, 'percent', units)} stays in the end",
            )
        )
    if what_if.air_in and what_if.air_after is not None:
        name = plan.part(what_if.air_in).name
        after = show(what_if.air_after, "time", units)
        said.append((what_if.air_after, f"{name} runs dry after {after}"))
    if what_if.failure.kind == "burst":
        lost = show(what_if.spilled, "volume", units)
        said.append((0.0, f"{lost} are pumped out"))
    elif what_if.failure.kind == "slips_out" and not what_if.spills_in:
        lost = show(what_if.spilled, "volume", units)
        said.append((0.0, f"{lost} run out beside it in half a day"))
    said += [(1e9, f"{plan.vessel(tank).name} gets no fresh water") for tank in what_if.starved]
    words = "; ".join(w for _, w in sorted(said))
    return words[:1].upper() + words[1:]


def broken_words(plan: Plan, broken: tuple[tuple[str, str], ...]) -> str:
    """Why no failure is tried, in two sentences; nothing where the plan runs as it should.

    Parameters
    ----------
    plan : Plan
        The plan
    broken : tuple of (str, str)
        What already goes wrong

    Returns
    -------
    str
        The sentences, or nothing
    """
    if not broken:
        return ""
    said = ", ".join(BROKEN[kind].replace("{name}", plan.part(id_).name) for kind, id_ in broken)
    return (
        f"Before anything fails it does not run as it should: {said}. Fix that first; then "
        "failures can be tested."
    )


def promise_words(plan: Plan, promise: Promise, units: System) -> str:
    """What a fish tank keeps, in a sentence.

    Parameters
    ----------
    plan : Plan
        The plan
    promise : Promise
        What the tank keeps
    units : System
        The reader's units

    Returns
    -------
    str
        The sentence
    """
    name = plan.vessel(promise.vessel).name
    return (
        f"Unless its wall breaks, {name} keeps "
        f"{show(promise.volume, 'volume', units)}: no failure empties it below "
        f"{show(promise.height, 'length', units)} over its floor."
        + (
            f" The worst failure tested left {show(promise.seen, 'percent', units)} of its water."
            if promise.seen < 1.0
            else ""
        )
    )


def moment_words(plan: Plan, trial: PowerCutTrial) -> str:
    """When the power failed.

    Parameters
    ----------
    plan : Plan
        The plan
    trial : PowerCutTrial
        The power cut

    Returns
    -------
    str
        The words
    """
    if not trial.siphon:
        return "at usual levels"
    word = "after" if trial.moment == "after_start" else "before"
    return f"just {word} {plan.part(trial.siphon).name} starts"
