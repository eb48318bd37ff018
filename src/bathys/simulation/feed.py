"""A siphon bed that is fed evenly, from wherever, and drains to wherever."""

import numpy as np
from numpy.typing import NDArray

from bathys.plan.vessel import Vessel
from bathys.simulation.siphon import SiphonModel
from bathys.vessels import Storage

__all__ = ["FedBed"]

Floats = NDArray[np.float64]


class FedBed:
    """A siphon bed with a steady inflow and a steady level where its tail ends.

    Holds where the pump's flow moves little as the bed fills; the vessels that give and take the
    water are the balance's affair.

    Parameters
    ----------
    bed : Vessel
        The bed the siphon stands in
    built : SiphonModel
        Its siphon
    storage : Storage
        Its water, and that of beds linked to it low down
    inflow : float
        What arrives, [m³/s]
    tailwater : float
        Level where the tail ends, [m]
    """

    inlet = -np.inf

    def __init__(
        self, bed: Vessel, built: SiphonModel, storage: Storage, inflow: float, tailwater: float
    ) -> None:
        self.bed, self.built, self.bed_storage = bed, built, storage
        self.outlet = bed.floor_height
        self._inflow, self._tailwater = inflow, tailwater

    def inflow(self, bed_level: Floats | float) -> Floats:
        """Flow into the bed [m³/s] at bed levels over its floor [m]."""
        return np.full_like(np.asarray(bed_level, dtype=np.float64), self._inflow)

    def tank_level(self, bed_level: Floats | float) -> Floats:
        """Level where the tail ends over the datum [m] at bed levels over the floor [m]."""
        return np.full_like(np.asarray(bed_level, dtype=np.float64), self._tailwater)
