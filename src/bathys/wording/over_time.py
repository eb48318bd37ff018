"""What happens to a plan between cleanings, in words."""

from bathys.plan.model import Plan
from bathys.quality.over_time import Happening

__all__ = ["happening_words"]

_WORDS = {
    "past": "Water goes past the filter of {name}.",
    "full": "The filter of {name} holds as much as it can.",
    "sludge": "The sludge of {name} stands at its mark.",
    "film": "All pipes are slimed as after a season.",
    "spills": "{name} runs over.",
    "little_flow": "{name} gets less than three quarters of its flow.",
}


def happening_words(plan: Plan, happening: Happening) -> str:
    """One sentence on what happens.

    Parameters
    ----------
    plan : Plan
        The plan
    happening : Happening
        What happens

    Returns
    -------
    str
        The sentence
    """
    name = plan.names.get(happening.place, "")
    return _WORDS[happening.kind].format(name=name)
