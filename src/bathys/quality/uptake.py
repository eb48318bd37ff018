"""Nitrogen that plants take up."""

from bathys.plan import Plan

__all__ = ["HALF_UPTAKE", "plant_uptake"]

HALF_UPTAKE = 2.0  # nitrate at which plants take up half as fast (assumed) [g/m³]


def plant_uptake(plan: Plan) -> dict[str, float]:
    """What crops take up where there is plenty of it.

    Parameters
    ----------
    plan : Plan
        The plan

    Returns
    -------
    dict of str to float
        Nitrogen a day by vessel; vessels without a crop are left out, [g]
    """
    return {
        v.id: v.crop.grows.demand * v.crop.growth * v.crop.planted * v.shape.footprint
        for v in plan.vessels
        if v.crop is not None
    }
