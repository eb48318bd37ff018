"""Where solids and sludge end up: rules D15 to D18 and D21."""

from collections.abc import Iterator

from bathys.edits import Edit
from bathys.evaluation import Evaluation
from bathys.kinds import model_named
from bathys.parts.rounding import mark_above, whole_days
from bathys.plan.naming import named
from bathys.quality import solids_of
from bathys.quality.beds import bed_solids, raft_solids
from bathys.quality.sludge import sludge_of
from bathys.quality.solids_lines import reached_from
from bathys.rules.registry import Finding, Offer, Rule, rule

__all__: list[str] = []

_DAY = 86400.0


@rule(
    Rule(
        "D15",
        "Solids in a bed",
        "What a bed holds rots slowly; where it fills the media, no air gets in.",
        "derived",
        "2 % a day rot, 5 % with worms, laid down at 3 % dry (assumed)",
        limits={"some": 0.25, "most": 0.5},
    )
)
def _beds(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for bed in bed_solids(evaluation, solids_of(evaluation)):
        if bed.filled <= data.limits["some"]:
            continue
        is_much = bed.filled > data.limits["most"]
        yield Finding(
            data,
            "bed_fills",
            "warning" if is_much else "note",
            bed.vessel.id,
            f"{named(bed.vessel)} comes to hold {{level:dose}} of dry solids, after about "
            "{time:time}: they fill {filled:percent} of the room between its media"
            + (", and airless pockets form." if is_much else "."),
            "Take more out before it: a settler, a filter, or less flow through the settler. "
            + (
                "Dig it over once a year."
                if bed.has_worms
                else "Worms break down more than twice as much."
            ),
            {"level": 0.001 * bed.level, "time": bed.days * _DAY, "filled": bed.filled},
        )


@rule(
    Rule(
        "D16",
        "Solids on the roots of rafts",
        "Waste that reaches rafts lies down on the roots and hinders them.",
        "common practice",
        limits={"some": 50.0, "most": 100.0},
    )
)
def _rafts(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    plan = evaluation.plan
    for vessel, week in raft_solids(evaluation, solids_of(evaluation)):
        if week <= data.limits["some"]:
            continue
        inflows = [
            r for r in plan.runs if r.target == vessel.id and evaluation.runs[r.id].mean_flow > 0.0
        ]
        run = inflows[0] if len(inflows) == 1 and inflows[0].filter is None else None
        offers: tuple[Offer, ...] = ()
        if run is not None:
            usual = model_named("filters", "sock").usual(run.bore.inside)
            made = {"kind": "sock", **usual}
            offers = (
                Offer(
                    f"put a sock at the end of {named(run)}", (Edit(f"runs.{run.id}.filter", made),)
                ),
            )
        yield Finding(
            data,
            "raft_solids",
            "warning" if week > data.limits["most"] else "note",
            vessel.id,
            f"{{week:dose}} of dry solids a week settle in {named(vessel)} on each square metre, "
            "on roots and floor.",
            "A sock or another fines filter before it stops most of them.",
            {"week": 0.001 * week},
            offers,
        )


@rule(
    Rule(
        "D21",
        "Solids go where you want them",
        "Some builders take out all they can, others let some in for worms.",
        "common practice",
        limits={"most": 0.25, "least": 0.05},
    )
)
def _chosen(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    plan, solids = evaluation.plan, solids_of(evaluation)
    plants = [v for v in plan.vessels if v.media is not None or v.use.has_rafts]
    if solids.made <= 0.0 or not plants:
        return
    share = sum(solids.held(v.id) for v in plants) / solids.made
    fullest = max(plants, key=lambda v: solids.held(v.id))
    if plan.brief.solids == "out" and share > data.limits["most"]:
        yield Finding(
            data,
            "let_in",
            "note",
            fullest.id,
            "Solids are to be taken out, and {share:percent} of them end in beds and rafts.",
            "A larger settler or a filter before them takes more.",
            {"share": share},
        )
    if plan.brief.solids == "some_in" and share < data.limits["least"]:
        yield Finding(
            data,
            "kept_out",
            "note",
            fullest.id,
            "Some solids are to be let in, and {share:percent} of them reach beds and rafts.",
            "Lead a part of the water past the settler.",
            {"share": share},
        )


@rule(
    Rule(
        "D17",
        "No two settlers in a ring",
        "What only goes from one settler to the other never comes to the plants.",
        "derived",
    )
)
def _rings(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    ids = [s.vessel.id for s in solids_of(evaluation).settlers]
    reached = {id_: reached_from(evaluation, id_) for id_ in ids}
    for number, one in enumerate(ids):
        for two in ids[number + 1 :]:
            if two in reached[one] and one in reached[two]:
                plan = evaluation.plan
                yield Finding(
                    data,
                    "settler_ring",
                    "warning",
                    two,
                    f"{named(plan.vessel(one))} and {named(plan.vessel(two))} feed each other.",
                    "Lead the second one on to the beds or the sump.",
                    {},
                )


@rule(
    Rule(
        "D18",
        "Sludge is let out in time",
        "Over its mark sludge is stirred up and carried on.",
        "derived",
        "sludge of 1 to 3 % dry (common practice)",
    )
)
def _purged(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    plan, solids = evaluation.plan, solids_of(evaluation)
    for transfer in plan.transfers:
        own = [m for m in plan.moves if m.id == transfer.id and m.source == transfer.takes_sludge]
        if transfer.takes_sludge is None or not own:
            continue
        vessel = plan.vessel(transfer.takes_sludge)
        sludge = sludge_of(solids, vessel)
        if sludge is None or sludge.days is None:
            continue
        time, every = sludge.days * _DAY, own[0].every
        made = sludge.volume * every / _DAY
        if every <= time and own[0].volume < made:
            more = mark_above(made)
            yield Finding(
                data,
                "purged_little",
                "warning",
                transfer.id,
                f"{named(vessel)} makes {{made:volume}} of sludge in {{every:time}}, and "
                "{volume:volume} are let out.",
                "Let out {more:volume} each time, or do it more often.",
                {"made": made, "every": every, "volume": own[0].volume, "more": more},
                (
                    Offer(
                        "let out {more:volume} each time",
                        (Edit(f"transfers.{transfer.id}.volume", more),),
                        "",
                        {"more": more},
                    ),
                )
                if "volume" in type(transfer).model_fields
                else (),
            )
        if every <= time:
            continue
        wanted = whole_days(0.75 * sludge.days) * _DAY
        yield Finding(
            data,
            "purged_late",
            "warning",
            transfer.id,
            f"The sludge of {named(vessel)} stands at its mark after {{time:time}}, and is let out "
            "every {every:time}.",
            "Let it out every {wanted:time}.",
            {"time": time, "every": every, "wanted": wanted},
            (
                Offer(
                    "let it out every {wanted:time}",
                    (Edit(f"transfers.{transfer.id}.every", wanted),),
                    "",
                    {"wanted": wanted},
                ),
            )
            if wanted < time
            else (),
        )
