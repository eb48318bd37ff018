"""The tables of a build sheet, in the order in which a builder needs them."""

from bathys.build import (
    FLOOR,
    KERF,
    Stock,
    bases_of,
    cut_list,
    drilled_of,
    holes_of,
    marks_of,
    pipe_pieces,
    readings_of,
)
from bathys.documents.buying import alternatives, shopping
from bathys.documents.making import covers, lined, rafts, sockets, stands, totes
from bathys.documents.tables import Amount, Cell, Table, length_cell, named_in
from bathys.evaluation import Evaluation, full_mass
from bathys.ground import placed
from bathys.kinds import facet
from bathys.network.runs import start_height
from bathys.parts.wall_fittings import WALL_FITTINGS
from bathys.physics import GRAVITY
from bathys.routine import jobs_of
from bathys.shelf import PriceList, pipe_item
from bathys.units import System, fill_sentence

__all__ = ["SIDE_WORDS", "build_tables"]

SIDE_WORDS = {
    "near": "near side",
    "right": "right side",
    "far": "far side",
    "left": "left side",
    FLOOR: "floor",
}
"""Sides of a vessel, in words."""
_READINGS = {
    "bucket": ("a bucket of 10 L fills in", "time"),
    "cycle": ("from start to start of its siphon", "time"),
    "low": ("low water over the floor", "length"),
    "high": ("high water over the floor", "length"),
    "cut": ("water with the pump off, over the floor", "length"),
    "watts": ("draws", "power"),
}


def build_tables(
    found: Evaluation, stock: float, prices: PriceList, units: System
) -> tuple[Table, ...]:
    """Every table of a plan's build sheet.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    stock : float
        Length in which pipe is sold, [m]
    prices : PriceList
        The builder's prices, and what is at hand
    units : System
        The reader's units, for what is sold by length or volume

    Returns
    -------
    tuple of Table
        Those with rows; every figure is that of the assessment

    Raises
    ------
    BadStock
        If nothing can be cut from such a length
    """
    tables = (
        _places(found),
        totes(found),
        lined(found),
        rafts(found),
        _bases(found),
        stands(found, units),
        _holes(found),
        _marks(found),
        covers(found),
        _siphons(found),
        _drilled(found),
        _pieces(found, stock, prices),
        _falls(found),
        _valves(found),
        sockets(found),
        shopping(found, stock, prices, units),
        alternatives(found, prices),
        _readings(found),
        _routine(found, units),
    )
    return tuple(t for t in tables if t.rows)


def _places(found: Evaluation) -> Table:
    places = placed(found.plan)
    rows = tuple(
        (
            named_in(found, id_),
            Amount(p.x, "length"),
            Amount(p.y, "length"),
            Amount(p.turned, "angle"),
        )
        for id_, p in places.items()
        if p.vessel.within is None
    )
    return Table(
        "places",
        "Where each vessel stands",
        ("Vessel", "Middle from the left", "Middle from the near edge", "Turned to the left"),
        rows if any(v.spot is not None for v in found.plan.vessels) else (),
        "String the layout out on the ground before any base is made.",
    )


def _bases(found: Evaluation) -> Table:
    rows = []
    for base in bases_of(found):
        result = found.vessels[base.vessel.id]
        how = "on a stand" if base.stands else "dug in" if base.is_dug_in else "on the ground"
        mass = full_mass(found, result)
        rows.append(
            (
                named_in(found, base.vessel.id),
                how,
                Amount(base.height, "length"),
                Amount(base.dug, "volume") if base.dug > 0.0 else None,
                Amount(result.rest_volume, "volume"),
                Amount(mass, "mass"),
                Amount(mass * GRAVITY / result.area, "pressure_load"),
            )
        )
    return Table(
        "bases",
        "Levels and bases, the lowest first",
        ("Vessel", "Stands", "Floor", "Earth to dig", "Water to fill in", "Full", "Load"),
        tuple(rows),
        f"Heights are of the inside floor over {found.plan.datum}. Level each to 5 mm. An engineer "
        "must check loads on a deck, a roof or a home-made stand. Ask where lines lie before you "
        "dig, and shore a pit that a person steps into.",
    )


def _holes(found: Evaluation) -> Table:
    holes = holes_of(found)
    rows = tuple(
        (
            named_in(found, hole.vessel.id),
            f"{hole.name}, {named_in(found, hole.run.id)}",
            f"{SIDE_WORDS[hole.side]}{'' if hole.is_chosen else ' *'}",
            Amount(hole.across, "length"),
            "in the floor" if hole.is_in_floor else Amount(hole.height, "length"),
            Amount(hole.over_datum, "length"),
            hole.run.bore.size.nominal if hole.run.bore.size is not None else "by its bore",
            f"{hole.by.name}{'' if hole.is_chosen else ' *'}",
            length_cell(hole.diameter),
        )
        for hole in holes
    )
    taken = "* Not chosen: the usual is taken. " if any(not h.is_chosen for h in holes) else ""
    used = [WALL_FITTINGS[kind] for kind in dict.fromkeys(h.fitting for h in holes)]
    return Table(
        "holes",
        "Holes in vessels: their middles",
        (
            "Vessel",
            "For",
            "Side",
            "From its left corner",
            "Over its floor",
            f"Over {found.plan.datum}",
            "Pipe",
            "Wall fitting",
            "Drill",
        ),
        rows,
        f"{taken}Sides are those of the ground plan before a vessel is turned, seen from outside. "
        "Round a round vessel, each is a quarter of its wall, measured along it. Hole sizes are "
        "usual ones: the size stamped on the fitting counts. Drill a scrap first. Leave one hole’s "
        "width to corners, ribs and other holes. "
        + " ".join(
            f"{fitting.name.capitalize()}: {fitting.tool}; {fitting.sealing}." for fitting in used
        ),
    )


def _marks(found: Evaluation) -> Table:
    rows = tuple(
        (
            named_in(found, row.vessel.id),
            length_cell(row.safe),
            Amount(row.low, "length"),
            Amount(row.high, "length"),
            Amount(row.at_rest, "length"),
            length_cell(row.sludge),
        )
        for row in marks_of(found)
    )
    return Table(
        "marks",
        "Marks to paint inside, over the floor",
        ("Vessel", "Never under", "Low water", "High water", "Power off", "Empty sludge at"),
        rows,
    )


def _siphons(found: Evaluation) -> Table:
    rows = []
    for part in found.plan.siphons:
        section = facet(part, "section")
        for name, height in section.heights(part):
            words = f"{name}, over the floor"
            rows.append((named_in(found, part.id), words, Amount(height, "length")))
        for name, value, quantity in section.sizes(part):
            rows.append((named_in(found, part.id), name, Amount(value, quantity)))
    return Table(
        "siphons",
        "Siphons: what each piece measures",
        ("Siphon", "Piece", "Measures"),
        tuple(rows),
        "Trim with water: turn the elbow at the end up if it trickles, down if it does not stop.",
    )


def _drilled(found: Evaluation) -> Table:
    rows: list[tuple[Cell, ...]] = []
    for pattern in drilled_of(found.plan):
        name = f"{named_in(found, pattern.part)}: {pattern.name}"
        if pattern.slots:
            width, height = pattern.slot_width, pattern.slot_height
            rows.append(
                (
                    name,
                    pattern.slots,
                    "slots, cut",
                    Amount(width, "length"),
                    Amount(height, "length"),
                    Amount(pattern.around / pattern.slots, "length"),
                )
            )
        rows += [
            (
                name,
                row.count,
                "holes, middles at",
                Amount(row.diameter, "length"),
                Amount(row.height, "length"),
                Amount(pattern.around / row.count, "length"),
            )
            for row in pattern.rows
        ]
    return Table(
        "drilled",
        "Holes and slots round a piece",
        ("In", "How many", "What", "Wide", "Height", "From middle to middle"),
        tuple(rows),
        "Templates at true scale follow for what is drilled round about.",
    )


def _pieces(found: Evaluation, stock: float, prices: PriceList) -> Table:
    rows: list[tuple[Cell, ...]] = []
    for need in pipe_pieces(found):
        if need.is_by_bore:
            rows += [
                (
                    f"pipe or hose, {need.bore * 1000.0:.0f} mm inside",
                    None,
                    p.name,
                    Amount(p.length, "length"),
                    None,
                )
                for p in need.pieces
            ]
            continue
        at_hand = prices.offcuts.get(pipe_item(need.standard, need.size).key, ())
        packing = cut_list(need.pieces, stock, KERF, at_hand)
        bars: list[tuple[Cell, Stock]] = list(enumerate(packing.stocks, start=1))
        bars = [(f"offcut {n}", bar) for n, bar in enumerate(packing.offcuts, start=1)] + bars
        for number, bar in bars:
            for place, piece in enumerate(bar.pieces):
                left = Amount(bar.left, "length") if place == len(bar.pieces) - 1 else None
                name = f"{need.size}, {need.standard}"
                rows.append((name, number, piece.name, Amount(piece.length, "length"), left))
    return Table(
        "cuts",
        "Pipe: what is cut from each length",
        ("Pipe", "Length no.", "Piece", "Cut", "Left over"),
        tuple(rows),
        f"Each cut takes {KERF * 1000.0:.0f} mm. What fittings take up is not taken off: fit each "
        "piece dry, then trim it. To a standpipe or a bell add what its fitting or cap takes. "
        "Gloves and goggles at the saw.",
    )


def _falls(found: Evaluation) -> Table:
    plan, rows = found.plan, []
    for run in plan.runs:
        end = plan.elevation(run.end)
        if found.runs[run.id].gravity is None or end is None:
            continue
        start = start_height(plan, run)
        rows.append(
            (
                named_in(found, run.id),
                Amount(start, "length"),
                Amount(end, "length"),
                Amount(start - end, "length"),
                Amount(run.level_length, "length"),
            )
        )
    return Table(
        "falls",
        "Drains: how far each falls from end to end",
        ("Drain", "Begins at", "Ends at", "Falls", "Over a length of"),
        tuple(rows),
        f"Heights are of the middle of the bore over {plan.datum}.",
    )


def _valves(found: Evaluation) -> Table:
    rows = tuple(
        (named_in(found, run.id), run.valve.CHOICE, run.valve.words)
        for run in found.plan.runs
        if run.valve is not None
    )
    return Table("valves", "Valves: how each is set", ("Run", "Valve", "Set"), rows)


def _readings(found: Evaluation) -> Table:
    rows = []
    for row in readings_of(found):
        words, quantity = _READINGS[row.what]
        rows.append(
            (
                named_in(found, row.part),
                words,
                Amount(row.expected, quantity),
                Amount(row.low, quantity),
                Amount(row.high, quantity),
                "",
            )
        )
    return Table(
        "readings",
        "First day: what to read",
        ("At", "What", "Planned", "As planned from", "to", "Read"),
        tuple(rows),
        "With water and no fish. Outside these limits, find out why before fish come.",
    )


_COMES_OF = {"load": "worked out", "told": "as planned", "practice": "common practice"}


def _routine(found: Evaluation, units: System) -> Table:
    return Table(
        "routine",
        "Routine, once it runs",
        ("What", "How", "Every", "How often comes of"),
        tuple(
            (
                job.title,
                fill_sentence(job.text, job.figures, units, {}),
                "day" if job.days == 1 else f"{job.days} days",
                _COMES_OF[job.comes_of],
            )
            for job in jobs_of(found)
        ),
        "What is worked out is the early end of its doubt. Move it once you know your own layout.",
    )
