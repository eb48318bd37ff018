"""A siphon bed that is fed evenly, from wherever, and drains to wherever."""

import numpy as np
from numpy.typing import NDArray

from bathys.plan.vessel import Vessel
from bathys.simulation.siphon import SiphonModel
from bathys.vessels import Storage

__all__ = ["NO_LEAKS", "EvenlyFedBed"]

Floats = NDArray[np.float64]

NO_LEAKS = (np.array([0.0, 1.0]), np.array([0.0, 0.0]))
"""No way out but the siphon: levels [m] and flows [m³/s]."""


class EvenlyFedBed:
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
    leaks : (array, array)
        Levels over the floor, rising, [m], and what leaves by other ways than the siphon at each,
        less what float valves let in, [m³/s]
    """

    inlet = -np.inf

    def __init__(
        self,
        bed: Vessel,
        built: SiphonModel,
        storage: Storage,
        inflow: float,
        tailwater: float,
        leaks: tuple[Floats, Floats] = NO_LEAKS,
    ) -> None:
        self.bed, self.built, self.bed_storage = bed, built, storage
        self.outlet = bed.floor_height
        self.gross_inflow, self._tailwater, self._leaks = inflow, tailwater, leaks
        self.has_leaks = leaks is not NO_LEAKS

    def leak(self, bed_level: Floats | float) -> Floats:
        """What leaves by other ways than the siphon [m³/s] at levels over the floor [m]."""
        if not self.has_leaks:
            return np.zeros(np.shape(bed_level))
        return np.asarray(np.interp(np.asarray(bed_level, dtype=np.float64), *self._leaks))

    def inflow(self, bed_level: Floats | float) -> Floats:
        """Flow into the bed less what leaves by other ways [m³/s] at levels over its floor [m]."""
        return self.gross_inflow - self.leak(bed_level)

    def tank_level(self, bed_level: Floats | float) -> Floats:
        """Level where the tail ends over the datum [m] at bed levels over the floor [m]."""
        return np.full_like(np.asarray(bed_level, dtype=np.float64), self._tailwater)
