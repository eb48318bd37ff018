"""Layouts that are sized from a brief, one module each: how its water goes round, and what stands
how high. Public: :data:`LAYOUTS`, :class:`Layout`."""

from bathys.design.layouts.bench_top import BENCH_TOP
from bathys.design.layouts.cascade import CASCADE
from bathys.design.layouts.constant_flood import CONSTANT_FLOOD
from bathys.design.layouts.decoupled_pair import DECOUPLED_PAIR
from bathys.design.layouts.layout import Layout
from bathys.design.layouts.linked_beds import LINKED_BEDS
from bathys.design.layouts.raft_line import RAFT_LINE
from bathys.design.layouts.side_tanks import SIDE_TANKS
from bathys.design.layouts.single_loop import SINGLE_LOOP
from bathys.design.layouts.split_flow import SPLIT_FLOW
from bathys.design.layouts.stacked_pair import STACKED_PAIR
from bathys.design.layouts.twin_sumps import TWIN_SUMPS
from bathys.design.layouts.two_pumps import TWO_PUMPS

__all__ = ["LAYOUTS", "Layout"]

LAYOUTS: dict[str, Layout] = {
    layout.key: layout
    for layout in (
        BENCH_TOP,
        STACKED_PAIR,
        CONSTANT_FLOOD,
        LINKED_BEDS,
        SINGLE_LOOP,
        TWO_PUMPS,
        SPLIT_FLOW,
        RAFT_LINE,
        CASCADE,
        TWIN_SUMPS,
        SIDE_TANKS,
        DECOUPLED_PAIR,
    )
}
"""By their keys, the simplest first."""
