"""Rules on bells: B2, B5 and B8."""

from collections.abc import Iterator

from bathys.components.bell.model import BellSiphon
from bathys.edits import Edit
from bathys.evaluation import BedResult, Evaluation
from bathys.parts.rounding import mark_above
from bathys.physics import area_of
from bathys.plan.naming import named
from bathys.rules.registry import Finding, Offer, Rule, rule

__all__: list[str] = []

_GUARD_GAP = 0.05  # between bell and guard, both sides together [m] (assumed)


def _bells(evaluation: Evaluation) -> Iterator[tuple[BedResult, BellSiphon]]:
    for result in evaluation.beds:
        if isinstance(result.siphon, BellSiphon):
            yield result, result.siphon


@rule(
    Rule(
        "B2",
        "Room in the bell",
        "A tight bell chokes the siphon it covers.",
        "common practice",
        limits={"annulus": 1.5},
    )
)
def _bell(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for result, siphon in _bells(evaluation):
        built = result.loop.built
        standpipe_area = area_of(built.bore)
        ratio = built.annulus / standpipe_area
        wide = siphon.bell_bore.inside / built.bore
        # A nominal "twice" is a little less than twice in true bore for most sizes.
        if ratio < data.limits["annulus"]:
            yield Finding(
                data,
                "annulus_narrow",
                "fault" if ratio < 0.5 else "warning",
                siphon.id,
                "The space between bell and standpipe is {ratio:ratio} of the standpipe’s area; "
                "it needs {annulus:ratio} or more.",
                "Fit a wider bell, at about twice the standpipe; this one is {wide:ratio} times.",
                {"ratio": ratio, "wide": wide, **data.limits},
            )


@rule(
    Rule(
        "B5",
        "Guard about the bell",
        "Media and roots in the slots stop a siphon within a season.",
        "common practice",
    )
)
def _guard(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for result, siphon in _bells(evaluation):
        if result.bed.media is not None and siphon.guard_diameter is None:
            wide = mark_above(siphon.bell_bore.inside + _GUARD_GAP)
            yield Finding(
                data,
                "no_guard",
                "note",
                siphon.id,
                f"{named(siphon)} has no guard, so media and roots get into its slots.",
                "Stand a slotted pipe round the bell, and look at the slots every month.",
                {"wide": wide},
                (
                    Offer(
                        "fit a media guard {wide:length} wide",
                        (Edit(f"siphons.{siphon.id}.guard_diameter", wide),),
                        "",
                        {"wide": wide},
                    ),
                ),
            )


@rule(
    Rule(
        "B8",
        "Slots pass the flow",
        "Slots smaller than the standpipe throttle the siphon.",
        "common practice",
        limits={"share": 1.0},
    )
)
def _slots(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for result, siphon in _bells(evaluation):
        built = result.loop.built
        area = area_of(built.bore)
        if siphon.slot_area < data.limits["share"] * area:
            yield Finding(
                data,
                "slots_small",
                "warning",
                siphon.id,
                f"The slots of {named(siphon)} open "
                "{slots:area}, less than the standpipe’s "
                "{area:area}.",
                "Cut more slots at the bell’s foot.",
                {"slots": siphon.slot_area, "area": area},
            )
