"""What is computed for instruments: what each should read, and which failures they notice."""

from collections.abc import Mapping
from typing import Any

from bathys.evaluation import evaluate
from bathys.instruments import bands_of, noticed_after, signatures_of, usual_readings
from bathys.network import NotSolved
from bathys.plan import Plan
from bathys.scenarios.periodic_state import find_periodic_state
from bathys.simulation import NotSimulated
from bathys_web.computing.kinds import IsWanted, computation
from bathys_web.instruments.expecting import Expected, channels_of_words

__all__: list[str] = []


@computation("instruments", lambda plan, words: True)
def _instruments(plan: Plan, words: Mapping[str, Any], is_wanted: IsWanted) -> Expected | str:
    """What instruments should read, or why it is not known."""
    channels = channels_of_words(words)

    def goes_on(_: float) -> bool:
        return is_wanted(0.5)

    try:
        found = evaluate(plan)
    except NotSolved as error:
        return f"The flows of this plan are not known: {error}"
    try:
        periodic = find_periodic_state(plan, None, goes_on)
        bands = bands_of(found, periodic, channels)
        usual = usual_readings(found, periodic, channels)
        signatures = signatures_of(found, periodic, channels, goes_on)
    except (NotSimulated, NotSolved) as error:
        return Expected(bands_of(found, None, channels), (), str(error))
    noticed = noticed_after(signatures, channels, bands, usual)
    return Expected(bands, tuple(noticed.items()))
