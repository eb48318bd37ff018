"""Answers to a brief as pages show them."""

from collections.abc import Mapping, Sequence
from typing import Any

from bathys.design import AIMS, LAYOUTS
from bathys.drawing import draw_side_view
from bathys.drawing.scatter import scatter_chart
from bathys.drawing.stations import stations_of
from bathys.pipeline import Assessment, explain
from bathys.plan import Plan, plan_from_data
from bathys.units import System, fill_sentence, show
from bathys_web.plans.pages import shown_figure
from bathys_web.plans.storing import assessment_of_plan

__all__ = ["answers_told", "found_so_far", "reasons_told", "tradeoffs_told"]

_DOT, _WIDER = 6.0, 5.0  # a dot of the chart, and how much wider the dearest is [px]
_BOXES = {
    "dig": "length",
    "highest": "length",
    "fish": "mass",
    "room_length": "length",
    "room_width": "length",
    "most_watts": "power",
    "most_load": "pressure_load",
}
_WORDS = {
    "dig": "may be dug in",
    "highest": "highest rim",
    "fish": "fish",
    "room_length": "length of the room",
    "room_width": "width of the room",
    "most_watts": "watts at most",
    "most_load": "load on the ground at most",
    "tank": "fish tanks",
    "beds": "grow beds",
    "rafts": "rafts",
    "side_tanks": "side tanks",
}


def answers_told(result: Mapping[str, Any], units: System) -> dict[str, Any]:
    """Answers to a brief in words.

    Parameters
    ----------
    result : mapping of str to object
        From the computation
    units : System
        The reader's units

    Returns
    -------
    dict of str to object
        For the page: ``cards``, ``tried`` layouts or what is ``refused``
    """
    if "layouts" in result:
        return {"tried": [_layout(row, units) for row in result["layouts"]]}
    if "refused" in result:
        return {"refused": _refusal(result["refused"], units)}
    cards = [_card(n, row, units) for n, row in enumerate(result["answers"])]
    missing = [AIMS[aim] for aim in result["missing"]]
    return {"cards": cards, "is_one": len(cards) == 1, "missing": " and ".join(missing)}


def found_so_far(result: Mapping[str, Any], units: System) -> list[dict[str, str]]:
    """What a search that still goes on has found.

    Parameters
    ----------
    result : mapping of str to object
        As it is shown by the computation
    units : System
        The reader's units

    Returns
    -------
    list of dict of str to str
        What each plan is the best for, or its layout, and its power
    """
    if "layouts" in result:
        rows = [(LAYOUTS[r["layout"]].name, r["answer"]) for r in result["layouts"] if r["answer"]]
    else:
        rows = [(" and ".join(AIMS[aim] for aim in r["aims"]), r) for r in result["answers"]]
    return [{"what": what, "watts": show(row["watts"], "power", units)} for what, row in rows]


def _refusal(refused: dict[str, Any], units: System) -> dict[str, Any]:
    frees = [_change(field, value, units) for field, value in refused["frees"].items()]
    return {
        "wish": refused["wish"],
        "words": fill_sentence(refused["sentence"], refused["figures"], units, {}),
        "frees": frees,
        "boxes": [change["box"] for change in frees],
    }


def _change(field: str, value: Any, units: System) -> dict[str, str]:
    """A change of the brief in words, and the box it belongs to."""
    if field in _BOXES:
        told = show(value, _BOXES[field], units).replace(",", "")
        return {"box": field, "typed": told, "words": f"{_WORDS[field]}: {told}"}
    if field == "layout":
        return {"box": field, "typed": value, "words": f"layout: {LAYOUTS[value].name.lower()}"}
    if field == "budget":
        return {"box": field, "typed": f"{value:.0f}", "words": f"budget: {value:.0f}"}
    if field == "own_pump":
        return {"box": field, "typed": "", "words": "a pump is chosen for you"}
    count = str(value["count"])
    return {"box": f"{field}_count", "typed": count, "words": f"{_WORDS[field]}: {count}"}


def _layout(row: dict[str, Any], units: System) -> dict[str, Any]:
    refused, answer = row["refused"], row["answer"]
    return {
        "layout": LAYOUTS[row["layout"]],
        "refused": _refusal(refused, units)["words"] if refused else "",
        "card": _card(0, answer, units) if answer else None,
    }


def _card(number: int, row: dict[str, Any], units: System) -> dict[str, Any]:
    plan = plan_from_data(row["plan"])
    found = assessment_of_plan(plan)
    return {
        "number": number,
        "title": " and ".join(AIMS[aim] for aim in row["aims"]),
        "scene": draw_side_view(found.evaluation, stations_of(plan), units),
        "figures": [*_figures(plan, found, units), *_measures(row, units)],
        "warnings": [fill_sentence(s, f, units, plan.names) for s, f in row["warnings"]],
        "reasons": [_reason(reason, plan, units) for reason in row["reasons"]],
    }


def _reason(reason: Mapping[str, Any], plan: Plan, units: System) -> dict[str, str]:
    what = str(reason["what"])
    return {
        "what": f"{what[:1].upper()}{what[1:]}",
        "words": fill_sentence(reason["sentence"], reason["figures"], units, plan.names),
    }


def _measures(row: Mapping[str, Any], units: System) -> list[tuple[str, str]]:
    told = [("Power with air", show(row["watts"], "power", units))]
    told += [("Least to spare", f"{100.0 * row['spare']:.0f} %")]
    if row["cost"]:
        total, unknown = row["cost"]
        more = f", without {unknown} things that have no price" if unknown else ""
        told.append(("To buy", f"{total:.2f}{more}"))
    return told


def tradeoffs_told(result: Mapping[str, Any], units: System) -> dict[str, Any]:
    """All plans that were tried, as a chart and a table.

    Parameters
    ----------
    result : mapping of str to object
        From the computation
    units : System
        The reader's units

    Returns
    -------
    dict of str to object
        For the page: ``rows``, and the ``chart`` where there are any
    """
    rows = [_tradeoff(number, row, units) for number, row in enumerate(result["answers"])]
    if not rows:
        return {"rows": []}
    chart = scatter_chart([(row["watts"], 100.0 * row["spare"]) for row in result["answers"]])
    sizes = _sizes([row["cost"][0] if row["cost"] else None for row in result["answers"]])
    spots = [
        {"spot": spot, "row": rows[spot.number], "size": sizes[spot.number]} for spot in chart.spots
    ]
    return {"rows": rows, "chart": chart, "spots": spots, "has_costs": any(r["cost"] for r in rows)}


def _sizes(costs: Sequence[float | None]) -> list[float]:
    """How wide each dot is, the dearest the widest; all alike without prices [px]."""
    known = [cost for cost in costs if cost is not None]
    low, high = min(known, default=0.0), max(known, default=0.0)
    return [
        _DOT if cost is None or high <= low else _DOT + _WIDER * (cost - low) / (high - low)
        for cost in costs
    ]


def _tradeoff(number: int, row: Mapping[str, Any], units: System) -> dict[str, Any]:
    plan = plan_from_data(row["plan"])
    sumps = [v.shape.capacity for v in plan.vessels if v.use.takes_up]
    return {
        "number": number,
        "letter": chr(ord("A") + number) if number < 26 else f"A{number - 25}",
        "watts": show(row["watts"], "power", units),
        "spare": f"{100.0 * row['spare']:.0f} %",
        "cost": f"{row['cost'][0]:.2f}" if row["cost"] else "",
        "pump": " + ".join(p.name for p in plan.pumps),
        "sump": show(sum(sumps), "volume", units) if sumps else "none",
        "is_beaten": row["is_beaten"],
    }


def reasons_told(
    reasons: Sequence[Mapping[str, Any]], found: Assessment, first: Plan, units: System
) -> list[dict[str, str]]:
    """Why each size of a plan was so, beside what it is now.

    Parameters
    ----------
    reasons : sequence of mapping
        As kept with the plan
    found : Assessment
        The plan as it is now
    first : Plan
        As it was sized
    units : System
        The reader's units

    Returns
    -------
    list of dict of str to str
        Of each reason its words, the part that is still there, the figure and its value now, and
        whether the part is as it was
    """
    plan, rows = found.evaluation.plan, []
    for reason in reasons:
        part, key = reason["part"], reason["figure"]
        is_there = part in plan.names
        figure = explain(found, key) if key and is_there else None
        same = is_there and part in first.names and plan.part(part) == first.part(part)
        rows.append(
            {
                **_reason(reason, first, units),
                "part": part if is_there else "",
                "figure": key if figure else "",
                "now": shown_figure(figure.figure, plan.names, units).value if figure else "",
                "since": "" if same else "changed since" if is_there else "taken out since",
            }
        )
    return rows


def _figures(plan: Plan, found: Assessment, units: System) -> list[tuple[str, str]]:
    shown = [shown_figure(figure, plan.names, units) for figure in found.headlines]
    rows = [(figure.label, figure.value) for figure in shown]
    highest = max(v.floor_height + v.shape.height for v in plan.vessels)
    dug = sum(-min(v.floor_height, 0.0) * v.shape.footprint for v in plan.vessels)
    return [
        *rows,
        ("Highest rim", show(highest, "length", units)),
        ("To be dug out", show(dug, "volume", units) if dug > 0.0 else "nothing"),
    ]
