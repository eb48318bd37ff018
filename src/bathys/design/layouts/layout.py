"""What every layout says of itself."""

from collections.abc import Callable
from dataclasses import dataclass

from bathys.design.brief import DesignBrief
from bathys.design.draft import Draft
from bathys.design.parts import Choice
from bathys.design.sumps import sumps_that_hold
from bathys.plan.shell import Shell

__all__ = ["Layout"]


@dataclass(frozen=True, slots=True)
class Layout:
    """A layout that can be sized.

    Attributes
    ----------
    key, name : str
        Its name in a brief, and for people
    water : str
        How the water goes round
    suits, costs : str
        For whom it is, and what speaks against it
    wants_beds, wants_rafts, has_settler : bool
        What it is made of
    sump_needs : callable or None
        From a brief to what goes up and down in each sump by its name, the one that is searched
        for first, [m³]; none where there is no sump
    wants_side_tanks : bool
        Whether it has room for small tanks beside the others
    needs_plants : bool
        Whether something has to grow in it
    is_apart : bool
        Whether fish and plants go round apart
    has_siphons : bool
        Whether its beds drain by siphons
    draw : callable
        From brief and choice to a draft; raises :class:`~bathys.design.DesignRefused` where a wish
        is in the way
    """

    key: str
    name: str
    water: str
    suits: str
    costs: str
    wants_beds: bool
    wants_rafts: bool
    sump_needs: Callable[[DesignBrief], dict[str, float]] | None
    has_settler: bool
    draw: Callable[[DesignBrief, Choice], Draft]
    wants_side_tanks: bool = False
    needs_plants: bool = True
    is_apart: bool = False
    has_siphons: bool = True

    @property
    def has_sump(self) -> bool:
        """Whether drains end in a sump."""
        return self.sump_needs is not None

    def sumps_for(self, brief: DesignBrief) -> tuple[Shell | None, ...]:
        """What the sump that is searched for could be made of.

        Parameters
        ----------
        brief : DesignBrief
            The brief

        Returns
        -------
        tuple of Shell or None
            In the order in which they are tried; one None where there is no sump
        """
        if self.sump_needs is None:
            return (None,)
        return sumps_that_hold(next(iter(self.sump_needs(brief).values())))
