"""A plan worked out on the terminal: ``bathys check``, ``balance``, ``simulate`` and so on.

Exit status: 0 sound, 1 findings, 2 bad input.
"""

import argparse
import json
import os
import sys
from collections.abc import Sequence
from pathlib import Path
from typing import Any

from bathys.build import STOCK
from bathys.commands import (
    balance,
    build,
    check,
    draw,
    power,
    resilience,
    settler,
    size,
    size_siphon,
    solids,
    water,
)
from bathys.commands import design as brief
from bathys.commands import simulate as through
from bathys.edits import EditRefused
from bathys.network import NotSolved
from bathys.pipeline import Assessment, assess, assess_dynamic
from bathys.plan import BadPlan, Plan, load_plan, schema
from bathys.plan.pipes import Run
from bathys.plan.pumps import Pump
from bathys.plan.vessel import Vessel
from bathys.plan.way_out import Outlet, Siphon
from bathys.scenarios import follow
from bathys.shelf import PriceList, read_prices
from bathys.simulation import NotSimulated, SimulationResult
from bathys.sizing import (
    SiphonDesign,
    TimerAsk,
    TimerDesign,
    ask_of_bed,
    design_siphon,
    design_timer,
)
from bathys.units import SYSTEMS, System, UnreadableQuantity, read
from bathys.vessels import storage_of
from bathys.wording.scenarios import BadScenarioStep, seconds, step_of, weather_of

__all__ = ["main"]

_SOUND, _FINDINGS, _BAD_INPUT = 0, 1, 2
_OLD_VERB, _VERB = "rehearse", "resilience"
_UNREAD = 128 + 13  # as a shell tells a program whose reader has gone (SIGPIPE)


def _arguments() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="bathys", description="Works out aquaponics layouts.")
    commands = parser.add_subparsers(dest="command", required=True)
    shared = argparse.ArgumentParser(add_help=False)
    shared.add_argument("plan", type=Path, help="a plan file")
    shared.add_argument("--json", action="store_true", help="print JSON, in SI units")
    shared.add_argument("--units", choices=SYSTEMS, help="instead of the plan's own")
    commands.add_parser("check", parents=[shared], help="figures, findings and remedies")
    commands.add_parser("balance", parents=[shared], help="every flow and level")
    commands.add_parser(
        "water", parents=[shared], help="oxygen, ammonia, nitrate and pH of every vessel"
    )
    commands.add_parser("power", parents=[shared], help="watts, air, heat and the hottest day")
    built = commands.add_parser(
        "build", parents=[shared], help="what to level, drill, mark and cut"
    )
    built.add_argument("--stock", default="3m", help="length pipe is sold in; 3m if not said")
    built.add_argument("--acknowledge", action="append", help="a problem by name; again for each")
    built.add_argument("-o", "--output", type=Path, help="write every file of the sheet there")
    carried = commands.add_parser(
        "solids", parents=[shared], help="what settlers and filters catch, where solids end"
    )
    carried.add_argument(
        "--days", action="store_true", help="day by day instead, with nobody cleaning"
    )
    timed = commands.add_parser("simulate", parents=[shared], help="the plan through time")
    timed.add_argument("--hours", type=float, default=24.0, help="how long; 24 if not said")
    timed.add_argument("--cut", help="when the power fails, such as 3:10")
    timed.add_argument("--for", dest="lasts", help="for how long, such as 2h; two hours")
    timed.add_argument(
        "--what-if",
        action="append",
        help="plug:2h, block:R4, turn:R4:30, dead:P1, idle:X1, stuck:X1 or rain:50mm, then "
        "@1:30 to say when. May be given again",
    )
    timed.add_argument("--dry-air", action="store_true", help="let the site’s evaporation count")
    timed.add_argument("--csv", type=Path, help="write every sample there")
    sizes = commands.add_parser("size", help="pumps, pipes and valves that would do")
    what = sizes.add_subparsers(dest="what", required=True)
    pump = what.add_parser("pump", parents=[shared], help="pumps that would do in one's place")
    pump.add_argument("--part", help="id of the pump; the first if not said")
    pipe = what.add_parser("pipe", parents=[shared], help="what each bore would do in a run")
    pipe.add_argument("--part", help="id of the run; the first if not said")
    what.add_parser("valves", parents=[shared], help="valve settings for the wanted flows")
    siphon = what.add_parser("siphon", parents=[shared], help="siphons that would do for a bed")
    siphon.add_argument("--part", help="id of the siphon; the first if not said")
    siphon.add_argument("--inflow", help="such as 700L/h; what the bed gets if not said")
    timer = what.add_parser("timer", parents=[shared], help="minutes and holes for a timed bed")
    timer.add_argument("--part", help="id of the standpipe; the first if not said")
    timer.add_argument("--inflow", help="such as 900L/h; what the bed gets if not said")
    timer.add_argument("--fill", default="10min", help="fill within; 10min if not said")
    timer.add_argument("--dry", default="15min", help="left dry; 15min if not said")
    timer.add_argument("--round", default="1h", help="from start to start; 1h if not said")
    settles = what.add_parser("settler", parents=[shared], help="containers that would do as one")
    settles.add_argument("--part", help="id of the settler; the first if not said")
    settles.add_argument(
        "--order",
        choices=("catch", "height", "size", "price"),
        default="catch",
        help="what catches most first, or the lowest, the smallest, or the cheapest by --prices",
    )
    for command in (built, settles):
        command.add_argument("--prices", type=Path, help="a price list as CSV")
    commands.add_parser(
        _VERB, parents=[shared], help="power cuts, what may fail, what the sump must hold"
    )
    _add_others(commands)
    return parser


def _add_others(commands: Any) -> None:
    """Commands that take something else than a plan, or give no figures."""
    drawn = commands.add_parser("draw", help="the side view as an SVG picture")
    drawn.add_argument("plan", type=Path, help="a plan file")
    drawn.add_argument("-o", "--output", type=Path, help="write it there; printed if not said")
    drawn.add_argument("--units", choices=SYSTEMS, help="instead of the plan's own")
    wanted = commands.add_parser("design", help="a sized plan from a brief")
    wanted.add_argument("brief", type=Path, help="a brief file")
    wanted.add_argument("-o", "--output", type=Path, help="write the first plan there")
    wanted.add_argument("--json", action="store_true", help="print JSON, in SI units")
    wanted.add_argument("--units", choices=SYSTEMS, help="instead of the brief's own")
    described = commands.add_parser("schema", help="JSON Schema of the plan file")
    described.add_argument("--brief", action="store_true", help="of the brief file instead")


def _complain(*words: object) -> int:
    print(*words, file=sys.stderr, sep="")
    return _BAD_INPUT


def _load(path: Path) -> Plan:
    try:
        return load_plan(path.read_bytes())
    except OSError as error:
        _complain(path, ": ", error.strerror)
    except BadPlan as bad:
        for fault in bad.faults:
            _complain(path, ": ", fault.path, ": ", fault.sentence)
    raise SystemExit(_BAD_INPUT)


def _part(plan: Plan, group: str, id_: str | None) -> Any:
    parts = getattr(plan, group)
    found = next((p for p in parts if id_ in (None, p.id)), None)
    if found is None:
        there = ", ".join(p.id for p in parts) or "none"
        raise SystemExit(_complain(f"This plan has no such part among its {group}: {there}."))
    return found


def _sized(asked: argparse.Namespace, found: Assessment, units: System) -> str | dict[str, Any]:
    evaluation = found.evaluation
    if asked.what == "valves":
        return size.valves_data(evaluation) if asked.json else size.valves_text(evaluation, units)
    if asked.what == "pump":
        pump: Pump = _part(evaluation.plan, "pumps", asked.part)
        if asked.json:
            return size.pump_data(evaluation, pump)
        return size.pump_text(evaluation, pump, units)
    if asked.what == "siphon":
        design = _siphon(asked, found)
        return (
            size_siphon.siphon_data(design)
            if asked.json
            else size_siphon.siphon_text(design, units)
        )
    if asked.what == "settler":
        vessel = _settler(evaluation.plan, asked.part)
        if asked.json:
            return settler.as_data(evaluation, vessel, asked.order, _prices(asked.prices))
        return settler.as_text(evaluation, vessel, units, asked.order, _prices(asked.prices))
    if asked.what == "timer":
        timed = _timer(asked, found)
        return size_siphon.timer_data(timed) if asked.json else size_siphon.timer_text(timed, units)
    run: Run = _part(evaluation.plan, "runs", asked.part)
    if asked.json:
        return size.pipe_data(evaluation, run)
    return size.pipe_text(evaluation, run, units)


def _stock(text: str) -> float:
    try:
        length = read(text, "length")
    except UnreadableQuantity as error:
        raise SystemExit(_complain(error)) from None
    if not STOCK[0] <= length <= STOCK[1]:
        raise SystemExit(_complain("Pipe is sold in lengths of 0.5 m to 12 m."))
    return length


def _prices(path: Path | None) -> PriceList:
    """Prices of a file; rows that cannot be read are told, and end the command."""
    if path is None:
        return PriceList.empty()
    try:
        found = read_prices(path.read_bytes())
    except OSError as error:
        raise SystemExit(_complain(path, ": ", error.strerror)) from None
    for wrong in found.errors:
        _complain(path, f": row {wrong.row}: " if wrong.row else ": ", wrong.sentence)
    if found.errors:
        raise SystemExit(_BAD_INPUT)
    return PriceList("", {p.item.key: p for p in found.prices})


def _flow(text: str) -> float:
    try:
        return read(text, "flow")
    except UnreadableQuantity as error:
        raise SystemExit(_complain(error)) from None


def _settler(plan: Plan, id_: str | None) -> Vessel:
    vessels = [v for v in plan.vessels if v.settler is not None or v.job == "settler"]
    found = next((v for v in vessels if id_ in (None, v.id)), None)
    if found is None:
        there = ", ".join(v.id for v in vessels) or "none"
        raise SystemExit(_complain(f"This plan has no such settler: {there}."))
    return found


def _siphon(asked: argparse.Namespace, found: Assessment) -> SiphonDesign:
    plan = found.evaluation.plan
    siphon: Siphon = _part(plan, "siphons", asked.part)
    bed, tail = found.evaluation.bed(siphon.stands_in), plan.run_of(siphon)
    if bed is None or tail is None:
        raise SystemExit(_complain(f"{siphon.name} has no tail yet; draw a run from its foot."))
    flows = (bed.cycle.start_inflow, bed.cycle.break_inflow)
    least, most = (_flow(asked.inflow),) * 2 if asked.inflow else flows
    return design_siphon(ask_of_bed(bed.loop.built, tail, least, most))


def _timer(asked: argparse.Namespace, found: Assessment) -> TimerDesign:
    plan = found.evaluation.plan
    pipe: Outlet = _part(plan, "outlets", asked.part)
    holes = pipe.drilled
    if holes is None or holes.top is None:
        raise SystemExit(_complain(f"{pipe.name} is no standpipe; name one with --part."))
    inflow = found.evaluation.balance.inflow(pipe.stands_in)
    try:
        fill, dry, turn = (seconds(t) for t in (asked.fill, asked.dry, asked.round))
    except BadScenarioStep as error:
        raise SystemExit(_complain(error)) from None
    ask = TimerAsk(
        _flow(asked.inflow) if asked.inflow else inflow, holes.top, holes.height, fill, dry, turn
    )
    return design_timer(storage_of(plan, plan.vessel(pipe.stands_in)), ask)


def _followed(asked: argparse.Namespace, plan: Plan) -> SimulationResult:
    typed = list(asked.what_if or [])
    if asked.cut is not None:
        typed.append(f"plug:{asked.lasts or '2h'}@{asked.cut}")
    steps = [step_of(plan, text) for text in typed]
    return follow(plan, asked.hours, steps, weather_of(plan, asked.dry_air))


def _simulate(asked: argparse.Namespace, plan: Plan) -> int:
    try:
        found = _followed(asked, plan)
        if asked.csv is not None:
            asked.csv.write_text(through.as_csv(found))
    except (NotSolved, NotSimulated, EditRefused, BadScenarioStep, OSError) as error:
        return _complain(asked.plan, ": ", error)
    if asked.json:
        print(json.dumps(through.as_data(found), indent=2, allow_nan=False))
    else:
        print(through.as_text(found, asked.units or plan.site.units))
    return _SOUND


def _draw(asked: argparse.Namespace, plan: Plan) -> int:
    try:
        picture = draw.as_svg(assess(plan), asked.units or plan.site.units)
        if asked.output is not None:
            asked.output.write_text(picture, encoding="utf-8")
    except (NotSolved, NotSimulated, OSError) as error:
        return _complain(asked.plan, ": ", error)
    if asked.output is None:
        print(picture, end="")
    return _SOUND


def _answer(asked: argparse.Namespace, found: Assessment, units: System) -> str | dict[str, Any]:
    if asked.command == "size":
        return _sized(asked, found, units)
    if asked.command == _VERB:
        dynamic = assess_dynamic(found)
        return resilience.as_data(dynamic) if asked.json else resilience.as_text(dynamic, units)
    if asked.command == "water":
        if asked.json:
            return water.as_data(found.evaluation) or {}
        return water.as_text(found.evaluation, units)
    if asked.command == "power":
        own = found.evaluation
        return power.as_data(own) if asked.json else power.as_text(own, units)
    if asked.command == "build":
        own, stock, prices = found.evaluation, _stock(asked.stock), _prices(asked.prices)
        problems = build.acknowledged_problems(found, asked.acknowledge or (), units)
        if asked.output is not None:
            return build.into_folder(own, stock, prices, units, asked.output, problems)
        if asked.json:
            return build.as_data(own, stock, prices)
        return build.as_text(own, stock, prices, units)
    if asked.command == "solids":
        own = found.evaluation
        if asked.days:
            return solids.days_as_data(own) if asked.json else solids.days_as_text(own)
        return solids.as_data(own) if asked.json else solids.as_text(own, units)
    if asked.command == "check":
        return check.as_data(found) if asked.json else check.as_text(found, units)
    return balance.as_data(found) if asked.json else balance.as_text(found, units)


def main(arguments: Sequence[str] | None = None) -> int:
    """Run the command.

    Parameters
    ----------
    arguments : sequence of str, optional
        Words after the command's name; those of the process if none

    Returns
    -------
    int
        Exit status
    """
    try:
        words = list(sys.argv[1:] if arguments is None else arguments)
        status = _run(_arguments().parse_args(_in_todays_words(words)))
        sys.stdout.flush()
    except BrokenPipeError:
        # Whoever reads, such as ``head``, has seen enough. Python would complain again on exit.
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        return _UNREAD
    return status


def _in_todays_words(words: list[str]) -> list[str]:
    """A command under the name it has now; the old one is told, and goes with the next version."""
    if words[:1] != [_OLD_VERB]:
        return words
    _complain(f"“{_OLD_VERB}” is called “{_VERB}” now, and goes with the next version.")
    return [_VERB, *words[1:]]


def _run(asked: argparse.Namespace) -> int:
    if asked.command == "schema":
        print(json.dumps(brief.brief_schema() if asked.brief else schema(), indent=2))
        return _SOUND
    if asked.command == "design":
        status, text, wrong = brief.run(asked.brief, asked.output, asked.json, asked.units)
        print(*text, sep="\n", end="\n" if text else "")
        for words in wrong:
            _complain(words)
        return status
    plan = _load(asked.plan)
    if asked.command == "simulate":
        return _simulate(asked, plan)
    if asked.command == "draw":
        return _draw(asked, plan)
    try:
        found = assess(plan)
        answer = _answer(asked, found, asked.units or plan.site.units)
    except (NotSolved, NotSimulated) as error:
        return _complain(asked.plan, ": ", error)
    except build.NotAcknowledged as error:
        _complain(asked.plan, ": ", error)
        return _FINDINGS
    except OSError as error:
        return _complain(error.filename, ": ", error.strerror)
    if isinstance(answer, str):
        print(answer)
    else:
        print(json.dumps(answer, indent=2, ensure_ascii=False, allow_nan=False))
    return _SOUND if found.is_sound or asked.command != "check" else _FINDINGS


if __name__ == "__main__":
    sys.exit(main())
