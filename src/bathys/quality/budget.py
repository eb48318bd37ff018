"""Where the nitrogen of the feed goes: of 100 g fed."""

from dataclasses import dataclass

from bathys.evaluation import Evaluation
from bathys.quality.solids import SolidsResult, solids_of
from bathys.quality.water_result import WaterResult

__all__ = ["Stream", "nitrogen_budget", "solids_budget"]

_IN_FISH, _IN_SOLIDS = 30.5, 12.0  # of 100 g fed; the rest is given off (split assumed)
_LEAST = 0.05  # of 100 g, under which a stream is left out


@dataclass(frozen=True, slots=True)
class Stream:
    """Nitrogen that goes from one place to another, of 100 g fed.

    Attributes
    ----------
    start, end : str
        In words
    grams : float
        How much, [g]
    """

    start: str
    end: str
    grams: float


def nitrogen_budget(found: Evaluation, water: WaterResult) -> tuple[Stream, ...]:
    """Feed, what becomes of it, and where that ends.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    water : WaterResult
        What its water comes to

    Returns
    -------
    tuple of Stream
        From the feed on; what comes out of the middle goes into it, but for what stays in the water
        as ammonia
    """
    solids = solids_of(found)
    plants = [v.id for v in found.plan.vessels if v.media is not None or v.use.has_rafts]
    made = max(solids.made, 1e-9)
    rots = _IN_SOLIDS * sum(solids.held(p) for p in plants) / made
    given_off = 100.0 - _IN_FISH - _IN_SOLIDS
    turned = given_off + rots
    ends = {
        "plants": sum(water.taken_up.values()),
        "gas": water.gas,
        "nitrate that climbs": water.nitrate_left,
    }
    ends["leaves with water"] = max(water.made - sum(ends.values()), 0.0)
    whole = max(sum(ends.values()), 1e-9)
    rows = [
        Stream("feed", "fish", _IN_FISH),
        Stream("feed", "solids", _IN_SOLIDS),
        Stream("feed", "ammonia", given_off),
        Stream("solids", "settled and filtered out", _IN_SOLIDS - rots),
        Stream("solids", "ammonia", rots),
        *(Stream("ammonia", name, turned * grams / whole) for name, grams in ends.items()),
    ]
    return tuple(r for r in rows if r.grams > _LEAST)


def solids_budget(found: Evaluation, solids: SolidsResult) -> tuple[Stream, ...]:
    """Where a day's solids end, of 100 g made.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    solids : SolidsResult
        What becomes of its solids

    Returns
    -------
    tuple of Stream
        From the tanks to each place, what leaves and what nothing takes out; none where nothing
        is fed
    """
    if solids.made <= 0.0:
        return ()
    names = found.plan.names
    rows = {names[place]: grams for place, grams in solids.ends.items()}
    rows |= {"leaves with water": solids.leaves, "nothing takes it": solids.climbs}
    return tuple(
        Stream("made of feed", end, 100.0 * grams / solids.made)
        for end, grams in rows.items()
        if 100.0 * grams / solids.made >= 1.0
    )
