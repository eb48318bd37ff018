"""The rule of a mineralising round: D19."""

from collections.abc import Iterator

from bathys.components.mineraliser.model import MineralisingRound
from bathys.edits import Edit
from bathys.evaluation import Evaluation
from bathys.plan.naming import named
from bathys.rules.registry import Finding, Offer, Rule, rule

__all__: list[str] = []


@rule(
    Rule(
        "D19",
        "A mineralising round has its places",
        "A drum is filled from a settler, and its clear water goes to plants.",
        "common practice",
    )
)
def _rounds(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    plan = evaluation.plan
    settlers = [v for v in plan.vessels if v.job == "settler"]
    given = [v for v in plan.vessels if v.use.floods or v.use.takes_up]
    for transfer in plan.transfers:
        if not isinstance(transfer, MineralisingRound):
            continue
        needs = [f for f in ("source", "target") if getattr(transfer, f) is None]
        if not needs:
            continue
        edits = []
        if "source" in needs and settlers:
            edits.append(Edit(f"transfers.{transfer.id}.source", settlers[0].id))
        if "target" in needs and given:
            edits.append(Edit(f"transfers.{transfer.id}.target", given[0].id))
        yield Finding(
            data,
            "round_open",
            "note",
            transfer.id,
            f"{named(transfer)} does not say where its sludge comes from or its clear water goes.",
            "Pick the settler and the bed or sump.",
            {},
            (Offer("take them from this plan", tuple(edits)),) if len(edits) == len(needs) else (),
        )
