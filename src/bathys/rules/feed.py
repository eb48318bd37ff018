"""What is typed of feed and fish, against what the plan has of them: rule N11."""

from collections.abc import Iterator

from bathys.edits import Edit
from bathys.evaluation import Evaluation
from bathys.plan.naming import named
from bathys.quality.stocking import feed_of
from bathys.rules.registry import Finding, Offer, Rule, rule

__all__: list[str] = []


@rule(
    Rule(
        "N11",
        "Feed and fish agree",
        "Fish eat a few hundredths of their mass a day; young ones up to a tenth.",
        "common practice",
        limits={"off": 0.1, "eats": 0.1},
    )
)
def _agree(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    plan, brief = evaluation.plan, evaluation.plan.brief
    tank = next((v for v in plan.vessels if v.use.keeps_fish), None)
    if tank is None:
        return
    off, eats = data.limits["off"], data.limits["eats"]
    if plan.fish:
        eaten, grown = feed_of(evaluation), sum(s.mass_at_harvest for s in plan.fish)
        if brief.feed_a_day is not None and abs(brief.feed_a_day - eaten) > off * eaten:
            yield Finding(
                data,
                "typed_feed_unused",
                "note",
                plan.fish[0].stands_in,
                "{typed:mass} of feed a day are typed for the plan; its fish get {eaten:mass}, and "
                "that is what counts.",
                "Say in the fish what they eat, and leave the plan’s box empty.",
                {"typed": brief.feed_a_day, "eaten": eaten},
                (Offer("leave the plan’s feed out", (Edit("brief.feed_a_day", None),)),),
            )
        if brief.fish_mass > 0.0 and abs(brief.fish_mass - grown) > off * grown:
            yield Finding(
                data,
                "typed_fish_unused",
                "note",
                plan.fish[0].stands_in,
                "{typed:mass} of fish at harvest are typed for the plan; those in its tanks come "
                "to {grown:mass}, and that is what counts.",
                "Change the fish, or what is typed for the plan.",
                {"typed": brief.fish_mass, "grown": grown},
                (
                    Offer(
                        "type {grown:mass} for the plan",
                        (Edit("brief.fish_mass", grown),),
                        figures={"grown": grown},
                    ),
                ),
            )
        for stock in plan.fish:
            if stock.feed > eats * stock.mass:
                yield Finding(
                    data,
                    "more_than_they_eat",
                    "warning",
                    stock.id,
                    f"{named(stock)} are to eat {{fed:mass}} a day, over a tenth of the "
                    "{fish:mass} they weigh.",
                    "What they leave rots. Feed what is gone in a few minutes.",
                    {"fed": stock.feed, "fish": stock.mass},
                )
        return
    if brief.feed_a_day is not None and brief.feed_a_day > eats * brief.fish_mass > 0.0:
        yield Finding(
            data,
            "feed_over_appetite",
            "warning",
            tank.id,
            "{fed:mass} of feed a day is over a tenth of the {fish:mass} of fish.",
            "What they leave rots. Feed what is gone in a few minutes.",
            {"fed": brief.feed_a_day, "fish": brief.fish_mass},
        )
