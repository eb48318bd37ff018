"""Solids: rules D."""

from collections.abc import Iterator

from bathys.edits import Edit
from bathys.evaluation import Evaluation
from bathys.parts.practice import (
    WASTE_CARRIED,
)
from bathys.plan.naming import named
from bathys.quality import solids_of
from bathys.quality.grains import MASHED
from bathys.quality.settling import mass_caught
from bathys.quality.solids_lift import EASY_LIFT, WASTE_FALLS, solids_lifts
from bathys.quality.solids_lines import reached_from, solids_lines
from bathys.rules.registry import LITRE_AN_HOUR, Finding, Offer, Rule, rule

__all__: list[str] = []

_MINUTE = 60.0
_LITTLE = 0.1  # solids a day that are as good as none [g]


@rule(
    Rule(
        "D3",
        "Lift of solids",
        "Waste rises in a lift pipe only if the water rises faster than it falls.",
        "published",
        "fresh waste falls at 15 to 45 mm/s (memory)",
        limits={"falls": WASTE_FALLS, "ratio": EASY_LIFT},
    )
)
def _lift(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for lift in solids_lifts(evaluation):
        if lift.flow <= LITRE_AN_HOUR or lift.ratio >= data.limits["ratio"]:
            continue
        yield Finding(
            data,
            "lifts_slowly",
            "warning" if lift.ratio < 1.0 else "note",
            lift.outlet.id,
            f"In {named(lift.outlet)} the water rises at {{speed:slow_speed}}, {{ratio:ratio}} "
            "times as fast as waste falls; three times is comfortable.",
            "A pipe of {wanted:length} lifts it surely; flush a wider one now and then.",
            {"speed": lift.speed, "ratio": lift.ratio, "wanted": lift.easy},
        )


@rule(
    Rule(
        "D7",
        "No pump before the settler",
        "A pump mashes waste into grains that hardly settle.",
        "common practice",
    )
)
def _pump_before(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    solids = solids_of(evaluation)
    viscosity = evaluation.water.kinematic_viscosity
    for tank in solids.mashed:
        reached = reached_from(evaluation, tank)
        for settler in (s for s in solids.settlers if s.vessel.id in reached):
            mashed = mass_caught(settler.vessel, settler.rate, MASHED, viscosity)
            pump = next(p for p in evaluation.plan.pumps if p.stands_in == tank)
            yield Finding(
                data,
                "pump_mashes",
                "note",
                pump.id,
                f"{named(pump)} stands in the fish tank and mashes the waste: "
                f"{named(settler.vessel)} catches {{mashed:percent}} of it, and {{fresh:percent}} "
                "of waste that is led by gravity.",
                "Let the tank run over into the settler, and pump from a sump behind it.",
                {"mashed": mashed, "fresh": settler.caught},
            )


@rule(
    Rule(
        "D9",
        "Solids are taken out",
        "What nothing holds back stays in the water, rots and takes its oxygen.",
        "derived",
    )
)
def _taken_out(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    solids = solids_of(evaluation)
    tank = next((v for v in evaluation.plan.vessels if v.use.keeps_fish), None)
    if tank is None or solids.climbs <= _LITTLE:
        return
    filters = [named(v) for v in evaluation.plan.vessels if v.use.cleans]
    told = f" Not counted: {', '.join(filters)}." if filters else ""
    yield Finding(
        data,
        "nothing_holds_solids",
        "note" if filters else "warning",
        tank.id,
        f"{{climbs:dose}} of solids a day are held back by nothing.{told}",
        "Make a vessel a settler, or lead the water through a media bed.",
        {"climbs": 0.001 * solids.climbs},
    )


@rule(
    Rule(
        "D10",
        "Waste is carried along",
        "In level pipe waste lies down where water is slow; a clean-out lets it be flushed.",
        "common practice",
        limits={"least": WASTE_CARRIED, "level": 0.5},
    )
)
def _carried(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for line in solids_lines(evaluation):
        run = line.run
        is_slow = line.speed < data.limits["least"]
        if not is_slow or run.level_length < data.limits["level"] or line.has_clean_out:
            continue
        path = f"runs.{run.id}.fittings"
        fittings = [f.model_dump() for f in run.fittings]
        yield Finding(
            data,
            "waste_lies_down",
            "note",
            run.id,
            f"Waste goes through {named(run)} at {{speed:speed}}; under {{least:speed}} it lies "
            "down in level pipe.",
            "Fit a clean-out and flush it now and then, or lay it narrower or steeper.",
            {"speed": line.speed, **data.limits},
            (
                Offer(
                    f"fit a clean-out in {named(run)}",
                    (Edit(path, [*fittings, {"kind": "clean_out", "count": 1}]),),
                ),
            ),
        )
