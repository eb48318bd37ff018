"""Which layout suits a brief: each is sized for it, as far as it can be."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from bathys.design.brief import DesignBrief
from bathys.design.layouts import LAYOUTS, Layout
from bathys.design.refusing import DesignRefused
from bathys.design.search import Answer, changed, design_for
from bathys.parts.pumps import CatalogPump

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
    pumps: Sequence[CatalogPump] = (),
    is_wanted: Callable[[], bool] | None = None,
) -> tuple[LayoutTried, ...]:
    """Size a brief in every layout that has room for what is to grow.

    Parameters
    ----------
    brief : DesignBrief
        The brief; its layout does not count
    pumps : sequence of CatalogPump
        The builder's own, beside the samples
    is_wanted : callable, optional
        Asked from time to time whether to go on

    Returns
    -------
    tuple of LayoutTried
        Those that do by what they draw, then those that do not

    Raises
    ------
    Abandoned
        If it is not wanted any longer
    """
    tried = []
    for layout in LAYOUTS.values():
        beds = brief.beds.count if layout.wants_beds else 0
        rafts = brief.rafts.count if layout.wants_rafts else 0
        if not beds and not rafts:
            has = "grow beds" if layout.wants_beds else "rafts"
            nothing = DesignRefused("layout", f"It is for {has} only, and you chose none.")
            tried.append(LayoutTried(layout, brief, None, nothing))
            continue
        own = changed(
            brief,
            {"layout": layout.key, "beds": {"count": beds}, "rafts": {"count": rafts}},
        )
        try:
            answer = design_for(own, brief.matters, pumps, is_wanted)
        except DesignRefused as refused:
            tried.append(LayoutTried(layout, own, None, refused))
        else:
            tried.append(LayoutTried(layout, own, answer, None))
    return tuple(sorted(tried, key=_order))


def _order(tried: LayoutTried) -> tuple[bool, float]:
    return tried.answer is None, tried.answer.watts if tried.answer is not None else 0.0
