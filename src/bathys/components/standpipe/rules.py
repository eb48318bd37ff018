"""Rules on standpipes: O1 and O2."""

from collections.abc import Iterator

from bathys.components.standpipe.model import Standpipe
from bathys.edits import Edit
from bathys.evaluation import Evaluation
from bathys.parts.rounding import mark_below
from bathys.physics import area_of
from bathys.physics.openings import rim_head
from bathys.plan.naming import named
from bathys.rules.registry import LITRE_AN_HOUR, Finding, Offer, Rule, rule

__all__: list[str] = []


def _standpipes(evaluation: Evaluation) -> Iterator[Standpipe]:
    yield from (o for o in evaluation.plan.outlets if isinstance(o, Standpipe))


@rule(
    Rule(
        "O1",
        "Room over a screen that clogs",
        "A screen clogs between two cleanings, and the water rises over it.",
        "common practice",
        limits={"clogged": 0.5},
    )
)
def _screen(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for pipe in _standpipes(evaluation):
        run = evaluation.plan.run_of(pipe)
        flow = evaluation.runs[run.id].flow if run is not None else 0.0
        if pipe.screen is None or flow < LITRE_AN_HOUR:
            continue
        vessel = evaluation.plan.vessel(pipe.stands_in)
        left = pipe.screen.open_share * (1.0 - data.limits["clogged"])
        over = rim_head(flow / left, pipe.pipe_bore)
        room = vessel.shape.height - vessel.freeboard - pipe.crest_height
        if over <= room:
            continue
        lower = mark_below(pipe.rim_height - (over - room))
        offers = (
            (
                Offer(
                    "cut the standpipe to {lower:length}",
                    (Edit(f"outlets.{pipe.id}.rim_height", lower),),
                    "",
                    {"lower": lower},
                ),
            )
            if lower > 0.0
            else ()
        )
        yield Finding(
            data,
            "screen_clogs",
            "warning",
            pipe.id,
            f"With its screen half clogged, the water stands {{over:length}} over the rim of "
            f"{named(pipe)}; there is room for {{room:length}}.",
            "Fit a larger or coarser screen, or lower the rim, and clean it before it clogs.",
            {"over": over, "room": max(room, 0.0)},
            offers,
        )


@rule(
    Rule(
        "O2",
        "A sleeve that lets the water in",
        "A sleeve with too few holes holds the water up outside, and none goes over the rim.",
        "derived",
        limits={"share": 1.0},
    )
)
def _sleeve(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for pipe in _standpipes(evaluation):
        if pipe.sleeve is None:
            continue
        wanted = data.limits["share"] * area_of(pipe.pipe_bore)
        gap = area_of(pipe.sleeve.bore.inside) - area_of(pipe.bore.outside)
        if min(pipe.sleeve.area, gap) < wanted:
            yield Finding(
                data,
                "sleeve_chokes",
                "warning",
                pipe.id,
                f"The sleeve about {named(pipe)} opens {{area:area}} at its narrowest, less than "
                "the standpipe’s {wanted:area}.",
                "Drill more holes at its foot, or use a wider sleeve.",
                {"area": min(pipe.sleeve.area, gap), "wanted": wanted},
            )
