"""``bathys size``: pumps, pipes and valves that would do."""

from typing import Any

from bathys.commands.tables import table
from bathys.evaluation import Evaluation
from bathys.parts.pumps import sample_pumps
from bathys.plan import Plan
from bathys.plan.pipes import Run
from bathys.plan.pumps import Pump
from bathys.sizing import (
    BASIS,
    MODES,
    Mode,
    PumpSearch,
    balance_valves,
    bore_options,
    modes_for,
    search_pumps,
)
from bathys.units import System, fill_sentence, show

__all__ = [
    "pipe_data",
    "pipe_text",
    "pump_data",
    "pump_text",
    "valves_data",
    "valves_text",
]


def pump_text(found: Evaluation, pump: Pump, units: System) -> str:
    """Pumps of the catalogue that would do in a pump's place.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    pump : Pump
        The pump
    units : System
        The reader's units

    Returns
    -------
    str
        Lines for a terminal
    """
    search = search_pumps(found.balance, pump, sample_pumps())
    currency = found.plan.site.currency
    rows = [
        (
            c.pump.name,
            show(c.pump.power, "power", units),
            show(c.spare, "head", units),
            show(c.energy_year, "energy", units),
            show(c.cost_year, "price", units) + f" {currency}",
        )
        for c in search.fitting
    ]
    lines = [
        f"Asked for: {show(search.demand.flow, 'flow', units)} at "
        f"{show(search.demand.head, 'head', units)}: {BASIS[search.demand.basis]} and a fifth "
        f"more, through pipes a season old; {search.demand.neediest} needs most head.",
        f"{search.count} of {len(sample_pumps())} do.",
        "",
        *table(("pump", "power", "head to spare", "a year", "cost a year"), rows),
    ]
    if search.nearest is not None:
        lines += [
            "",
            f"Nearest miss: {search.nearest.pump.name}, "
            f"{show(search.missing_head, 'head', units)} short. It would do with: "
            f"{'; or '.join(_cures(search, found.plan, units))}.",
        ]
    return "\n".join(lines)


def _cures(search: PumpSearch, plan: Plan, units: System) -> list[str]:
    return [
        fill_sentence(c, {"less": search.missing_head}, units, plan.names) for c in search.cures
    ]


def pump_data(found: Evaluation, pump: Pump) -> dict[str, Any]:
    """The same as data, in SI units.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    pump : Pump
        The pump

    Returns
    -------
    dict of str to object
        Figures in SI units, by name
    """
    search = search_pumps(found.balance, pump, sample_pumps())
    nearest = search.nearest
    return {
        "flow": search.demand.flow,
        "head": search.demand.head,
        "basis": search.demand.basis,
        "neediest": search.demand.neediest,
        "count": search.count,
        "pumps": [
            {
                "name": c.pump.name,
                "max_flow": c.pump.max_flow,
                "max_head": c.pump.max_head,
                "exponent": c.pump.exponent,
                "power": c.pump.power,
                "spare_head": c.spare,
                "energy_year": c.energy_year,
                "cost_year": c.cost_year,
            }
            for c in search.fitting
        ],
        "nearest_miss": nearest
        and {
            "name": nearest.pump.name,
            "short": search.missing_head,
            "cures": _cures(search, found.plan, "metric"),
        },
    }


def pipe_text(found: Evaluation, run: Run, units: System) -> str:
    """What each bore would do in a run.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    run : Run
        The run
    units : System
        The reader's units

    Returns
    -------
    str
        Lines for a terminal
    """
    rows = [
        (
            o.size.nominal,
            show(o.size.bore, "length", units),
            show(o.flow, "flow", units),
            show(o.velocity, "speed", units),
            show(o.loss, "length", units),
            show(o.half_flow, "flow", units),
            " ".join(
                w
                for w, said in (("now", o.is_now), ("smallest that is enough", o.is_advised))
                if said
            ),
        )
        for o in bore_options(found.balance, run)
    ]
    head = (run.id, "bore", "flow", "velocity", "head lost", "as a drain", "")
    return "\n".join(table(head, rows))


def pipe_data(found: Evaluation, run: Run) -> dict[str, Any]:
    """The same as data, in SI units.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    run : Run
        The run

    Returns
    -------
    dict of str to object
        Figures in SI units, by name
    """
    return {
        "run": run.id,
        "bores": [
            {
                "standard": o.size.standard,
                "nominal": o.size.nominal,
                "bore": o.size.bore,
                "flow": o.flow,
                "velocity": o.velocity,
                "loss": o.loss,
                "energy_year": o.energy_year,
                "half_flow": o.half_flow,
                "is_now": o.is_now,
                "is_advised": o.is_advised,
            }
            for o in bore_options(found.balance, run)
        ],
    }


def valves_text(found: Evaluation, units: System) -> str:
    """Valve settings for the wanted flows, in every way they can be met.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    units : System
        The reader's units

    Returns
    -------
    str
        Lines for a terminal
    """
    lines: list[str] = []
    for mode in modes_for(found.balance):
        settings = balance_valves(found.balance, mode)
        lines += [f"{mode}: {MODES[mode]}"]
        if settings.refusal:
            lines += [
                "  "
                + fill_sentence(settings.refusal, settings.figures or {}, units, found.plan.names),
                "",
            ]
            continue
        rows = [
            (
                "  " + r.run,
                show(r.wanted, "flow", units),
                show(r.flow, "flow", units),
                show(r.angle, "angle", units),
                "" if r.has_valve else "fit a valve",
            )
            for r in settings.rows
        ]
        lines += table(("", "wanted", "gets", "handle", ""), rows)
        if settings.dial is not None:
            lines.append(f"  pump at {show(settings.dial, 'percent', units)}")
        if settings.note:
            lines += [
                "  "
                + fill_sentence(settings.note, settings.figures or {}, units, found.plan.names),
                "",
            ]
            continue
        lines += [f"  valves burn {show(settings.burnt, 'power', units)}", ""]
    return "\n".join(lines).rstrip()


def valves_data(found: Evaluation) -> dict[str, Any]:
    """The same as data, in SI units.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    dict of str to object
        Figures in SI units, by name
    """
    return {"modes": [_mode_data(found, mode) for mode in modes_for(found.balance)]}


def _mode_data(found: Evaluation, mode: Mode) -> dict[str, Any]:
    settings, names = balance_valves(found.balance, mode), found.plan.names
    return {
        "mode": mode,
        "refusal": fill_sentence(settings.refusal, settings.figures or {}, "metric", names),
        "share": settings.share,
        "dial": settings.dial,
        "power_burnt": settings.burnt,
        "valves": [
            {
                "run": r.run,
                "wanted": r.wanted,
                "flow": r.flow,
                "angle": r.angle,
                "head": r.spare,
                "has_valve": r.has_valve,
            }
            for r in settings.rows
        ],
    }
