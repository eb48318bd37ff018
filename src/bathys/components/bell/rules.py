"""Rules on bells: B2, B5, B8 and B12 to B15."""

import math
from collections.abc import Iterator

from bathys.components.bell.model import USUAL_GAP, BellSiphon
from bathys.edits import Edit
from bathys.evaluation import BedResult, Evaluation
from bathys.parts.media import smallest_grain_of
from bathys.parts.rounding import mark_above
from bathys.physics import area_of
from bathys.physics.siphon import AIR_SHARE
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
        if siphon.foot_area < data.limits["share"] * area:
            yield Finding(
                data,
                "slots_small",
                "warning",
                siphon.id,
                f"The slots or holes at the foot of {named(siphon)} open "
                "{slots:area}, less than the standpipe’s "
                "{area:area}.",
                "Cut more slots or holes at the bell’s foot.",
                {"slots": siphon.foot_area, "area": area},
            )


@rule(
    Rule(
        "B12",
        "Air tubes wide enough",
        "A tube that lets in too little air leaves the siphon hanging.",
        "derived",
        limits={"share": AIR_SHARE},
    )
)
def _air(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for _, siphon in _bells(evaluation):
        if not siphon.air_tubes or siphon.has_air_tube:
            continue
        wanted = mark_above(siphon.pipe_bore * math.sqrt(AIR_SHARE / len(siphon.air_tubes)))
        yield Finding(
            data,
            "tube_narrow",
            "warning",
            siphon.id,
            f"The air tubes of {named(siphon)} let in too little air to break it, "
            "and are counted as none.",
            "Fit tubes with a bore of {wanted:length} or more.",
            {"wanted": wanted},
            (
                Offer(
                    "fit air tubes of {wanted:length}",
                    (
                        Edit(
                            f"siphons.{siphon.id}.air_tubes",
                            [t.model_dump() | {"bore": wanted} for t in siphon.air_tubes],
                        ),
                    ),
                    "",
                    {"wanted": wanted},
                ),
            ),
        )


@rule(
    Rule(
        "B13",
        "Gap under the bell’s cap",
        "Water that turns over the rim passes a curtain as high as this gap.",
        "derived",
        limits={"share": 0.25},
    )
)
def _crown(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for _, siphon in _bells(evaluation):
        wanted = mark_above(data.limits["share"] * siphon.pipe_bore)
        if siphon.crown_gap < data.limits["share"] * siphon.pipe_bore:
            yield Finding(
                data,
                "crown_tight",
                "warning",
                siphon.id,
                f"The cap of {named(siphon)} is {{gap:length}} over the rim: less opens there "
                "than the standpipe has.",
                "Raise the cap to {wanted:length} or more; 20 to 30 mm is usual.",
                {"gap": siphon.crown_gap, "wanted": wanted},
                (
                    Offer(
                        "raise the cap to {usual:length}",
                        (Edit(f"siphons.{siphon.id}.crown_gap", max(wanted, USUAL_GAP)),),
                        "",
                        {"usual": max(wanted, USUAL_GAP)},
                    ),
                ),
            )


_GUARD_AREA = 1.5  # open area of a guard over the bell's foot, so that half may clog (assumed)


@rule(
    Rule(
        "B14",
        "Openings of the guard",
        "Grains that pass the guard stop the siphon; openings that are too few throttle it.",
        "common practice",
        limits={"area": _GUARD_AREA},
    )
)
def _guard_openings(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for result, siphon in _bells(evaluation):
        media, opening = result.bed.media, siphon.guard_opening
        if media is not None and opening is not None:
            grain = smallest_grain_of(media.kind, media.smallest_grain)
            if opening >= grain:
                yield Finding(
                    data,
                    "guard_lets_through",
                    "warning",
                    siphon.id,
                    f"The guard of {named(siphon)} has openings of {{opening:length}}; "
                    "grains of {grain:length} pass them.",
                    "Cut a guard with smaller holes, or sieve the medium.",
                    {"opening": opening, "grain": grain},
                )
        area = siphon.guard_area
        if area is not None and area < data.limits["area"] * siphon.foot_area:
            yield Finding(
                data,
                "guard_chokes",
                "warning",
                siphon.id,
                f"The guard of {named(siphon)} opens {{area:area}}, the bell’s foot {{foot:area}}: "
                "a few roots are enough to throttle it.",
                "Cut more openings, {wanted:area} or more.",
                {
                    "area": area,
                    "foot": siphon.foot_area,
                    "wanted": data.limits["area"] * siphon.foot_area,
                },
            )


_PLASTIC = 0.95  # density of polyethylene and polypropylene over water's (ISO 1872, memory)


@rule(
    Rule(
        "B15",
        "A loose bell stays down",
        "A bell that floats lifts off its slots, and the siphon draws air.",
        "derived",
        limits={"density": _PLASTIC},
    )
)
def _floats(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for result, siphon in _bells(evaluation):
        under = min(result.loop.built.priming_level / siphon.cap_height, 1.0)
        if siphon.hold == "light" and under > data.limits["density"]:
            yield Finding(
                data,
                "bell_floats",
                "warning",
                siphon.id,
                f"{named(siphon)} has a loose bell of a plastic that floats. As it starts, "
                "{under:percent} of it is under water, and it lifts.",
                "Weigh the bell down or fix it, or use one of PVC.",
                {"under": under},
                (Offer("fix the bell", (Edit(f"siphons.{siphon.id}.hold", "fixed"),), ""),),
            )
