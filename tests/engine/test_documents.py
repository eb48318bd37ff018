"""Documents: figures as the assessment's, drawings at true scale, files that others read."""

import csv
import io
import itertools
import math
from pathlib import Path

import ezdxf
import openpyxl
import pytest
import wntr
from hypothesis import given
from hypothesis import strategies as st

from bathys.build import drilled_of, holes_of, pipe_pieces, raft_boards, shopping_list
from bathys.cli import main
from bathys.documents import (
    Amount,
    NothingPumped,
    Table,
    build_tables,
    cell_text,
    changed_rows,
    ground_dxf,
    order_of_work,
    pages_of,
    pumped_inp,
    table_csv,
    templates_dxf,
    templates_of,
    workbook,
)
from bathys.drawing.drilling import board_pictures
from bathys.edits import Edit, apply_edits
from bathys.evaluation import Evaluation, evaluate
from bathys.ground import laid_routes, lay, placed
from bathys.parts.wall_fittings import WALL_FITTINGS
from bathys.plan import load_plan
from bathys.shelf import Price, PriceList
from bathys.units import show_tape
from tests.conftest import EXAMPLE

LAYOUTS = sorted([*EXAMPLE.parent.glob("*.json"), *EXAMPLE.parent.glob("practice/*.json")])


def _found(path: Path) -> Evaluation:
    return evaluate(load_plan(path.read_bytes()))


def _tables(found: Evaluation, prices: PriceList | None = None) -> dict[str, Table]:
    tables = build_tables(found, 3.0, prices or PriceList.empty("EUR"), "metric")
    return {t.key: t for t in tables}


def _values(table: Table, column: int) -> list[float]:
    return [row[column].value for row in table.rows if isinstance(row[column], Amount)]


@pytest.mark.parametrize("path", LAYOUTS, ids=lambda p: p.stem)
def test_the_sheet_says_what_the_assessment_says(path: Path) -> None:
    """Every table is as wide as its heads; levels, holes, drains, lengths and readings are those of
    the evaluation; nothing is not a number; each step has its figures and stands once."""
    found = _found(path)
    tables = _tables(found)
    for table in tables.values():
        assert all(len(row) == len(table.heads) for row in table.rows), table.key
        for row in table.rows:
            assert all(math.isfinite(c.value) for c in row if isinstance(c, Amount)), table.key
            assert "nan" not in " ".join(cell_text(c, "us") for c in row).lower()
    plan = found.plan
    floors = sorted(v.floor_height for v in plan.vessels if v.within is None)
    assert _values(tables["bases"], 2) == floors
    assert len(tables["holes"].rows) == len(holes_of(found))
    assert _values(tables["holes"], 5) == [h.over_datum for h in holes_of(found)]
    cut = math.fsum(_values(tables["cuts"], 3))
    wanted = math.fsum(need.length for need in pipe_pieces(found))
    assert wanted == pytest.approx(cut, abs=1e-3 * len(tables["cuts"].rows))
    for row in tables.get("falls", Table("", "", (), ())).rows:
        begins, ends, falls = (c.value for c in row[1:4] if isinstance(c, Amount))
        assert begins - ends == pytest.approx(falls)
    bought = shopping_list(found, 3.0)
    assert len(tables["shopping"].rows) == len(bought.lines)
    steps = order_of_work(found, "metric")
    assert len({s.key for s in steps}) == len(steps)
    assert all(s.hours > 0.0 and s.text.endswith(".") for s in steps)
    beds = [b for b in found.beds if b.cycle.fill_time and b.cycle.drain_time]
    assert sum(s.key.startswith("wet-") for s in steps) == len(beds)


@pytest.mark.parametrize("path", LAYOUTS, ids=lambda p: p.stem)
def test_epanet_finds_the_flows_of_the_file_it_is_given(path: Path, tmp_path: Path) -> None:
    """EPANET 2.2 (Rossman et al. 2020) through wntr reads the file and finds every pumped flow to
    0.5 %."""
    found = _found(path)
    try:
        text = pumped_inp(found)
    except NothingPumped:
        assert not found.plan.pumps
        return
    file = tmp_path / "plan.inp"
    file.write_text(text)
    model = wntr.network.WaterNetworkModel(str(file))
    flows = wntr.sim.EpanetSimulator(model).run_sim(str(tmp_path / "run")).link["flowrate"]
    for run in found.balance.layout.pressure:
        theirs = float(flows[run].iloc[0])
        assert theirs == pytest.approx(found.balance.flows[run], rel=5e-3, abs=2e-7), run


@pytest.mark.parametrize("units", ["metric", "us"])
def test_a_workbook_and_csv_are_read_again_with_the_same_figures(units: str) -> None:
    """Numbers as numbers, in the unit of their head; the total is a formula over the costs; no cell
    begins as a formula does but that."""
    found = _found(EXAMPLE.parent / "split-flow.json")
    bought = shopping_list(found, 3.0)
    prices = PriceList("EUR", {x.item.key: Price(x.item, 2.5) for x in bought.lines})
    tables = build_tables(found, 3.0, prices, units)
    book = openpyxl.load_workbook(io.BytesIO(workbook(tables, "plan, revision 3", units)))
    assert len(book.sheetnames) == len(tables)
    factor = {"metric": 1000.0, "us": 1.0 / 0.0254}[units]
    for table, sheet in zip(tables, book.worksheets, strict=True):
        rows = list(sheet.iter_rows(min_row=5, values_only=True))
        for row, read in zip(table.rows, rows, strict=False):
            for cell, value in zip(row, read, strict=False):
                if isinstance(cell, Amount) and cell.quantity == "length" and table.key == "holes":
                    assert value == pytest.approx(factor * cell.value, rel=1e-5)
        formulas = [c for r in rows for c in r if isinstance(c, str) and c.startswith("=")]
        assert len(formulas) == (1 if table.total is not None else 0)
        if table.total is not None:
            costs = [r[table.total] for r in rows[: len(table.rows)]]
            priced = PriceList("EUR", prices.prices)
            assert sum(costs) == pytest.approx(shopping_list(found, 3.0, priced).total, abs=0.2)
            first, last = 5, 4 + len(table.rows)
            assert formulas == [f"=SUM(F{first}:F{last})"]
        text = list(csv.reader(io.StringIO(table_csv(table, units))))
        assert len(text) == 1 + len(table.rows)
        assert all(len(r) == len(table.heads) for r in text)
    unit = {"metric": "[mm]", "us": "[in]"}[units]
    holes = next(t for t in tables if t.key == "holes")
    assert unit in table_csv(holes, units).splitlines()[0]


def test_words_that_would_be_formulas_are_marked() -> None:
    table = Table("t", "T", ("What", "How"), (("=1+1", Amount(-1.0, "length")), ("@x", None)))
    assert table_csv(table, "metric").splitlines()[1:] == ["'=1+1,-1000.0", "'@x,"]
    book = openpyxl.load_workbook(io.BytesIO(workbook((table,), "=cmd", "metric")))
    assert [c.value for c in book.worksheets[0]["A"]][:6] == [
        "T",
        "'=cmd",
        None,
        "What",
        "'=1+1",
        "'@x",
    ]


def test_templates_are_at_true_scale_with_every_hole_once() -> None:
    """A bell of 8 slots by hand: as much open area as told, evenly round; a settler's ring in rows
    half a pitch apart. Strips lap, and each hole stands whole on at least one of them, where the
    whole piece puts it."""
    plan = load_plan((EXAMPLE.parent / "split-flow.json").read_bytes())
    templates = templates_of(plan)
    assert [t.drilled.part for t in templates] == [d.part for d in drilled_of(plan)]
    bell = next(t for t in templates if t.drilled.slots)
    siphon = plan.part(bell.drilled.part)
    assert math.fsum(m.width * m.height for m in bell.marks) == pytest.approx(siphon.slot_area)
    assert bell.drilled.around == pytest.approx(math.pi * siphon.bell_bore.outside)
    for template in templates:
        middles = sorted(m.x for m in template.marks if m.y == template.marks[0].y)
        pitch = template.drilled.around / len(middles)
        assert all(b - a == pytest.approx(pitch) for a, b in itertools.pairwise(middles))
        assert all(0.0 <= m.x <= template.drilled.around for m in template.marks)
        for paper in ("A4", "Letter"):
            pages = pages_of(template, paper)  # type: ignore[arg-type]
            assert pages[-1].start + pages[-1].width == pytest.approx(template.drilled.around)
            for mark in template.marks:
                whole = [
                    m
                    for p in pages
                    for m in p.marks
                    if m.x + p.start == pytest.approx(mark.x)
                    and m.y + p.bottom == pytest.approx(mark.y)
                    and m.x - 0.5 * m.width >= -1e-9
                    and m.x + 0.5 * m.width <= p.width + 1e-9
                ]
                assert whole or mark.width > 0.015


def test_drawings_are_read_again_in_millimetres(tmp_path: Path) -> None:
    """A sump drawn where it stands, turned; every run as long as its way; each hole as wide."""
    plan = lay(load_plan((EXAMPLE.parent / "split-flow.json").read_bytes()), "S1", 3.0, 4.0, 30.0)
    file = tmp_path / "plan.dxf"
    file.write_text(ground_dxf(plan))
    drawing = ezdxf.readfile(file)
    assert drawing.units == 4  # millimetres
    space = drawing.modelspace()
    vessels = space.query('LWPOLYLINE[layer=="VESSELS"]')
    assert len(vessels) == len(plan.vessels)
    sump = list(placed(plan)).index("S1")
    corners = list(vessels[sump].get_points("xy"))
    assert math.fsum(x for x, _ in corners) / len(corners) == pytest.approx(3000.0)
    side = plan.vessel("S1").shape.sides[0]
    sides = [math.dist(a, b) for a, b in itertools.pairwise(corners)]
    assert max(sides) == pytest.approx(1000.0 * side)
    for line, route in zip(
        space.query('LWPOLYLINE[layer=="RUNS"]'), laid_routes(plan), strict=True
    ):
        points = list(line.get_points("xy"))
        long = math.fsum(math.dist(a, b) for a, b in itertools.pairwise(points))
        assert long == pytest.approx(1000.0 * route.length, abs=0.2)
    file.write_text(templates_dxf(plan))
    circles = ezdxf.readfile(file).modelspace().query("CIRCLE")
    wanted = sorted(m.width for t in templates_of(plan) for m in t.marks if m.is_round)
    assert sorted(2.0 * c.dxf.radius / 1000.0 for c in circles) == pytest.approx(wanted)


def test_holes_for_wall_fittings_are_those_of_the_trade() -> None:
    """Common practice: a 2 in pipe's grommet takes a 3 in hole, a 25 mm bulkhead 32 to 34 mm; none
    is told for a pipe that is not known."""
    assert WALL_FITTINGS["grommet"].hole_for(0.0603) == pytest.approx(3 * 0.0254, abs=1e-4)
    assert 0.032 <= (WALL_FITTINGS["bulkhead"].hole_for(0.025) or 0.0) <= 0.034
    assert WALL_FITTINGS["bulkhead"].hole_for(0.2) is None
    for kind, fitting in WALL_FITTINGS.items():
        # Into a screwed connector the pipe is glued: its thread may be the narrower.
        least = 0.96 if kind == "screwed" else 1.0
        assert all(hole > least * pipe for pipe, hole in fitting.holes)


@given(st.floats(-50.0, 50.0))
def test_inches_are_told_as_a_tape_reads_them(metres: float) -> None:
    """To a sixteenth, under one inch to a thirty-second; read back, off by half of that at most."""
    text = show_tape(metres, "us")
    words = text.removesuffix(" in").replace("−", "").split()
    value = sum(int(a) / int(b or 1) for a, _, b in (w.partition("/") for w in words))
    step = 1 / 16 if abs(metres) >= 0.0254 else 1 / 32
    assert abs(value - abs(metres) / 0.0254) <= 0.5 * step + 1e-9
    assert show_tape(metres, "metric").endswith("mm")


def test_a_plan_without_siphons_or_drilling_has_no_such_tables() -> None:
    plan = load_plan((EXAMPLE.parent / "raft-line.json").read_bytes())
    tables = _tables(evaluate(plan))
    assert "siphons" not in tables
    assert "places" not in tables  # no place is told
    assert "places" in _tables(evaluate(lay(plan, "S1", 2.0, 8.0)))
    assert not templates_of(plan)
    bare = apply_edits(plan, [Edit("runs.R1.valve", None)])
    assert "valves" not in _tables(evaluate(bare))


def test_the_command_writes_every_file_of_the_sheet(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    """Into a folder that it makes; the plan among them is the plan."""
    path = EXAMPLE.parent / "split-flow.json"
    assert main(["build", str(path), "-o", str(tmp_path / "sheet"), "--units", "us"]) == 0
    names = capsys.readouterr().out.split()
    assert sorted(p.name for p in (tmp_path / "sheet").iterdir()) == names
    assert {"build.xlsx", "holes.csv", "pumped.inp", "templates.dxf", "side-view.svg"} <= set(names)
    again = load_plan((tmp_path / "sheet" / "plan.json").read_bytes())
    assert again == load_plan(path.read_bytes())
    assert "[in]" in (tmp_path / "sheet" / "holes.csv").read_text().splitlines()[0]
    (tmp_path / "file").write_text("")
    assert main(["build", str(path), "-o", str(tmp_path / "file")]) == 2
    assert "file" in capsys.readouterr().err


def test_the_command_makes_no_sheet_while_a_problem_stands(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    """Unless each is acknowledged by its name; then it stands on the files that are worked from."""
    path = str(EXAMPLE.parent / "faults" / "dry-start.json")
    assert main(["build", path, "-o", str(tmp_path)]) == 1
    told = capsys.readouterr()
    assert not told.out
    assert not list(tmp_path.iterdir())
    names = [line.split()[0] for line in told.err.splitlines() if line.startswith("  ")]
    assert "U3.P1" in names
    some = [word for name in names[1:] for word in ("--acknowledge", name)]
    assert main(["build", path, "--json", *some]) == 1
    assert "--acknowledge " + names[0] in capsys.readouterr().err
    assert main(["build", path, "-o", str(tmp_path), *some, "--acknowledge", names[0]]) == 0
    order = (tmp_path / "order-of-work.txt").read_text()
    assert all(f"PROBLEM {name}: " in order for name in names)
    for sheet in openpyxl.load_workbook(tmp_path / "build.xlsx"):
        assert all(name in str(sheet["A3"].value) for name in names)


def test_what_changed_is_told_by_the_heads_that_differ() -> None:
    """A bed that is raised: its floor, the holes of its vessel, the pipe to it; no weights."""
    plan = load_plan((EXAMPLE.parent / "split-flow.json").read_bytes())
    bed = plan.vessel("B1")
    higher = apply_edits(plan, [Edit("vessels.B1.floor_height", bed.floor_height + 0.02)])
    before, after = (
        build_tables(evaluate(p), 3.0, PriceList.empty("EUR"), "metric") for p in (plan, higher)
    )
    rows = {(r.table, r.name): (r.was, r.now) for r in changed_rows(before, after, "metric")}
    stand = next(told for (table, _), told in rows.items() if table.startswith("Levels"))
    assert stand == ("Floor: 600 mm", "Floor: 620 mm")
    assert all("kg" not in was + now for was, now in rows.values())
    assert not changed_rows(after, after, "metric")
    gone = changed_rows(before, (), "metric")
    assert {r.now for r in gone} == {""}
    assert all(r.was for r in gone)


def test_raft_boards_are_drilled_as_many_times_as_they_hold_plants() -> None:
    """By hand: the rows of a board leave as much beside them on one side as on the other; the
    drawing at true scale has every hole, and so has the picture."""
    plan = load_plan((EXAMPLE.parent / "raft-line.json").read_bytes())
    plan = apply_edits(plan, [Edit("vessels.G1.crop", {"kind": "leafy"})])
    boards = [row for row in raft_boards(plan) if row.sites]
    assert boards
    for row in boards:
        assert row.sites == len(row.places)
        xs, ys = ([p[axis] for p in row.places] for axis in (0, 1))
        assert min(xs) == pytest.approx(row.length - max(xs))
        assert min(ys) == pytest.approx(row.width - max(ys))
        apart = sorted(set(ys))
        assert all(b - a == pytest.approx(row.spacing) for a, b in itertools.pairwise(apart))
    drawing = ezdxf.read(io.StringIO(templates_dxf(plan)))
    circles = [c for c in drawing.modelspace().query("CIRCLE") if c.dxf.radius == 12.5]
    assert len(circles) == sum(row.sites for row in boards)
    pictures = board_pictures(evaluate(plan), "us")
    assert sum(p.svg.count("<circle") for p in pictures) == sum(row.sites for row in boards)
