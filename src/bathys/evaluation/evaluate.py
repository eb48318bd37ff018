"""From a plan to its numbers."""

from bathys.evaluation.beds import beds_of
from bathys.evaluation.delivery import deliveries_of
from bathys.evaluation.duty import duties_of
from bathys.evaluation.result import Evaluation, Omission
from bathys.evaluation.runs import run_results
from bathys.evaluation.vessels import vessel_results
from bathys.network import Balance, balance
from bathys.physics.water import water_at
from bathys.plan.model import Plan
from bathys.plan.naming import named

__all__ = ["evaluate"]

_FEWEST_LEGS = 2


def evaluate(plan: Plan) -> Evaluation:
    """All numbers of a plan, deterministic and without side effects.

    Parameters
    ----------
    plan : Plan
        The plan

    Returns
    -------
    Evaluation
        Its numbers, and what could not be worked out

    Raises
    ------
    NotSolved
        If a balance does not settle
    """
    water = water_at(plan.site.water_temperature)
    now = balance(plan, water)
    rests = any(p.clock is not None for p in plan.pumps)
    mean = balance(plan, water, mean=True) if rests else now
    runs = run_results(now, mean)
    beds = beds_of(now)
    deliveries = deliveries_of(now, runs)
    return Evaluation(
        plan,
        water,
        now,
        mean,
        runs,
        deliveries,
        duties_of(now, runs, deliveries),
        vessel_results(now, mean, runs, beds, deliveries),
        beds,
        tuple(_omissions(now)),
    )


def _omissions(now: Balance) -> list[Omission]:
    plan = now.plan
    found = [
        Omission(p.id, f"{named(p)} has no pipe on it yet; draw a run from {p.id}.out.")
        for p in plan.pumps
        if plan.run_of(p) is None
    ]
    for siphon in plan.siphons:
        if plan.run_of(siphon) is None:
            found.append(
                Omission(siphon.id, f"{named(siphon)} has no tail; draw a run from its foot.")
            )
        if sum(s.stands_in == siphon.stands_in for s in plan.siphons) > 1:
            found.append(
                Omission(
                    siphon.id,
                    f"{named(siphon)} shares its bed with another siphon; which of them "
                    "starts first is not worked out.",
                )
            )
    found += [
        Omission(o.id, f"{named(o)} leads nowhere; draw a run from {o.id}.out.")
        for o in plan.outlets
        if plan.run_of(o) is None
    ]
    found += [
        Omission(
            v.id,
            f"No vessel of {named(v)}’s loop has a filled depth, so its levels are not known. "
            "Enter it for the vessel the pump stands in.",
        )
        for v in plan.vessels
        if v.id not in now.closing
        and v.water_depth is None
        and any(p.stands_in == v.id for p in plan.pumps)
    ]
    for junction in plan.junctions:
        arriving, leaving = plan.runs_to(junction.id), plan.runs_from(junction.id)
        if plan.is_outfall(junction.id) and arriving:
            continue
        if len(arriving) + len(leaving) < _FEWEST_LEGS:
            there = "nothing" if not arriving and not leaving else "only one run"
            found.append(
                Omission(
                    junction.id,
                    f"{named(junction)} joins {there}, so no water passes it; draw the "
                    "run that is missing.",
                )
            )
    touched = {p for r in plan.runs for p in (r.source, r.target)}
    stood = {p.stands_in for kind in ("pumps", "siphons", "outlets") for p in getattr(plan, kind)}
    touched |= {v for t in plan.transfers for v in t.vessels}
    found += [
        Omission(v.id, f"{named(v)} is joined to nothing; no figure is given for it.")
        for v in plan.vessels
        if v.id not in touched | stood
    ]
    return found
