"""Drawings at true scale for other programs, as DXF: one unit is a millimetre."""

import io

from ezdxf import units as dxf_units
from ezdxf.document import Drawing
from ezdxf.filemanagement import new

from bathys.build import SITE, raft_boards
from bathys.documents.templates import templates_of
from bathys.ground import laid_routes, placed, site_of
from bathys.plan.model import Plan

__all__ = ["ground_dxf", "templates_dxf"]

_MM = 1000.0
_APART = 60.0  # one template over the next [mm]
_LETTERS = 60.0  # height of words on the ground plan [mm]


def _new() -> Drawing:
    drawing = new("R2010")
    drawing.units = dxf_units.MM
    return drawing


def _text(drawing: Drawing) -> str:
    file = io.StringIO()
    drawing.write(file)
    return file.getvalue()


def ground_dxf(plan: Plan) -> str:
    """The ground plan.

    Parameters
    ----------
    plan : Plan
        The plan

    Returns
    -------
    str
        A DXF drawing with a layer each for the site, vessels, runs and marks
    """
    drawing = _new()
    space = drawing.modelspace()
    for layer, colour in (("SITE", 8), ("VESSELS", 5), ("RUNS", 3), ("MARKS", 30)):
        drawing.layers.add(layer, color=colour)
    places = placed(plan)
    ground, site = site_of(plan, places)
    space.add_lwpolyline(
        [(x * _MM, y * _MM) for x, y, *_ in site.exterior.coords[:-1]],
        close=True,
        dxfattribs={"layer": "SITE"},
    )
    for id_, spot in places.items():
        corners = [(x * _MM, y * _MM) for x, y, *_ in spot.outline.exterior.coords[:-1]]
        space.add_lwpolyline(corners, close=True, dxfattribs={"layer": "VESSELS"})
        words = space.add_text(
            f"{id_} {spot.vessel.name}", height=_LETTERS, dxfattribs={"layer": "VESSELS"}
        )
        words.set_placement((spot.x * _MM, spot.y * _MM))
    for route in laid_routes(plan):
        way = [(x * _MM, y * _MM) for x, y in route.points]
        space.add_lwpolyline(way, dxfattribs={"layer": "RUNS"})
    for mark in ground.marks:
        corners = [(x * _MM, y * _MM) for x, y, *_ in mark.covers.exterior.coords[:-1]]
        space.add_lwpolyline(corners, close=True, dxfattribs={"layer": "MARKS"})
    return _text(drawing)


def templates_dxf(plan: Plan) -> str:
    """All templates, one over the other; raft boards after them.

    Parameters
    ----------
    plan : Plan
        The plan

    Returns
    -------
    str
        A DXF drawing: the edge of each piece, unrolled, with its holes and slots
    """
    drawing = _new()
    space = drawing.modelspace()
    drawing.layers.add("EDGE", color=8)
    drawing.layers.add("CUT", color=1)
    up = 0.0
    for template in templates_of(plan):
        around, height = template.drilled.around * _MM, template.height * _MM
        edge = [(0.0, up), (around, up), (around, up + height), (0.0, up + height)]
        space.add_lwpolyline(edge, close=True, dxfattribs={"layer": "EDGE"})
        name = f"{template.drilled.part} {template.drilled.name}"
        words = space.add_text(name, height=8.0, dxfattribs={"layer": "EDGE"})
        words.set_placement((0.0, up + height + 4.0))
        for mark in template.marks:
            x, y = mark.x * _MM, up + mark.y * _MM
            if mark.is_round:
                space.add_circle((x, y), 0.5 * mark.width * _MM, dxfattribs={"layer": "CUT"})
            else:
                half, tall = 0.5 * mark.width * _MM, 0.5 * mark.height * _MM
                slot = [
                    (x - half, y - tall),
                    (x + half, y - tall),
                    (x + half, y + tall),
                    (x - half, y + tall),
                ]
                space.add_lwpolyline(slot, close=True, dxfattribs={"layer": "CUT"})
        up += height + _APART
    for row in raft_boards(plan):
        length, width = row.length * _MM, row.width * _MM
        board = [(0.0, up), (length, up), (length, up + width), (0.0, up + width)]
        space.add_lwpolyline(board, close=True, dxfattribs={"layer": "EDGE"})
        name = f"{row.vessel.id} raft board, {row.count} of them"
        words = space.add_text(name, height=8.0, dxfattribs={"layer": "EDGE"})
        words.set_placement((0.0, up + width + 4.0))
        for x, y in row.places:
            middle = (x * _MM, up + y * _MM)
            space.add_circle(middle, 0.5 * SITE * _MM, dxfattribs={"layer": "CUT"})
        up += width + _APART
    return _text(drawing)
