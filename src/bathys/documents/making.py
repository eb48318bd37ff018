"""Tables of what vessels are made of, and of what is plugged in."""

from bathys.build import Cover, cables_of, covers_of, lined_boxes, raft_boards, stands_of, tote_cuts
from bathys.documents.tables import Amount, Cell, Table, length_cell, named_in
from bathys.evaluation import Evaluation
from bathys.physics import GRAVITY
from bathys.quality.power import power_of
from bathys.units import System, show_tape

__all__ = ["covers", "lined", "rafts", "sockets", "stands", "totes"]

_LB_A_FOOT = 0.3048 / 0.45359237  # of a kilogram a metre [lb/ft]


def totes(found: Evaluation) -> Table:
    """Totes to cut.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    Table
        Without rows where there is nothing to tell
    """
    rows = []
    for number, cut in enumerate(tote_cuts(found.plan), start=1):
        rows.append(
            (
                number,
                cut.tote.name.partition(",")[0],
                None if cut.foot is None else named_in(found, cut.foot.id),
                length_cell(None if cut.foot is None else cut.foot.shape.height),
                None if cut.top is None else named_in(found, cut.top.id),
                length_cell(None if cut.top is None else cut.top.shape.height),
                Amount(cut.left, "length"),
            )
        )
    return Table(
        "totes",
        "Totes to cut",
        ("No.", "Tote", "Its foot", "Cut over its floor", "Its top", "Cut under its top", "Left"),
        tuple(rows),
        "Measure each tote first. Keep cage bars where a cut falls between them: without bars a "
        "wall bulges under more than 40 cm (16 in) of water. A top is turned over, its cap and "
        "vent sealed and leak-tested. Never use a tote that held something harmful.",
    )


def lined(found: Evaluation) -> Table:
    """Boards and liner of timber boxes.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    Table
        Without rows where there is nothing to tell
    """
    rows: list[tuple[Cell, ...]] = []
    for box in lined_boxes(found):
        for count, length, height in box.boards:
            rows.append(
                (
                    named_in(found, box.vessel.id),
                    f"{count} boards or rows of boards",
                    Amount(length, "length"),
                    Amount(height, "length"),
                )
            )
        rows.append(
            (
                named_in(found, box.vessel.id),
                "liner, one sheet",
                Amount(box.liner[0], "length"),
                Amount(box.liner[1], "length"),
            )
        )
        kg = box.load / GRAVITY
        rows.append(
            (
                named_in(found, box.vessel.id),
                f"load on a wall, full: {kg:.0f} kg a metre, {kg * _LB_A_FOOT:.0f} lb a foot",
                None,
                None,
            )
        )
    return Table(
        "lined",
        "Timber boxes with a liner",
        ("Box", "What", "Long", "High or wide"),
        tuple(rows),
        "Lengths are inside; what your corner joint takes is added. Brace a wall at least every "
        "600 mm (2 ft), or have it designed. Underlay and no sharp edge under a liner.",
    )


def rafts(found: Evaluation) -> Table:
    """Boards of every raft.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    Table
        Without rows where there is nothing to tell
    """
    rows = tuple(
        (
            named_in(found, row.vessel.id),
            row.count,
            Amount(row.length, "length"),
            Amount(row.width, "length"),
            row.sites or None,
            Amount(row.spacing, "length") if row.spacing > 0.0 else None,
        )
        for row in raft_boards(found.plan)
    )
    return Table(
        "rafts",
        "Raft boards",
        ("Raft", "Boards", "Long", "Wide", "Plants on each", "From plant to plant"),
        rows,
        "Foam 45 to 50 mm (2 in) thick, free of fire retardant, safe for food. A finger’s gap is "
        "taken off. Hole saw for your cubes or pots: usually 25 mm (1 in). Places are drawn below. "
        "Slide boards out, never lift them.",
    )


def sockets(found: Evaluation) -> Table:
    """What is plugged in where.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    Table
        Without rows where there is nothing to tell
    """
    cables = cables_of(found)
    rows = tuple(
        (
            c.circuit or "shared",
            named_in(found, c.id),
            Amount(c.watts, "power"),
            "all day" if c.hours >= 24.0 else f"{c.hours:.3g} h a day",
            length_cell(cables.get(c.id)),
        )
        for c in power_of(found)
    )
    high = max((r.levels.high for r in found.vessels.values()), default=0.0)
    return Table(
        "sockets",
        "Sockets: what is plugged in where",
        ("Circuit", "What", "Draws", "Runs", "Cord, about"),
        rows,
        f"A closed box with meshed vents, off the floor and over the highest water, which stands "
        f"{high * 1000.0:,.0f} mm ({high / 0.0254:.0f} in) over {found.plan.datum}. "
        "Residual-current protection on each circuit, a drip loop on each cord, an air pump hung "
        "against its noise. Cords are measured once vessels and a power point stand on the ground "
        "plan. A licensed electrician for anything fixed.",
    )


def stands(found: Evaluation, units: System) -> Table:
    """Stands made up of the blocks and timber at hand.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    units : System
        The reader's units

    Returns
    -------
    Table
        Without rows where no blocks are told
    """
    rows = []
    for stand in stands_of(found.plan):
        layers = " + ".join(f"{count} × {show_tape(size, units)}" for size, count in stand.layers)
        rows.append(
            (
                named_in(found, stand.vessel),
                Amount(stand.height, "length"),
                layers or "none fits",
                Amount(stand.packed, "length"),
                "it stands firm" if stand.fits else "too much to pack: saw timber to it",
            )
        )
    return Table(
        "stands",
        "Stands: what each leg is made up of",
        ("Vessel", "Height", "Blocks", "Packed over them", "So"),
        tuple(rows),
        "The lowest layer on firm, level ground. Keep legs and braces clear of holes and pipes "
        "under the floor. Tie what is higher than it is wide; an engineer checks what people walk "
        "under.",
    )


_FOLLOWS = {
    "uncovered": "leaves, birds and cats get at it; sun grows algae",
    "net": "birds and cats are kept out; small leaves fall in; sun grows algae",
    "screen": "birds, cats and leaves are kept out; some shade",
    "lid": "all is kept out, and algae have no light; lift it to look",
}
_COVERS = {"uncovered": "none", "net": "a net", "screen": "a screen", "lid": "a lid"}


def _jump(row: Cover) -> str:
    """What an open tank with fish in it comes to."""
    return "fish can jump out; " if row.vessel.use.keeps_fish and row.kind == "uncovered" else ""


def covers(found: Evaluation) -> Table:
    """Covers of vessels with open water.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    Table
        What each is covered with, its size and what follows
    """
    return Table(
        "covers",
        "Covers",
        ("Vessel", "Cover", "Length", "Width", "Dries up in a day", "What follows"),
        tuple(
            (
                named_in(found, row.vessel.id),
                _COVERS[row.kind],
                Amount(row.length, "length"),
                Amount(row.width, "length"),
                Amount(row.dries, "volume"),
                _jump(row) + _FOLLOWS[row.kind],
            )
            for row in covers_of(found.plan)
        ),
        "Sizes are with 100 mm over the rim on each side. Cover what a child could fall into.",
    )
