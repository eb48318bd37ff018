"""Levels, sumps and power cuts: rules U and P5."""

from collections.abc import Iterator

from bathys.evaluation import Evaluation
from bathys.rules.registry import Finding, Rule, rule

__all__: list[str] = []


@rule(Rule("U1", "Water over the pump", "A pump that sucks air stops pumping and wears out.",
           "common practice", limits={"cover": 0.05}))  # fmt: skip
def _cover(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for result in evaluation.loops:
        loop = result.loop
        cover = result.cycle.tank_low - loop.inlet
        if cover < data.limits["cover"]:
            yield Finding(
                data, "fault" if cover <= 1e-6 else "warning", loop.pump.id,
                f"At its lowest {loop.tank.name} leaves " "{cover:length} of water over the "
                "pump’s inlet; it wants {want:length}.",
                "Fill the tank {more:length} higher, or set the pump lower.",
                {"cover": max(cover, 0.0), "want": data.limits["cover"],
                 "more": data.limits["cover"] - cover},
            )  # fmt: skip


@rule(Rule("U2", "Room for what comes back", "When the power goes, the beds drain into the tank.",
           "derived"))  # fmt: skip
def _drain_back(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for result in evaluation.loops:
        loop = result.loop
        worst = max(result.outages, key=lambda o: (o.spilled, o.tank_level))
        top = worst.tank_level - loop.tank.floor_height
        keep = loop.tank_storage.rim - loop.tank.freeboard
        if worst.spilled > 1e-6:
            yield Finding(
                data, "fault", loop.tank.id,
                "A power cut spills {spilled:volume} over the rim of " f"{loop.tank.name}.",
                "Fill the tank {less:length} lower.",
                {"spilled": worst.spilled,
                 "less": worst.spilled / float(loop.tank_storage.area(0.0)) + loop.tank.freeboard},
            )  # fmt: skip
        elif top > keep + 1e-6:
            yield Finding(
                data, "warning", loop.tank.id,
                f"A power cut brings {loop.tank.name} to " "{room:length} below its rim; "
                "{keep:length} of freeboard was asked for.",
                "Fill the tank {less:length} lower.",
                {"room": loop.tank_storage.rim - top, "keep": loop.tank.freeboard,
                 "less": top - keep},
            )  # fmt: skip


@rule(Rule("U6", "Room over the bed", "Spray, roots and a slow start need dry wall over the water.",
           "common practice"))  # fmt: skip
def _bed_freeboard(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for result in evaluation.loops:
        bed, high = result.loop.bed, result.cycle.bed_high
        room = bed.shape.height - high
        if result.cycle.verdict != "overflows" and room < bed.freeboard:
            yield Finding(
                data, "warning", bed.id,
                f"Water stands " "{room:length} below the rim of " f"{bed.name}; "
                "{keep:length} of freeboard was asked for.",
                "Lower the standpipe by {less:length}.",
                {"room": room, "keep": bed.freeboard, "less": bed.freeboard - room},
            )  # fmt: skip


@rule(Rule("P5", "Returns end above water",
           "An outlet under water siphons back through the stopped pump.", "derived"))  # fmt: skip
def _drowned_return(evaluation: Evaluation, data: Rule) -> Iterator[Finding]:
    for result in evaluation.loops:
        loop = result.loop
        back = max(o.siphoned_back for o in result.outages)
        port = loop.outlet - loop.bed.floor_height
        if loop.holds_back or port >= result.cycle.bed_high:
            continue
        yield Finding(
            data, "fault" if back > 1e-6 else "warning", loop.riser.id,
            f"{loop.riser.name} ends " "{deep:length} under water in "
            f"{loop.bed.name}; when the pump stops, " "{back:volume} runs back through it.",
            "End it above {level:length} over the bed’s floor, or fit a check valve.",
            {"deep": result.cycle.bed_high - port, "back": back, "level": result.cycle.bed_high},
        )  # fmt: skip
