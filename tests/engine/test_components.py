"""Every kind of way out answers all that the engine asks of one, and a new one is one package."""

import math
import os
import subprocess
import sys
from pathlib import Path
from typing import Any

import pytest

from bathys.edits import apply_edits
from bathys.edits.adding import ADDABLE, add_part
from bathys.edits.switching import SWITCHES, switch_kind
from bathys.kinds import COMPONENTS, facet, facets, kind_of, models_of
from bathys.pipeline import assess
from bathys.plan import Plan, load_plan, plan_from_data
from bathys.plan.curve import Curve
from bathys.plan.shell import Shell
from bathys.plan.way_out import Siphon, WayOut

PROJECT = Path(__file__).resolve().parents[2]
ALWAYS = ("model", "steady", "edits", "drawing")
SIPHONS_TOO = ("transient", "sizing", "section")
KINDS = [*models_of("siphons"), *models_of("outlets")]
SHELLS = models_of("shells")
SUPPLIES = [
    *models_of("top_ups"),
    *models_of("transfers"),
    *models_of("fish"),
    *models_of("air"),
    *models_of("air_pumps"),
    *models_of("appliances"),
]
CURVES = models_of("curves")
ENDS = models_of("ends")
SETTLERS = models_of("settlers")
FILTERS = models_of("filters")
SMALL = [
    *SETTLERS,
    *FILTERS,
    *SHELLS,
    *CURVES,
    *ENDS,
    *models_of("valves"),
    *models_of("fittings"),
    *models_of("switches"),
]


def _bed(plan: Plan) -> str:
    return next(v.id for v in plan.vessels if v.job == "grow_bed")


def _stacked() -> Plan:
    return load_plan((PROJECT / "examples" / "stacked-pair.json").read_bytes())


def _with_second_bed() -> Plan:
    data = _stacked().model_dump(mode="json", by_alias=True)
    data["vessels"].append(
        {
            "id": "B9",
            "name": "Second bed",
            "job": "grow_bed",
            "floor_height": 1.1,
            "ports": [],
            "shape": {"kind": "box", "length": 1.0, "width": 1.0, "height": 0.4},
            "along": 2.5,
        }
    )
    return plan_from_data(data)


def _added(model: type[WayOut]) -> tuple[Plan, WayOut]:
    """The stacked pair with one more bed that only drains by a part of this kind."""
    edits, id_ = add_part(_with_second_bed(), kind_of(model), "B9")
    plan = apply_edits(_with_second_bed(), edits)
    part: WayOut = plan.part(id_)
    return plan, part


@pytest.mark.parametrize("model", KINDS, ids=kind_of)
def test_every_kind_answers_what_is_asked_of_it(model: type[WayOut]) -> None:
    for name in ALWAYS + SIPHONS_TOO * issubclass(model, Siphon):
        assert model in facets(name), name


def test_every_package_is_a_kind_that_stands_somewhere() -> None:
    assert len(facets("model")) == len(COMPONENTS) == len(KINDS) + len(SUPPLIES) + len(SMALL)


@pytest.mark.parametrize("curve", CURVES, ids=kind_of)
def test_every_curve_takes_the_place_of_any_other(curve: type[Curve]) -> None:
    """As much at no lift and as high at no flow; it falls between, and says what it tells."""
    plan = _stacked()
    path = f"pumps.{plan.pumps[0].id}.curve"
    for other in CURVES:
        before = switch_kind(plan, path, kind_of(other)).plan
        after = switch_kind(before, path, kind_of(curve)).plan.pumps[0].curve
        old, new = before.pumps[0].curve.law, after.law
        assert (new.max_flow, new.max_head) == pytest.approx((old.max_flow, old.max_head))
        assert after.most_flow == pytest.approx(new.max_flow)
        heads = [new.head(share * new.max_flow)[0] for share in (0.0, 0.3, 0.6, 0.9)]
        assert heads == sorted(heads, reverse=True)
        assert "{label:flow}" in after.TOLD


@pytest.mark.parametrize("shell", SHELLS, ids=kind_of)
def test_every_shell_takes_the_place_of_any_other(shell: type[Shell]) -> None:
    """As wide at the rim and as high; its layers rise from the floor, hold what its walls do, and
    it is drawn as wide as it is."""
    plan = _stacked()
    for other in SHELLS:
        before = switch_kind(plan, "vessels.T1.shape", kind_of(other)).plan
        after = switch_kind(before, "vessels.T1.shape", kind_of(shell)).plan.vessel("T1").shape
        old = before.vessel("T1").shape
        assert after.height == pytest.approx(old.height)
        assert after.footprint == pytest.approx(old.footprint, rel=1e-4)
        heights = [low for low, _ in after.layers]
        assert heights == sorted(heights)
        assert heights[0] == 0.0
        assert after.holds(after.height) == pytest.approx(after.capacity)
        assert 0.0 <= after.bottom < after.height
        assert after.width_at(after.height) >= after.width_at(0.5 * after.bottom) > 0.0
        assert after.perimeter**2 >= 4.0 * math.pi * after.footprint * (1.0 - 1e-9)  # a circle's


@pytest.mark.parametrize("model", KINDS, ids=kind_of)
def test_every_kind_is_added_drained_drawn_and_traded(model: type[WayOut]) -> None:
    """As it is usually built it stands within its vessel and begins where it says; with a run on it
    the plan is worked out; each other kind of its list can take its place and holds its level."""
    plan, part = _added(model)
    assert kind_of(model) in ADDABLE
    assert 0.0 <= part.drains_to <= part.spills_from <= 0.4
    data = plan.model_dump(mode="json", by_alias=True)
    tank = next(v for v in data["vessels"] if v["job"] == "fish_tank")
    tank["ports"].append({"name": "back", "height": 0.6})
    data["runs"].append(
        {
            "id": "R9",
            "name": "Drain",
            "from": f"{part.id}.{part.END}",
            "to": f"{tank['id']}.back",
            "bore": {"kind": "inside", "diameter": 0.05},
            "level_length": 0.5,
        }
    )
    drained = plan_from_data(data)
    lines = [k for k in assess(drained).evaluation.runs if k == "R9"]
    assert lines == ["R9"]
    for kind in SWITCHES[model.GROUP]:
        other: Any = switch_kind(drained, f"{model.GROUP}.{part.id}", kind).plan.part(part.id)
        assert other.kind == kind
        assert other.level_held == pytest.approx(part.level_held)
        assert facet(other, "drawing").LEAVES in ("below", "outside", "sideways", "wall")


MADE_UP: dict[str, dict[str, str]] = {}
"""Made-up kinds, as another package brings them."""

MADE_UP["notch"] = {
    "__init__.py": '"""A notch sawn into a rim."""\n',
    "model.py": """
from typing import Literal
from pydantic import Field
from bathys.plan.quantities import Depth
from bathys.plan.shell import Shell
from bathys.plan.way_out import Outlet

class Notch(Outlet):
    HEIGHTS = (("sill", "the notch"),)
    kind: Literal["notch"] = "notch"
    sill: Depth = Field(title="Height of the sill")
    width: Depth = Field(title="Width")

    @property
    def pipe(self):
        return None

    @property
    def spills_from(self):
        return self.sill

    def leaves_at(self, bore):
        return self.sill

MODEL = Notch
""",
    "steady.py": """
def lines(notch, drain):
    yield drain.holes(notch.sill, 0.5 * notch.width**2)
""",
    "edits.py": """
NAME, CHOICE = "notch", "notch in the rim"

def usual(tall):
    return {"sill": 0.7 * tall, "width": 0.05}

def instead_of(old):
    return {"id": old.id, "name": old.name, "stands_in": old.stands_in, "kind": "notch",
            "sill": old.level_held, "width": 0.05}
""",
    "drawing.py": """
from bathys.drawing.scene import Stroke
LEAVES = "wall"

def place(frame, plan, notch):
    floor = plan.vessel(notch.stands_in).floor_height
    return frame.edges(notch.stands_in)[1], frame.y(floor + notch.sill)

def pipe(frame, plan, notch):
    return None

def draw(frame, scene, plan, notch, numbers):
    x, y = place(frame, plan, notch)
    scene.strokes.append(Stroke(f"{x},{y} {x},{y - 6}", 3.0, "mark notch-made-up", notch.id))
    scene.number([(x + 18, y)], numbers[notch.id])
""",
}

MADE_UP["tipper"] = {
    "__init__.py": '"""A trough in a wall that tips when it is full and rights itself."""\n',
    "model.py": """
from typing import Literal
from pydantic import Field
from bathys.plan.quantities import Depth, Height
from bathys.plan.way_out import Outlet

class Tipper(Outlet):
    HEIGHTS = (("tips_at", "the trough"),)
    kind: Literal["tipper"] = "tipper"
    tips_at: Depth = Field(title="Tips at")
    rights_at: Height = Field(title="Rights itself at")

    @property
    def pipe(self):
        return None

    @property
    def spills_from(self):
        return self.tips_at

    @property
    def drains_to(self):
        return self.rights_at

    def leaves_at(self, bore):
        return self.rights_at

MODEL = Tipper
""",
    "steady.py": """
def lines(tipper, drain):
    yield drain.holes(tipper.rights_at, 0.002)
""",
    "transient.py": """
from bathys.simulation.latch import FULL, SPILL, Latch

NEVER, ALWAYS = 1e6, 1e9

def latch(tipper, floor, plain):
    upright = plain._replace(id=plain.id + SPILL, crest=NEVER)
    tipped = plain._replace(id=plain.id + FULL)
    return Latch(tipper.id, tipper.name, tipper.stands_in, floor + tipper.tips_at,
                 floor + tipper.rights_at + 0.01, ALWAYS, upright, tipped, is_meant=True)
""",
    "edits.py": """
NAME, CHOICE = "tipper", "trough that tips"

def usual(tall):
    return {"tips_at": 0.7 * tall, "rights_at": 0.2 * tall}

def instead_of(old):
    return {"id": old.id, "name": old.name, "stands_in": old.stands_in, "kind": "tipper",
            "tips_at": old.level_held, "rights_at": 0.3 * old.level_held}
""",
    "drawing.py": """
from bathys.drawing.scene import Stroke
LEAVES = "wall"

def place(frame, plan, tipper):
    floor = plan.vessel(tipper.stands_in).floor_height
    return frame.edges(tipper.stands_in)[1], frame.y(floor + tipper.tips_at)

def pipe(frame, plan, tipper):
    return None

def draw(frame, scene, plan, tipper, numbers):
    x, y = place(frame, plan, tipper)
    scene.strokes.append(Stroke(f"{x},{y} {x + 9},{y + 6}", 3.0, "mark tipper", tipper.id))
    scene.number([(x + 18, y)], numbers[tipper.id])
""",
}

MADE_UP["plate"] = {
    "__init__.py": '"""A plate with a hole, between two flanges."""\n',
    "model.py": '''
from typing import Literal
from pydantic import Field
from bathys.plan.in_line import InLine
from bathys.plan.quantities import Size

class Plate(InLine):
    NAMES = {"plate": "plate with a hole"}
    IS_DRAWN = True
    kind: Literal["plate"] = "plate"
    hole: Size = Field(title="hole across")

    @classmethod
    def usual(cls, kind, bore):
        return {"hole": 0.5 * bore.inside}

    def loss_of_one(self, bore):
        """The jet narrows to 0.62 of the hole and fills the pipe again: Borda-Carnot."""
        return (1.0 / (0.62 * min(self.hole / bore, 1.0) ** 2) - 1.0) ** 2

    @property
    def label(self):
        return f"{self.words} of {1000 * self.hole:.0f} mm"

MODEL = Plate
''',
    "rules.py": """
from bathys.rules.registry import Finding, Rule, rule

@rule(Rule("Z1", "Plates clog", "A plate with a small hole is a strainer.", "made up"))
def _small(evaluation, data):
    for run in evaluation.plan.runs:
        for piece in run.fittings:
            if piece.kind == "plate" and piece.hole < 0.012:
                yield Finding(data, "clogs", "note", run.id, "Its plate clogs.", "Drill it.")
""",
}

MADE_UP["strainer"] = {
    "__init__.py": '"""A basket about the way out, which holds back what the water carries."""\n',
    "model.py": """
from typing import Literal
from pydantic import Field
from bathys.plan.quantities import Depth, Height, Opening
from bathys.plan.way_out import Outlet

class Strainer(Outlet):
    HEIGHTS = (("height", "the basket"),)
    kind: Literal["strainer"] = "strainer"
    height: Depth = Field(title="Height of the basket's foot")
    mesh: Height = Field(title="Mesh")
    across: Height = Field(title="Basket across")
    loaded: Opening = Field(default=0.0, title="Loaded", description="Share of it that is clogged.")

    @property
    def pipe(self):
        return None

    @property
    def spills_from(self):
        return self.height

    @property
    def open_area(self):
        return 0.3 * (1.0 - self.loaded) * self.across**2

    def leaves_at(self, bore):
        return self.height

MODEL = Strainer
""",
    "steady.py": """
def lines(strainer, drain):
    yield drain.holes(strainer.height, max(strainer.open_area, 1e-9))
""",
    "edits.py": """
NAME, CHOICE = "strainer", "strainer basket"

def usual(tall):
    return {"height": 0.4 * tall, "mesh": 0.002, "across": 0.08}

def instead_of(old):
    return {"id": old.id, "name": old.name, "stands_in": old.stands_in, "kind": "strainer",
            "height": old.level_held, "mesh": 0.002, "across": 0.08}
""",
    "rules.py": """
from bathys.edits import Edit
from bathys.rules.registry import Finding, Offer, Rule, rule

@rule(Rule("Z2", "A basket that is clogged", "It lets nothing by.", "made up"))
def _clogged(evaluation, data):
    for part in evaluation.plan.outlets:
        if part.kind == "strainer" and part.loaded > 0.8:
            yield Finding(
                data, "clogged", "warning", part.id, "It is {loaded:percent} clogged.", "Rinse it.",
                {"loaded": part.loaded},
                (Offer("rinse it", (Edit(f"outlets.{part.id}.loaded", 0.0),)),))
""",
    "drawing.py": """
from bathys.drawing.scene import Stroke
LEAVES = "wall"

def place(frame, plan, strainer):
    floor = plan.vessel(strainer.stands_in).floor_height
    return frame.edges(strainer.stands_in)[1], frame.y(floor + strainer.height)

def pipe(frame, plan, strainer):
    return None

def draw(frame, scene, plan, strainer, numbers):
    x, y = place(frame, plan, strainer)
    scene.strokes.append(Stroke(f"{x - 8},{y} {x - 8},{y - 9} {x},{y - 9}", 1.5, "mark basket",
                                strainer.id))
    scene.number([(x + 18, y)], numbers[strainer.id])
""",
}

TRIED = {}
TRIED["notch"] = """
import json
from bathys.kinds import kind_of
from bathys.pipeline import assess
from bathys.plan import schema
from bathys.simulation import simulate
from bathys.commands.draw import as_svg
from tests.engine import test_components as t
model = next(m for m in t.KINDS if kind_of(m) == "notch")
t.test_every_kind_answers_what_is_asked_of_it(model)
t.test_every_kind_is_added_drained_drawn_and_traded(model)
plan, part = t._added(model)
assert '"notch"' in json.dumps(schema())
assert "notch-made-up" in as_svg(assess(plan), "metric")
assert simulate(plan, 1.0).times[-1] > 3000.0
"""

TRIED["tipper"] = """
import json
from bathys.kinds import kind_of
from bathys.edits import Edit, add_part, apply_edits
from bathys.pipeline import assess
from bathys.plan import schema
from bathys.simulation import simulate
from bathys.commands.draw import as_svg
from tests.engine import test_components as t
model = next(m for m in t.KINDS if kind_of(m) == "tipper")
t.test_every_kind_answers_what_is_asked_of_it(model)
t.test_every_kind_is_added_drained_drawn_and_traded(model)
plan = t._with_second_bed()
edits, id_ = add_part(plan, "tipper", "B9")
tall = {"id": "R9", "name": "Drain", "from": f"{id_}.out", "to": "T1.back", "level_length": 0.5,
        "bore": {"kind": "inside", "diameter": 0.05}}
feed = {"id": "Q9", "name": "Feed", "source": "T1", "target": "B9", "volume": 0.3, "flow": 1e-4}
port = {"name": "back", "height": 0.6}
plan = apply_edits(plan, [*edits, Edit("vessels.T1.ports.+", port), Edit("runs.+", tall),
                          Edit("transfers.+", {**feed, "at": 0.0, "every": 86400.0})])
assert '"tipper"' in json.dumps(schema())
assert "mark tipper" in as_svg(assess(plan), "metric")
found = simulate(plan, 1.5)
kinds = [e.kind for e in found.events if e.place == id_]
assert kinds == ["starts", "breaks"], kinds
level = dict(zip(found.nodes, found.levels.T))["B9"] - 1.1
assert abs(level.max() - 0.28) < 1e-3 and 0.08 < level[-1] < 0.2
assert abs(found.lost) < 1e-9
"""

TRIED["strainer"] = """
import json
from bathys.kinds import kind_of
from bathys.commands.draw import as_svg
from bathys.edits import Edit, add_part, apply_edits
from bathys.pipeline import assess, remedies_of
from bathys.plan import schema
from bathys.simulation import simulate
from bathys_web.plans.inspector import apply_row, find_row
from dataclasses import replace
from tests.engine import test_components as t
model = next(m for m in t.KINDS if kind_of(m) == "strainer")
t.test_every_kind_answers_what_is_asked_of_it(model)
t.test_every_kind_is_added_drained_drawn_and_traded(model)
edits, id_ = add_part(t._with_second_bed(), "strainer", "B9")
drain = {"id": "R9", "name": "Drain", "from": f"{id_}.out", "to": "T1.back", "level_length": 0.5,
         "bore": {"kind": "inside", "diameter": 0.05}}
feed = {"id": "Q9", "name": "Feed", "source": "T1", "target": "B9", "volume": 0.3, "flow": 1e-4}
plan = apply_edits(t._with_second_bed(), [
    *edits, Edit("vessels.T1.ports.+", {"name": "back", "height": 0.6}), Edit("runs.+", drain),
    Edit("transfers.+", {**feed, "at": 0.0, "every": 86400.0})])
row = find_row(plan, f"outlets.{id_}.loaded", "metric")
assert row.label == "Loaded" and row.unit == "%"
clogged = apply_row(plan, replace(row, text="99.9"), "metric").plan
assert '"strainer"' in json.dumps(schema())
assert "mark basket" in as_svg(assess(plan), "metric")
tops = [simulate(p, 0.5).levels[:, 2].max() for p in (plan, clogged)]
assert tops[0] < tops[1], tops
found = assess(clogged)
told = next(f for f in found.findings if f.rule.id == "Z2")
assert remedies_of(found, told)[0].cures
assert "Z2" not in {f.rule.id for f in assess(plan).findings}
"""

TRIED["plate"] = """
import json
from bathys.commands.draw import as_svg
from bathys.pipeline import assess
from bathys.plan import load_plan, dump_plan, schema
from bathys.simulation import simulate
from bathys_web.plans.inspector import apply_row, find_row
from dataclasses import replace
from tests.engine import test_components as t
plan = t._stacked()
row = find_row(plan, "runs.R1.fittings.+", "metric")
assert ("plate", "plate with a hole") in row.options
fitted = apply_row(plan, replace(row, text="plate"), "metric").plan
hole = find_row(fitted, "runs.R1.fittings.plate.hole", "metric")
assert hole.label == "Plate with a hole hole across", hole
assert load_plan(dump_plan(fitted)) == fitted and '"plate"' in json.dumps(schema())
small = apply_row(fitted, replace(hole, text="11 mm"), "metric").plan
before, after, least = (assess(p) for p in (plan, fitted, small))
flows = [a.evaluation.runs["R1"].flow for a in (before, after, least)]
assert flows[0] > flows[1] > flows[2] > 0.0
lost = {p.label: h for p, h in after.evaluation.runs["R1"].losses}
assert lost["1 \u00d7 plate with a hole of 13 mm"] > 0.0, lost
assert "Z1" in {f.rule.id for f in least.findings} - {f.rule.id for f in after.findings}
assert "in-line plate" in as_svg(after, "metric")
carried = [simulate(p, 0.1).carried["R1"] for p in (plan, small)]
assert carried[0] > carried[1] > 0.0
gone = apply_row(small, replace(find_row(small, "runs.R1.fittings.plate", "metric"), text="0"),
                 "metric").plan
assert gone == plan
"""


@pytest.mark.parametrize("kind", list(MADE_UP))
def test_a_new_kind_is_one_package_and_nothing_else(kind: str, tmp_path: Path) -> None:
    """It is found by its entry point, and loaded, balanced, followed through time, judged, drawn,
    listed in the schema, added and traded with no other file touched."""
    package, told = tmp_path / f"{kind}_kind", tmp_path / f"{kind}_kind-1.0.dist-info"
    package.mkdir()
    told.mkdir()
    for name, text in MADE_UP[kind].items():
        (package / name).write_text(text)
    (told / "METADATA").write_text(f"Metadata-Version: 2.1\nName: {kind}-kind\nVersion: 1.0\n")
    (told / "entry_points.txt").write_text(f"[bathys.components]\n{kind} = {kind}_kind\n")
    done = subprocess.run(
        [sys.executable, "-c", TRIED[kind] + "print('worked out')"],
        capture_output=True,
        text=True,
        cwd=PROJECT,
        check=False,
        env={**os.environ, "PYTHONPATH": f"{tmp_path}{os.pathsep}{PROJECT}"},
    )
    assert done.returncode == 0, done.stderr
    assert done.stdout.strip() == "worked out"
