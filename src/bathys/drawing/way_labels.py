"""Where labels of runs stand on the ground plan."""

import math
from collections.abc import Mapping
from itertools import pairwise

import numpy as np
from shapely import contains_xy, prepare

from bathys.ground import Placed

__all__ = ["WayLabels"]

XY = tuple[float, float]
_LABEL = 0.3  # from label to label [m]
_SHARES = np.array([0.5, 0.3, 0.7, 0.15, 0.85])  # of a stretch, where its label may stand


class WayLabels:
    """Where labels of runs stand: on a long stretch, off vessels and other labels if it can be.

    Parameters
    ----------
    places : mapping of str to Placed
        Where the vessels stand
    """

    def __init__(self, places: Mapping[str, Placed]) -> None:
        self.outlines = np.array([p.outline for p in places.values()])
        prepare(self.outlines)
        self.taken = [(p.x, p.y) for p in places.values()]

    def place(self, points: tuple[XY, ...]) -> XY:
        """The least crowded place of some along a way, the first of such as are alike.

        Parameters
        ----------
        points : tuple of (float, float)
            The way, [m]

        Returns
        -------
        (float, float)
            The place, which is taken from now on, [m]
        """
        stretches = sorted(pairwise(points), key=lambda p: -math.dist(*p))
        if not stretches:
            return points[0]
        ends = np.array(stretches)
        tried = ends[:, :1] + _SHARES[None, :, None] * (ends[:, 1:] - ends[:, :1])
        tried = tried.reshape(-1, 2)
        inside = contains_xy(self.outlines[:, None], tried[None, :, 0], tried[None, :, 1])
        off = np.hypot(*(tried[None, :, :] - np.array(self.taken)[:, None, :]).transpose(2, 0, 1))
        crowd = inside.sum(axis=0) + (off < _LABEL).sum(axis=0)
        x, y = tried[int(np.argmin(crowd))].tolist()
        self.taken.append((x, y))
        return x, y
