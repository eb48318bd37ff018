"""Figures of what a sump must hold, known once a plan was followed through time."""

from collections.abc import Iterator

from bathys.evaluation.resilience import ResilienceRun
from bathys.figures import formulas_in_time as in_time
from bathys.figures.figure import Figure, Input
from bathys.parts.practice import LEAST_COVER
from bathys.scenarios.sump_capacity import Claim, SumpCapacity
from bathys.simulation.boundary_conditions import open_area

__all__ = ["list_sump_capacity"]


def list_sump_capacity(resilience: ResilienceRun) -> tuple[Figure, ...]:
    """Every claim on every sump, their sum, and what is left.

    Parameters
    ----------
    resilience : ResilienceRun
        What the plan does through time

    Returns
    -------
    tuple of Figure
        Keys such as ``S1.claim.cover``, ``S1.least`` and ``S1.spare``
    """
    return tuple(f for sump in resilience.sumps for f in _figures(resilience, sump))


def _figures(resilience: ResilienceRun, sump: SumpCapacity) -> Iterator[Figure]:
    id_ = sump.vessel
    for claim in sump.claims:
        formula, inputs = _FORMULAS[claim.kind], _inputs(resilience, sump, claim)
        yield formula.of(
            f"{id_}.claim.{claim.kind}",
            id_,
            inputs,
            "as it ran, {seen:volume}",
            {"seen": claim.volume},
            value=claim.most,
        )
    parts = [Input(_FORMULAS[c.kind].label, c.most, "volume") for c in sump.claims]
    yield in_time.CLAIMS_IN_ALL.of(f"{id_}.least", id_, parts)
    yield in_time.CLAIMS_SPARE.of(
        f"{id_}.spare",
        id_,
        (
            Input("held up to the freeboard", sump.holds, "volume"),
            Input("all claims", sump.least, "volume"),
        ),
    )


def _inputs(resilience: ResilienceRun, sump: SumpCapacity, claim: Claim) -> tuple[Input, ...]:
    now = resilience.evaluation.balance
    plan, site = now.plan, now.plan.site
    loop = [plan.vessel(v) for v, closer in now.closing.items() if closer == sump.vessel]
    if claim.kind == "cover":
        inlet = Input("the pump’s inlet", sump.lowest_safe - LEAST_COVER, "length")
        return inlet, Input("least cover", LEAST_COVER, "length")
    if claim.kind == "start_up":
        return (
            Input("usual low water", sump.normal_low, "length"),
            Input("lowest on the first start", sump.startup_low, "length"),
        )
    if claim.kind == "evaporation":
        return (
            Input("open water", sum(map(open_area, loop)), "area"),
            Input("dried off a day", site.dries, "length"),
            Input("days without topping up", site.days_away, "ratio"),
        )
    if claim.kind == "swing":
        return (
            Input("seen as it ran", claim.volume, "volume"),
            Input("all beds full, then all empty", claim.bound or 0.0, "volume"),
        )
    if claim.kind == "schedule":
        ids = {v.id for v in loop}
        return tuple(
            Input(m.name, m.volume, "volume")
            for m in plan.moves
            if (m.source in ids) != (m.target in ids)
        )
    if claim.kind == "drain_back":
        return (
            Input("usual high water", sump.normal_high, "length"),
            Input("highest after a power cut", sump.power_off, "length"),
        )
    catch = sum(v.catches_rain for v in loop)
    return Input("what catches rain", catch, "area"), Input(
        "in one storm", site.storm_depth, "length"
    )


_FORMULAS = {
    "cover": in_time.CLAIM_COVER,
    "start_up": in_time.CLAIM_START,
    "evaporation": in_time.CLAIM_DRY,
    "swing": in_time.CLAIM_SWING,
    "schedule": in_time.CLAIM_SCHEDULE,
    "drain_back": in_time.CLAIM_BACK,
    "rain": in_time.CLAIM_RAIN,
}
