"""What may be other than the plan says, and how surely that is known before any reading."""

import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from bathys.edits import Edit
from bathys.evaluation import Evaluation
from bathys.plan.model import Plan
from bathys.plan.naming import named
from bathys.quality.water import water_of

__all__ = ["METER", "Parameter", "as_built", "parameters_of", "with_values"]

_FILM, _FILM_SPREAD = 0.5e-3, 0.7  # of a season: median [m], and spread of its logarithm (assumed)
_SEASON = 90.0  # days in which a film grows so thick (assumed)
_THINNEST = 0.02e-3  # median of the first days (assumed) [m]
_STRAINER, _STRAINER_SPREAD = 2.0, 0.8  # K: median, and spread of its logarithm (assumed)
_WEAR_SPREAD = 0.03  # (assumed)
_VALVE_SPREAD = 3.0  # of a lever's angle (assumed) [°]
_VOID_SPREAD = 0.05  # roots, and media other than the table's (assumed)
_START_SPREAD = 0.25  # of the logarithm of the Froude number that starts a siphon (assumed)
_BREAK_SPREAD = 0.15  # of the share of its flow at which it stops (assumed)
_DRIES_SPREAD = 0.4  # of the logarithm of what dries off (assumed)
_METER_SPREAD = 0.02  # of what a plug meter shows of the watts (common practice)
# Of the logarithm: published rates differ threefold (memory), and how much surface there is and how
# much ammonia comes of the feed are known no better (assumed).
_BACTERIA_SPREAD = 0.7
_FARTHEST = 3.5  # spreads from its median that a parameter may lie
_FINEST = 4  # figures that are kept of a value

METER = "meter"
"""Key of what a plug meter shows of the watts that are drawn."""
_TOLD: tuple[tuple[str, str], ...] = (("evaporation_from", "told"),)

Field = tuple[str, str, str]
"""Group, id and path of a field in a plan; of the site, whose id is empty."""


@dataclass(frozen=True, slots=True)
class Parameter:
    """A number that may be other than the plan says.

    Attributes
    ----------
    key : str
        Its name, such as ``film.pumped`` or ``start.X1``
    part : str
        Id of the part it belongs to; empty for many
    label : str
        What it is, for people, with slots for names of parts
    quantity : str
        What it measures
    median, spread : float
        Before anything is measured, in SI; the spread is that of its logarithm where ``is_log``
    is_log : bool
        Whether its logarithm is normal
    low, high : float
        Beyond which it has no meaning, in SI
    fields : tuple of (str, str, str)
        Fields of the plan that it stands in
    doubt_path : str
        Path beside it that holds its spread, in SI; empty for none
    told_by : str
        Kind of the readings that alone tell it, so that it moves only where there is one; empty
        for what many tell
    grows : bool
        Whether it grows with time until it is cleaned
    """

    key: str
    part: str
    label: str
    quantity: str
    median: float
    spread: float
    is_log: bool
    low: float
    high: float
    fields: tuple[Field, ...]
    doubt_path: str = ""
    told_by: str = ""
    grows: bool = False

    def value(self, z: float) -> float:
        """The value so many spreads from its median [SI]."""
        away = self.spread * max(-_FARTHEST, min(z, _FARTHEST))
        value = self.median * math.exp(away) if self.is_log else self.median + away
        return min(max(value, self.low), self.high)


def parameters_of(found: Evaluation, days: float = _SEASON) -> tuple[Parameter, ...]:
    """All that a fit may move.

    Parameters
    ----------
    found : Evaluation
        The numbers of the plan
    days : float
        How long the layout has run since its pipes were clean, [d]

    Returns
    -------
    tuple of Parameter
        Film by line group, strainer and wear by pump, lever of each valve, void of each bed with
        a siphon, start and stop of each siphon, what dries off, what the plug meter shows, and how
        fast bacteria work
    """
    plan = found.plan
    return (
        *_films(found, days),
        *_pumps(plan),
        *_valves(plan),
        *_voids(found),
        *_siphons(found),
        *_whole(found),
    )


def _films(found: Evaluation, days: float) -> Iterator[Parameter]:
    pressure = set(found.balance.layout.pressure)
    groups = {
        "pumped": ("film in pumped pipes", [r for r in found.plan.runs if r.id in pressure]),
        "drains": ("film in drains", [r for r in found.plan.runs if r.id not in pressure]),
    }
    median = max(_FILM * min(days / _SEASON, 1.0), _THINNEST)
    for key, (label, runs) in groups.items():
        if runs:
            fields = tuple(("runs", run.id, "film") for run in runs)
            yield Parameter(
                f"film.{key}", "", label, "length", median, _FILM_SPREAD, True, 0.0, 0.01, fields,
                grows=True,
            )  # fmt: skip


def _pumps(plan: Plan) -> Iterator[Parameter]:
    for pump in plan.pumps:
        if not hasattr(pump, "wear"):
            continue
        id_, name = pump.id, named(pump)
        yield Parameter(
            f"strainer.{id_}", id_, f"strainer of “{name}”", "ratio", _STRAINER, _STRAINER_SPREAD,
            True, 0.0, 1000.0, (("pumps", id_, "strainer_loss"),), grows=True,
        )  # fmt: skip
        yield Parameter(
            f"wear.{id_}", id_, f"what “{name}” gives of its curve", "percent", pump.wear,
            _WEAR_SPREAD, False, 0.3, 1.2, (("pumps", id_, "wear"),),
        )  # fmt: skip


def _valves(plan: Plan) -> Iterator[Parameter]:
    for run in plan.runs:
        if run.valve is None or run.valve.SETTING != "angle" or run.valve_clock is not None:
            continue
        yield Parameter(
            f"valve.{run.id}", run.id, f"lever of the valve in “{named(run)}”", "angle",
            run.valve.turned, _VALVE_SPREAD, False, 0.0, 89.0, (("runs", run.id, "valve.angle"),),
        )  # fmt: skip


def _voids(found: Evaluation) -> Iterator[Parameter]:
    for bed in found.beds:
        for id_ in bed.linked:
            vessel = found.plan.vessel(id_)
            if vessel.media is not None:
                yield Parameter(
                    f"void.{id_}", id_, f"open share of the media in “{named(vessel)}”", "percent",
                    vessel.media.void_fraction, _VOID_SPREAD, False, 0.15, 0.8,
                    (("vessels", id_, "media.void_fraction"),),
                )  # fmt: skip


def _siphons(found: Evaluation) -> Iterator[Parameter]:
    for bed in found.beds:
        siphon, id_ = bed.siphon, bed.siphon.id
        froude, share = siphon.start_froude.value, siphon.break_share.value
        if hasattr(siphon, "starts_at"):
            yield Parameter(
                f"start.{id_}", id_, f"start of “{named(siphon)}”", "ratio", froude,
                _START_SPREAD, True, 0.05, 1.5, (("siphons", id_, "starts_at"),),
                "starts_at_doubt",
            )  # fmt: skip
            yield Parameter(
                f"break.{id_}", id_, f"stop of “{named(siphon)}”", "ratio", share,
                _BREAK_SPREAD, False, 0.1, 1.0, (("siphons", id_, "breaks_at"),),
                "breaks_at_doubt",
            )  # fmt: skip


def _whole(found: Evaluation) -> Iterator[Parameter]:
    """What is of the whole layout."""
    plan, site = found.plan, found.plan.site
    if site.dries > 0.0:
        yield Parameter(
            "evaporation", "", "what dries off open water in a day", "length", site.dries,
            _DRIES_SPREAD, True, 0.0, 0.05, (("site", "", "evaporation"),), told_by="dries",
        )  # fmt: skip
    if plan.pumps:
        yield Parameter(
            METER, "", "what the plug meter shows of the watts", "percent", 1.0, _METER_SPREAD,
            False, 0.5, 1.5, (), told_by="watts",
        )  # fmt: skip
    if water_of(found) is not None:
        yield Parameter(
            "nitrification", "", "what bacteria do, of what is usual", "percent",
            site.nitrification, _BACTERIA_SPREAD, True, 0.05, 10.0,
            (("site", "", "nitrification"),), told_by="ammonia",
        )  # fmt: skip


def with_values(plan: Plan, values: Mapping[Field, float]) -> Plan:
    """A plan with other numbers, not checked anew: for thousands of trials.

    Parameters
    ----------
    plan : Plan
        The plan
    values : mapping of (str, str, str) to float
        By group, id and path, in SI

    Returns
    -------
    Plan
        The plan with them
    """
    by_group: dict[str, dict[str, list[tuple[str, float]]]] = {}
    for (group, id_, path), value in values.items():
        by_group.setdefault(group, {}).setdefault(id_, []).append((path, value))
    of_site = by_group.pop("site", {})
    update: dict[str, Any] = {
        group: tuple(_with(part, ids.get(part.id, ())) for part in getattr(plan, group))
        for group, ids in by_group.items()
    }
    for rows in of_site.values():
        # What was measured counts, and not what the climate would make of it.
        update["site"] = _with(plan.site, [*rows, *(_TOLD if _dries(rows) else ())])
    return plan.model_copy(update=update)


def _dries(rows: Sequence[tuple[str, Any]]) -> bool:
    return any(path == "evaporation" for path, _ in rows)


def _with(part: Any, values: Sequence[tuple[str, Any]]) -> Any:
    for path, value in values:
        first, _, rest = path.partition(".")
        inner = _with(getattr(part, first), [(rest, value)]) if rest else value
        part = part.model_copy(update={first: inner})
    return part


def as_built(
    parameters: Sequence[Parameter], values: Sequence[float], spreads: Sequence[float]
) -> tuple[Edit, ...]:
    """Edits that make a plan as it was built.

    Parameters
    ----------
    parameters : sequence of Parameter
        Those that are taken over
    values, spreads : sequence of float
        What each was fitted to, and one spread of it, in SI

    Returns
    -------
    tuple of Edit
        Rounded to four figures
    """
    edits = []
    for parameter, value, spread in zip(parameters, values, spreads, strict=True):
        for group, id_, path in parameter.fields:
            place = f"{group}.{id_}" if id_ else group
            edits.append(Edit(f"{place}.{path}", _rounded(value)))
            edits += [Edit(f"{group}.{p}", v) for p, v in _TOLD if path == "evaporation"]
            if parameter.doubt_path:
                doubt = min(max(_rounded(spread), 1e-4), 0.5)
                edits.append(Edit(f"{group}.{id_}.{parameter.doubt_path}", doubt))
    return tuple(edits)


def _rounded(value: float) -> float:
    return float(f"{value:.{_FINEST}g}")
