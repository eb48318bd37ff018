"""Feed against the area that it feeds, by every school."""

from dataclasses import dataclass

from bathys.evaluation import Evaluation
from bathys.parts.crops import FEED_SCHOOLS
from bathys.quality.water_result import WaterResult

__all__ = ["FeedOnArea", "SchoolArea", "feed_on_area", "school_areas"]


@dataclass(frozen=True, slots=True)
class FeedOnArea:
    """Feed on the area of all plants.

    Attributes
    ----------
    area : float
        Planted, [m²]
    feed : float
        A day on each square metre, [g]
    largest : str
        The vessel with the largest of them
    """

    area: float
    feed: float
    largest: str


@dataclass(frozen=True, slots=True)
class SchoolArea:
    """What one school asks for.

    Attributes
    ----------
    school : str
        Its source
    least, most : float
        Area that the feed would do for, [m²]
    """

    school: str
    least: float
    most: float


def feed_on_area(found: Evaluation, water: WaterResult) -> FeedOnArea | None:
    """Feed a day on each square metre of plants.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    water : WaterResult
        What its water comes to

    Returns
    -------
    FeedOnArea or None
        None where no crop is told
    """
    areas = {
        v.id: v.crop.planted * v.shape.footprint
        for v in found.plan.vessels
        if v.crop is not None and not v.crop.grows.dry_yield
    }
    area = sum(areas.values())
    if area <= 0.0:
        return None
    feed = sum(s.feed for s in water.stock.values())
    return FeedOnArea(area, feed / area, max(areas, key=lambda id_: areas[id_]))


def school_areas(found: Evaluation, water: WaterResult) -> tuple[SchoolArea, ...]:
    """Area of the crops of a plan that its feed would do for, by every school.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    water : WaterResult
        What its water comes to

    Returns
    -------
    tuple of SchoolArea
        By what most of its area grows; leafy greens where nothing is told
    """
    areas: dict[str, float] = {}
    for vessel in found.plan.vessels:
        if vessel.crop is not None and not vessel.crop.grows.dry_yield:
            own = vessel.crop.planted * vessel.shape.footprint
            areas[vessel.crop.kind] = areas.get(vessel.crop.kind, 0.0) + own
    crop = max(areas, key=lambda kind: areas[kind]) if areas else "leafy"
    feed = sum(s.feed for s in water.stock.values())
    return tuple(
        SchoolArea(school, feed / rates[crop][1], feed / rates[crop][0])
        for school, rates in FEED_SCHOOLS.items()
    )
