"""What a plan does of the things that schools do differently, in words."""

from collections import Counter

from bathys.evaluation import Evaluation
from bathys.kinds import kind_of
from bathys.plan.model import Plan
from bathys.quality import solids_of

__all__ = ["done_in"]

_WEEK = 7.0 * 86400.0


def done_in(found: Evaluation) -> dict[str, str]:
    """What a plan does, for those practices that it says something of.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    dict of str
        A sentence by the practice's name
    """
    plan = found.plan
    told = {
        "draining": _draining(plan),
        "exchange": _exchange(found),
        "bacteria": _bacteria(plan),
        "feed_place": _feeding(plan),
        "tail_joints": _tails(plan),
        "solids": _solids(found),
    }
    return {key: words for key, words in told.items() if words}


def _count(rows: Counter[str]) -> str:
    return ", ".join(f"{n} by {what}" for what, n in rows.items())


def _draining(plan: Plan) -> str:
    """How its beds are drained."""
    rows: Counter[str] = Counter()
    timed = any(p.clock is not None for p in plan.pumps)
    for vessel in plan.vessels:
        if not vessel.use.floods:
            continue
        siphon = next((s for s in plan.siphons if s.stands_in == vessel.id), None)
        outlets = [o for o in plan.outlets if o.stands_in == vessel.id]
        if siphon is not None:
            rows[f"{kind_of(type(siphon))} siphon"] += 1
        elif timed and any(o.drilled is not None and o.drilled.count for o in outlets):
            rows["timer and small holes"] += 1
        elif outlets:
            rows["constant flood"] += 1
    return f"Beds of this plan: {_count(rows)}." if rows else ""


def _exchange(found: Evaluation) -> str:
    """What is exchanged a week, of all its water."""
    plan = found.plan
    water = sum(v.rest_volume for v in found.vessels.values())
    out = sum(m.volume * _WEEK / m.every for m in plan.moves if m.target is None)
    if water <= 0.0:
        return ""
    if not out:
        return "This plan takes out no water by the clock."
    return f"This plan takes out {100.0 * out / water:.0f} % of its water a week."


def _bacteria(plan: Plan) -> str:
    """Where its bacteria live."""
    filters = [v for v in plan.vessels if v.job == "biofilter"]
    beds = [v for v in plan.vessels if v.media is not None]
    if not filters and not beds:
        return ""
    words = [
        f"{len(filters)} biofilter{'s' * (len(filters) > 1)}" if filters else "",
        f"{len(beds)} media bed{'s' * (len(beds) > 1)}" if beds else "",
    ]
    return f"This plan has {' and '.join(w for w in words if w)}."


def _feeding(plan: Plan) -> str:
    """How its beds are fed."""
    rings = sum(
        r.ends_in is not None and r.ends_in.kind in ("ring", "spray")
        for r in plan.runs
        if plan.port(r.end) is not None and plan.vessel(r.target).use.floods
    )
    beds = sum(v.use.floods for v in plan.vessels)
    return f"Fed by a ring or a bar of holes: {rings} of {beds} beds." if rings else ""


def _solids(found: Evaluation) -> str:
    """How many of its solids reach beds and rafts."""
    solids = solids_of(found)
    plants = [v.id for v in found.plan.vessels if v.media is not None or v.use.has_rafts]
    if solids.made <= 0.0 or not plants:
        return ""
    share = sum(solids.held(p) for p in plants) / solids.made
    return f"In this plan {100.0 * share:.0f} % of the solids end in beds and rafts."


def _tails(plan: Plan) -> str:
    """How its tails end."""
    turned = sum(s.end_elbow is not None for s in plan.siphons)
    if not plan.siphons:
        return ""
    return f"An elbow that can be turned ends {turned} of {len(plan.siphons)} tails."
