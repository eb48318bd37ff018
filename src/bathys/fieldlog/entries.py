"""What a kind of entry is, and the parts at which entries can be made."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass

from bathys.evaluation import Evaluation
from bathys.ground import is_tended

__all__ = [
    "EntryField",
    "EntryKind",
    "anywhere",
    "fish",
    "grown",
    "outdoors",
    "outlets",
    "pumps",
    "settlers",
    "siphon_beds",
    "tanks",
    "vessels",
    "whole",
]

_STILL = 1e-7  # [m³/s]


@dataclass(frozen=True, slots=True)
class EntryField:
    """Something that is asked of an entry.

    Attributes
    ----------
    name, label : str
        Its name in the data, and for people
    quantity : str
        What it measures; empty for words
    least, most : float
        Its bounds, in SI
    is_needed : bool
        Whether the entry says nothing without it
    usual : str
        What stands in its box at first
    is_many : bool
        Whether several values may be typed, apart by spaces
    """

    name: str
    label: str
    quantity: str
    least: float = 0.0
    most: float = 0.0
    is_needed: bool = True
    usual: str = ""
    is_many: bool = False


@dataclass(frozen=True, slots=True)
class EntryKind:
    """A kind of entry.

    Attributes
    ----------
    key, title : str
        Its name in the data, and for people
    how : tuple of str
        How it is done, step by step
    fields : tuple of EntryField
        What is asked
    parts : callable
        From the numbers of a plan to the ids of the parts it can be made at
    measures : str
        Quantity of the figure that it comes to; empty if it comes to none
    group : str
        Heading under which it is offered
    taps : tuple of (str, str)
        What is timed by presses of one button: after the first, words for the next press, and the
        field that it fills with the time since the first
    does : str
        Key of the job that is done by it too, up to a hyphen and the part's id where it is done at
        one; empty for none
    """

    key: str
    title: str
    how: tuple[str, ...]
    fields: tuple[EntryField, ...]
    parts: Callable[[Evaluation], Iterator[str]]
    measures: str = ""
    group: str = "Water and siphons"
    taps: tuple[tuple[str, str], ...] = ()
    does: str = ""

    def job_at(self, part: str) -> str:
        """Key of the job that is done by an entry at a part; empty for none.

        Parameters
        ----------
        part : str
            Id of the part

        Returns
        -------
        str
            As :mod:`bathys.routine` names it
        """
        return f"{self.does}{part}" if self.does.endswith("-") else self.does


def outlets(found: Evaluation) -> Iterator[str]:
    """Outlets of pumped water that runs.

    Parameters
    ----------
    found : Evaluation
        The numbers of the plan

    Yields
    ------
    str
        Their ids
    """
    for duty in found.duties.values():
        yield from (d.run for d in duty.deliveries if d.flow > _STILL)


def siphon_beds(found: Evaluation) -> Iterator[str]:
    """Beds that a siphon drains.

    Parameters
    ----------
    found : Evaluation
        The numbers of the plan

    Yields
    ------
    str
        Their ids
    """
    yield from (bed.bed.id for bed in found.beds if not bed.fed_by)


def pumps(found: Evaluation) -> Iterator[str]:
    """Pumps.

    Parameters
    ----------
    found : Evaluation
        The numbers of the plan

    Yields
    ------
    str
        Their ids
    """
    yield from (pump.id for pump in found.plan.pumps)


def vessels(found: Evaluation) -> Iterator[str]:
    """Vessels that keep fish or that a pump stands in.

    Parameters
    ----------
    found : Evaluation
        The numbers of the plan

    Yields
    ------
    str
        Their ids
    """
    for vessel in found.plan.vessels:
        pumped = any(p.stands_in == vessel.id for p in found.plan.pumps)
        if vessel.use.keeps_fish or pumped:
            yield vessel.id


def tanks(found: Evaluation) -> Iterator[str]:
    """Vessels that keep fish.

    Parameters
    ----------
    found : Evaluation
        The numbers of the plan

    Yields
    ------
    str
        Their ids
    """
    yield from (v.id for v in found.plan.vessels if v.use.keeps_fish)


def settlers(found: Evaluation) -> Iterator[str]:
    """Settlers.

    Parameters
    ----------
    found : Evaluation
        The numbers of the plan

    Yields
    ------
    str
        Their ids
    """
    yield from (v.id for v in found.plan.vessels if v.job == "settler")


def grown(found: Evaluation) -> Iterator[str]:
    """Vessels in which something is grown.

    Parameters
    ----------
    found : Evaluation
        The numbers of the plan

    Yields
    ------
    str
        Their ids
    """
    yield from (v.id for v in found.plan.vessels if is_tended(v))


def fish(found: Evaluation) -> Iterator[str]:
    """Fish, by cohort.

    Parameters
    ----------
    found : Evaluation
        The numbers of the plan

    Yields
    ------
    str
        Their ids
    """
    yield from (cohort.id for cohort in found.plan.fish)


def anywhere(found: Evaluation) -> Iterator[str]:
    """The whole layout, each vessel, and fish by cohort.

    Parameters
    ----------
    found : Evaluation
        The numbers of the plan

    Yields
    ------
    str
        Their ids, that of the whole layout empty
    """
    yield from whole(found)
    yield from (v.id for v in found.plan.vessels)
    yield from fish(found)


def outdoors(found: Evaluation) -> Iterator[str]:
    """The whole layout, where rain falls on it.

    Parameters
    ----------
    found : Evaluation
        The numbers of the plan

    Yields
    ------
    str
        An empty id; none under a roof
    """
    if found.plan.site.is_rained_on:
        yield ""


def whole(found: Evaluation) -> Iterator[str]:
    """The whole layout.

    Parameters
    ----------
    found : Evaluation
        The numbers of the plan

    Yields
    ------
    str
        Their ids
    """
    yield ""
