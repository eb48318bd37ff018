"""Water on its way down part-full drains."""

from collections.abc import Callable, Mapping

import numpy as np
from numpy.typing import NDArray

from bathys.network.layout import Layout
from bathys.network.runs import fouled_bore
from bathys.physics.part_full import normal_depths, section
from bathys.plan.pipes import Run

__all__ = ["WaterInDrains"]

Floats = NDArray[np.float64]

_DRAIN_SLOPE, _LEAST_SLOPE = 0.02, 0.001  # rough will do: it is little water


class WaterInDrains:
    """The drains of a plan, by the loop they belong to.

    Parameters
    ----------
    layout : Layout
        The plan compiled
    loop_of : callable
        From a run to the vessel that closes its loop
    """

    def __init__(self, layout: Layout, loop_of: Callable[[Run], str]) -> None:
        rows: dict[str, list[tuple[str, float, float, float]]] = {}
        for id_ in layout.gravity:
            run = layout.plan.part(id_)
            if run.level_length > 0.0:
                slope = max(run.slope or _DRAIN_SLOPE, _LEAST_SLOPE)
                row = (id_, fouled_bore(run), slope, run.level_length)
                rows.setdefault(loop_of(run), []).append(row)
        self._drains: dict[str, tuple[list[str], Floats]] = {
            loop: ([r[0] for r in found], np.array([r[1:] for r in found]).T)
            for loop, found in rows.items()
        }

    def volume(self, loop: str, flows: Mapping[str, float]) -> float:
        """Water in the drains of one loop at their flows, each at its normal depth [m³]."""
        if not flows or loop not in self._drains:
            return 0.0
        ids, (bore, slope, length) = self._drains[loop]
        carried = np.array([max(flows.get(id_, 0.0), 0.0) for id_ in ids])
        fill = normal_depths(carried, bore, slope)
        return float(np.sum(np.where(fill > 0.0, section(fill).area, 0.0) * bore**2 * length))
