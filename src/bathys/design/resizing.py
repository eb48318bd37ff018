"""One part of a plan sized anew, or all of them, with locks on what is to stay."""

from collections.abc import Callable, Collection, Iterator, Sequence
from dataclasses import dataclass
from typing import Any

from bathys.design.finishing import with_air_valves
from bathys.edits import Edit, EditRefused, apply_edits
from bathys.network import NotSolved
from bathys.parts.pumps import CatalogPump, sample_pumps
from bathys.pipeline import Assessment, assess, remedies_of
from bathys.plan import Plan, physics_hash
from bathys.plan.pipes import Run
from bathys.plan.pumps import Pump
from bathys.plan.stock import AirSource
from bathys.plan.vessel import Vessel
from bathys.plan.way_out import Siphon
from bathys.quality.settler_options import OWN, settler_edits, smallest_that_does
from bathys.sizing import (
    ask_of_bed,
    balance_valves,
    bore_options,
    choice_edits,
    design_siphon,
    modes_for,
    pump_edits,
    search_pumps,
)

__all__ = ["ALL", "Resized", "resized"]

ALL = ""
"""Asked of for all parts that are not locked."""

_MOST_TRIED = 4  # choices of a part that are tried, the best first
_MOST_REMEDIES = 8  # that are taken one after the other

Edits = Sequence[Edit]


@dataclass(frozen=True, slots=True)
class Resized:
    """A plan with one part or all of them sized.

    Attributes
    ----------
    edits : tuple of Edit
        What is changed, in order
    assessment : Assessment
        Of the plan after it
    """

    edits: tuple[Edit, ...]
    assessment: Assessment


def resized(
    found: Assessment,
    part: str,
    locked: Collection[str] = (),
    pumps: Sequence[CatalogPump] = (),
) -> Resized | None:
    """Size a part for what goes through it, or all that is not locked.

    Parameters
    ----------
    found : Assessment
        Numbers and findings of a plan
    part : str
        Id of the part, or :data:`ALL`
    locked : collection of str
        Ids of parts that stay as they are
    pumps : sequence of CatalogPump
        The builder's own, beside the samples

    Returns
    -------
    Resized or None
        A plan with no more problems, nor warnings, than before; none where the part is locked, or
        nothing better is found
    """
    if part != ALL:
        return None if part in locked else _one(found, part, locked, pumps)
    plan, made, now = found.evaluation.plan, list[Edit](), found
    for id_ in _in_order(plan):
        if id_ not in locked:
            step = _one(now, id_, locked, pumps)
            if step is not None:
                made += step.edits
                now = step.assessment
    return Resized(tuple(made), now) if made else None


def _in_order(plan: Plan) -> Iterator[str]:
    """As a designer sizes: what cleans, siphons, pipes, pumps, air; then the vessels."""
    yield from (v.id for v in plan.vessels if v.settler is not None)
    for group in (plan.siphons, plan.runs, plan.pumps, plan.air_pumps):
        yield from (part.id for part in group)
    yield from (v.id for v in plan.vessels if v.settler is None)


def _one(
    found: Assessment, part: str, locked: Collection[str], pumps: Sequence[CatalogPump]
) -> Resized | None:
    for edits in _choices(found, part, pumps):
        if _is_so(found.evaluation.plan, edits):
            break  # the best is what it has
        done = _tried(found, edits, locked)
        if done is not None:
            return done
    return _mended(found, part, locked)


def _is_so(plan: Plan, edits: Edits) -> bool:
    """Whether a change leaves all but names as they are."""
    try:
        after = apply_edits(plan, edits)
    except EditRefused:
        return False
    return physics_hash(after) == physics_hash(plan)


def _tried(found: Assessment, edits: Edits, locked: Collection[str]) -> Resized | None:
    """A change, if it touches nothing that is locked and does not worsen the plan."""
    plan = found.evaluation.plan
    if not edits or any(_of_part(edit) in locked for edit in edits):
        return None
    try:
        then = assess(apply_edits(plan, edits))
    except (EditRefused, NotSolved):
        return None
    return Resized(tuple(edits), then) if _grave(then) <= _grave(found) else None


def _of_part(edit: Edit) -> str:
    return edit.path.split(".")[1] if "." in edit.path else ""


def _grave(found: Assessment) -> tuple[int, int]:
    counts = found.counts
    return counts["fault"], counts["warning"]


def _mended(found: Assessment, part: str, locked: Collection[str]) -> Resized | None:
    """What rules find at a part taken away by their own remedies."""
    made, now = list[Edit](), found
    for _ in range(_MOST_REMEDIES):
        step = next(
            (
                done
                for finding in now.findings
                if finding.place == part and finding.severity != "note"
                for remedy in remedies_of(now, finding)
                if remedy.cures and not remedy.raised
                if (done := _tried(now, remedy.offer.edits, locked)) is not None
            ),
            None,
        )
        if step is None:
            break
        made += step.edits
        now = step.assessment
    return Resized(tuple(made), now) if made else None


def _choices(found: Assessment, id_: str, pumps: Sequence[CatalogPump]) -> Iterator[Edits]:
    """Changes that size a part, the best first."""
    part = found.evaluation.plan.part(id_)
    for kind, choose in _SIZED:
        if isinstance(part, kind):
            try:
                yield from choose(found, part, pumps)
            except NotSolved:
                return


def _of_run(found: Assessment, run: Run, pumps: Sequence[CatalogPump]) -> Iterator[Edits]:
    """Of a pumped run. A drain is left to the remedies of rules: it has to take no mean flow, but a
    siphon's rush or a tank's waste."""
    if run.id not in found.evaluation.balance.layout.pressure:
        return
    for option in bore_options(found.evaluation.balance, run):
        if option.is_advised and not option.is_now:
            yield [Edit(f"runs.{run.id}.bore", option.size.as_data)]


def _of_pump(found: Assessment, pump: Pump, pumps: Sequence[CatalogPump]) -> Iterator[Edits]:
    plan, balance = found.evaluation.plan, found.evaluation.balance
    search = search_pumps(balance, pump, (*pumps, *sample_pumps()))
    for row in search.fitting[:_MOST_TRIED]:
        edits = list(pump_edits(pump, row.pump))
        yield edits
        try:
            now = assess(apply_edits(plan, edits)).evaluation.balance
        except (EditRefused, NotSolved):
            continue
        if "exact" in modes_for(now):
            yield [*edits, *balance_valves(now, "exact").edits]


def _of_siphon(found: Assessment, siphon: Siphon, pumps: Sequence[CatalogPump]) -> Iterator[Edits]:
    plan = found.evaluation.plan
    bed, tail = found.evaluation.bed(siphon.stands_in), plan.run_of(siphon)
    if bed is None or tail is None:
        return
    ask = ask_of_bed(bed.loop.built, tail, bed.cycle.start_inflow, bed.cycle.break_inflow)
    for choice in [c for c in design_siphon(ask).choices if c.fits][:_MOST_TRIED]:
        yield choice_edits(siphon, choice, tail.id)


def _of_vessel(found: Assessment, vessel: Vessel, pumps: Sequence[CatalogPump]) -> Iterator[Edits]:
    if vessel.settler is None:
        return
    does = smallest_that_does(found.evaluation, vessel)
    if does is not None and does.container.key != OWN:
        yield settler_edits(found.evaluation.plan, vessel.id, does)


def _of_air(found: Assessment, pump: AirSource, pumps: Sequence[CatalogPump]) -> Iterator[Edits]:
    yield with_air_valves(found.evaluation, pump)


_SIZED: tuple[
    tuple[type[Any], Callable[[Assessment, Any, Sequence[CatalogPump]], Iterator[Edits]]], ...
] = (
    (Run, _of_run),
    (Pump, _of_pump),
    (Siphon, _of_siphon),
    (Vessel, _of_vessel),
    (AirSource, _of_air),
)
"""What sizes a part of each type: each is only handed parts of its own."""
