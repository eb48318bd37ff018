"""Which layout suits a brief: each is sized for it, as far as it can be."""

from collections.abc import Callable
from dataclasses import dataclass

from bathys.design.answers import Answer, AtHand, Progress
from bathys.design.brief import DesignBrief
from bathys.design.layouts import LAYOUTS, Layout
from bathys.design.refusing import DesignRefused
from bathys.design.search import changed
from bathys.design.trying import design_for

__all__ = ["LayoutTried", "compare_layouts"]


@dataclass(frozen=True, slots=True)
class LayoutTried:
    """A layout held against a brief.

    Attributes
    ----------
    layout : Layout
        The layout
    brief : DesignBrief
        The brief with what this layout cannot have left out
    answer : Answer or None
        The plan for what matters most; none where a wish is in the way
    refused : DesignRefused or None
        That wish
    """

    layout: Layout
    brief: DesignBrief
    answer: Answer | None
    refused: DesignRefused | None


def compare_layouts(
    brief: DesignBrief,
    at_hand: AtHand = AtHand(),  # noqa: B008 - it never changes
    tell: Callable[[float], bool] = lambda _share: True,
    show: Callable[[tuple[LayoutTried, ...]], None] = lambda _so_far: None,
) -> tuple[LayoutTried, ...]:
    """Size a brief in every layout that has room for what is to grow.

    Parameters
    ----------
    brief : DesignBrief
        The brief; its layout does not count
    at_hand : AtHand
        What the builder brings along
    tell : callable
        Told from time to time the share that is done; says whether to go on
    show : callable
        Shown what is found so far

    Returns
    -------
    tuple of LayoutTried
        Those that do by what they draw, then those that do not

    Raises
    ------
    Abandoned
        If it is not wanted any longer
    """
    tried, progress = [], Progress(tell)
    for number, layout in enumerate(LAYOUTS.values()):
        beds = brief.beds.count if layout.wants_beds else 0
        rafts = brief.rafts.count if layout.wants_rafts else 0
        sides = brief.side_tanks.count if layout.wants_side_tanks else 0
        if not beds and not rafts and layout.needs_plants:
            has = "grow beds" if layout.wants_beds else "rafts"
            nothing = DesignRefused("layout", f"It is for {has} only, and you chose none.")
            tried.append(LayoutTried(layout, brief, None, nothing))
            continue
        own = changed(
            brief,
            {
                "layout": layout.key,
                "beds": {"count": beds},
                "rafts": {"count": rafts},
                "side_tanks": {"count": sides},
            },
        )
        try:
            answer = design_for(own, brief.matters, at_hand, progress.part(number, len(LAYOUTS)))
        except DesignRefused as refused:
            tried.append(LayoutTried(layout, own, None, refused))
        else:
            tried.append(LayoutTried(layout, own, answer, None))
        show(tuple(sorted(tried, key=_order)))
    return tuple(sorted(tried, key=_order))


def _order(tried: LayoutTried) -> tuple[bool, float]:
    return tried.answer is None, tried.answer.watts if tried.answer is not None else 0.0
