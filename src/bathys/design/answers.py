"""A plan that answers a brief, what it can be made from, and how far the search has come."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field

from bathys.design.brief import Aim, DesignBrief
from bathys.design.layouts import LAYOUTS
from bathys.design.limits import cost_of, watts_of
from bathys.design.parts import Choice
from bathys.design.sumps import spare_of
from bathys.network import curve_of_pump
from bathys.parts.pumps import CatalogPump
from bathys.pipeline import Assessment
from bathys.plan.pumps import Pump
from bathys.rules import Finding
from bathys.shelf import PriceList
from bathys.sizing import search_pumps

__all__ = ["Answer", "AtHand", "Progress"]


@dataclass(frozen=True, slots=True)
class AtHand:
    """What the builder brings along.

    Attributes
    ----------
    pumps : sequence of CatalogPump
        Pumps beside the samples
    prices : PriceList
        Prices, and what need not be bought
    """

    pumps: Sequence[CatalogPump] = ()
    prices: PriceList = field(default_factory=PriceList.empty)


@dataclass(frozen=True, slots=True)
class Progress:
    """How far a search has come, told to whoever waits.

    Attributes
    ----------
    tell : callable
        Told the share that is done; says whether to go on
    begins, ends : float
        Share of the whole at which this part of it begins and ends, [-]
    """

    tell: Callable[[float], bool] = lambda _share: True
    begins: float = 0.0
    ends: float = 1.0

    def __call__(self) -> bool:
        """Whether to go on."""
        return self.tell(self.begins)

    def part(self, number: int, count: int) -> "Progress":
        """One of so many parts of it.

        Parameters
        ----------
        number, count : int
            Which one, from 0, and how many

        Returns
        -------
        Progress
            Of that part
        """
        each = (self.ends - self.begins) / count
        begins = self.begins + number * each
        return Progress(self.tell, begins, begins + each)


@dataclass(frozen=True, slots=True)
class Answer:
    """A plan that does.

    Attributes
    ----------
    aims : tuple of Aim
        What it is the best for
    choice : Choice
        What was chosen
    assessment : Assessment
        Its numbers and findings
    later : tuple of Finding
        What only time shows, without failures of parts
    """

    aims: tuple[Aim, ...]
    choice: Choice
    assessment: Assessment
    later: tuple[Finding, ...]

    @property
    def watts(self) -> float:
        """Of all its pumps and air pumps, in the mean of a day [W]."""
        return watts_of(self.assessment.evaluation)

    def cost(self, brief: DesignBrief, prices: PriceList) -> tuple[float, int] | None:
        """What is bought for it.

        Parameters
        ----------
        brief : DesignBrief
            The brief
        prices : PriceList
            The builder's prices

        Returns
        -------
        (float, int) or None
            The sum, [money], and how many things have no price, [-]; None if nothing has one
        """
        return cost_of(self.assessment.evaluation, brief, prices)

    def spare(self, brief: DesignBrief) -> float:
        """The least of what is to spare: in each pump's head, in each siphon's window, and in the
        sump [-].

        Parameters
        ----------
        brief : DesignBrief
            The brief

        Returns
        -------
        float
            Share of what is asked for, [-]
        """
        found, rooms = self.assessment.evaluation, list[float]()
        for bed in found.beds:
            flow = found.vessels[bed.siphon.stands_in].inflow
            window = bed.cycle.window
            rooms += [flow / window.start.value - 1.0, 1.0 - flow / window.stop.value]
        for pump in (p for p in found.plan.pumps if isinstance(p, Pump)):
            asked = search_pumps(found.balance, pump, (), 0.0).demand
            made, _ = curve_of_pump(pump).head(asked.flow)
            rooms.append(made / asked.head - 1.0)
        needs = LAYOUTS[brief.layout].sump_needs
        if self.choice.sump is not None and needs is not None:
            rooms.append(spare_of(next(iter(needs(brief).values())), self.choice.sump))
        return min(rooms, default=0.0)

    @property
    def faults(self) -> tuple[Finding, ...]:
        """What still stands as a problem."""
        found = (*self.assessment.findings, *self.later)
        return tuple(f for f in found if f.severity == "fault")
