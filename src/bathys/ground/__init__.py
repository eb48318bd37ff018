"""The plan seen from above: where vessels stand, the way of each run, and what is in the way.

Public: :func:`placed`, :func:`site_of`, :func:`routes_of`, :func:`lay`, :func:`laid_lengths`,
:func:`best_place`, :func:`conflicts`.
"""

from bathys.ground.conflicts import Conflict, conflicts
from bathys.ground.laying import follow_route, laid_lengths, lay, lay_route, outline_site
from bathys.ground.legs import LEG, braces_of, legs_of
from bathys.ground.placing import Placed, footprint_of, is_laid, placed, site_of, too_large_for_site
from bathys.ground.reach import AISLE, REACH_ONE, REACH_TWO, ReachZones, is_tended, reach_zones
from bathys.ground.routes import RunRoute, laid_routes, routes_of
from bathys.ground.saving import BetterPlace, best_place

__all__ = [
    "AISLE",
    "LEG",
    "REACH_ONE",
    "REACH_TWO",
    "BetterPlace",
    "Conflict",
    "Placed",
    "ReachZones",
    "RunRoute",
    "best_place",
    "braces_of",
    "conflicts",
    "follow_route",
    "footprint_of",
    "is_laid",
    "is_tended",
    "laid_lengths",
    "laid_routes",
    "lay",
    "lay_route",
    "legs_of",
    "outline_site",
    "placed",
    "reach_zones",
    "routes_of",
    "site_of",
    "too_large_for_site",
]
