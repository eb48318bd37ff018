"""``bathys draw``: the side view as a picture."""

from bathys.drawing import draw_side_view
from bathys.drawing.sheet import svg_file
from bathys.drawing.stations import stations_of
from bathys.pipeline import Assessment
from bathys.units import System

__all__ = ["as_svg"]


def as_svg(assessment: Assessment, units: System) -> str:
    """The side view with its numbers and what they stand for, as an SVG document.

    Parameters
    ----------
    assessment : Assessment
        Numbers and findings of a plan
    units : System
        The reader's units

    Returns
    -------
    str
        The document
    """
    evaluation = assessment.evaluation
    plan = evaluation.plan
    return svg_file(draw_side_view(evaluation, stations_of(plan), units), plan.name)
