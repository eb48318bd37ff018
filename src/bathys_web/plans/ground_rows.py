"""Pieces of the ground plan's page that a drag leaves as they are, kept once they are rendered."""

from dataclasses import dataclass
from functools import lru_cache

from django.template.loader import render_to_string

__all__ = ["ChoiceGroup", "RunRow", "choices", "run_row"]

ChoiceGroup = tuple[str, tuple[tuple[str, str], ...]]
"""A heading, and values with their words."""


@dataclass(frozen=True, slots=True)
class RunRow:
    """A run in the table of runs.

    Attributes
    ----------
    here, run : str
        Address of the page, and id of the run
    label, name : str
        Its number in the picture, and what it is called
    ground, planned : str
        Its length on the ground and in the plan
    bends : int
        Turns that need a fitting, [-]
    follows, differs : bool
        Whether its length follows the ground, and whether the two lengths differ
    """

    here: str
    run: str
    label: str
    name: str
    ground: str
    planned: str
    bends: int
    follows: bool
    differs: bool


@lru_cache(maxsize=4096)
def run_row(row: RunRow) -> str:
    """A row of the table of runs.

    Parameters
    ----------
    row : RunRow
        The run

    Returns
    -------
    str
        Safe markup
    """
    return render_to_string("plans/_ground_run.html", {"row": row})


@lru_cache(maxsize=512)
def choices(groups: tuple[ChoiceGroup, ...], picked: str) -> str:
    """What can be picked, as options of a list.

    Parameters
    ----------
    groups : tuple of (str, tuple of (str, str))
        Headings with values and words
    picked : str
        The value that is picked

    Returns
    -------
    str
        Safe markup
    """
    return render_to_string("plans/_ground_choices.html", {"groups": groups, "picked": picked})
