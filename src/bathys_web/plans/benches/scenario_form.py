"""What is asked of a simulation over hours: how long, and what is done to the plan."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any
from urllib.parse import urlencode

from django.http import QueryDict

from bathys.plan import Plan
from bathys.scenarios import ScenarioStep
from bathys.scenarios.failures import FailureOutcome, failures_of
from bathys.simulation.simulator import LONGEST
from bathys.units import System, show
from bathys.wording.failures import failure_words
from bathys.wording.scenarios import (
    BadScenarioStep,
    seconds,
    step_of,
)

__all__ = ["ScenarioForm", "read_form", "step_choices", "steps_of"]

_MOST_STEPS = 12
_WISHES = {
    "blocked": "block",
    "shut": "block",
    "dead": "dead",
    "never_starts": "idle",
    "never_breaks": "stuck",
}


@dataclass(frozen=True)
class ScenarioForm:
    """What was asked for, as typed."""

    hours: str = "6 h"
    cut: str = ""
    lasts: str = "2 h"
    event: str = ""
    dry: bool = False
    steps: tuple[str, ...] = ()

    @classmethod
    def of(cls, asked: QueryDict) -> "ScenarioForm":
        """From the form; as at first where nothing was asked."""
        steps = tuple(d[:40] for d in asked.getlist("step")[:_MOST_STEPS])
        if "hours" not in asked:
            return cls(steps=steps)
        return cls(
            asked.get("hours", "")[:20],
            asked.get("cut", "")[:20],
            asked.get("lasts", "")[:20],
            asked.get("event", "")[:60],
            "dry" in asked,
            steps,
        )

    @classmethod
    def of_words(cls, words: Mapping[str, Any]) -> "ScenarioForm":
        """From plain data, as it lies on the queue."""
        return cls(**{**words, "steps": tuple(words["steps"])})

    @property
    def query(self) -> str:
        """The form's fields as they stand in an address."""
        fields = {f: getattr(self, f) for f in ("hours", "cut", "lasts", "event")}
        return urlencode(
            {**fields, **({"dry": "yes"} if self.dry else {}), "step": self.steps}, doseq=True
        )


def _time(text: str) -> float:
    text = text.strip().replace(" ", "")
    return seconds(f"{text}h" if text.replace(".", "", 1).isdecimal() else text)


def read_form(form: ScenarioForm) -> tuple[float, dict[str, str]]:
    """Length of the run, and what is wrong with what was typed.

    Parameters
    ----------
    form : ScenarioForm
        As it was typed

    Returns
    -------
    (float, dict of str)
        The length, [s], and a sentence by field
    """
    errors, length = {}, 0.0
    for field in ("hours", "cut", "lasts"):
        text = getattr(form, field).strip()
        if field != "hours" and not text:
            continue
        try:
            value = _time(text)
        except BadScenarioStep:
            errors[field] = f"“{text}” is no time; write 24 h, 90 min, 3:10 or 2 d."
            continue
        if field == "hours":
            length = value
            if not 60.0 <= value <= LONGEST:
                errors[field] = "A plan is followed for a minute to 744 hours, a month, in one go."
    return length, errors


def step_choices(plan: Plan, units: System) -> list[tuple[str, str]]:
    """What may be done to a plan: its failures, and rain.

    Parameters
    ----------
    plan : Plan
        The plan
    units : System
        The reader's units

    Returns
    -------
    list of (str, str)
        Value and words of each
    """
    rows = []
    for failure in failures_of(plan):
        if failure.kind in _WISHES:
            word = f"{_WISHES[failure.kind]}:{failure.place}"
            rows.append((word, failure_words(plan, FailureOutcome(failure))))
    rains = [
        (f"rain:{mm}mm", f"{show(mm / 1000.0, 'length', units)} of rain fall") for mm in (50, 100)
    ]
    return [*dict(rows).items(), *rains]


def steps_of(plan: Plan, form: ScenarioForm) -> list[ScenarioStep]:
    """What is to be done: the power cut, the event, and what was done while it played.

    Parameters
    ----------
    plan : Plan
        The plan
    form : ScenarioForm
        As it was typed

    Returns
    -------
    list of ScenarioStep
        In the order typed
    """
    texts = [form.event] if form.event else []
    if form.cut.strip():
        texts.append(f"plug:{form.lasts.replace(' ', '') or '2h'}@{form.cut.replace(' ', '')}")
    return [step_of(plan, text) for text in (*texts, *form.steps)]
