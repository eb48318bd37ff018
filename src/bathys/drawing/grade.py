"""The grade line: how high the water would stand in an open tube along each run."""

from collections.abc import Mapping
from itertools import pairwise

from bathys.drawing.frame import TOP, Frame
from bathys.drawing.scene import Stroke
from bathys.evaluation import Evaluation, RunResult

__all__ = ["draw_grades"]

Point = tuple[float, float]


def draw_grades(
    frame: Frame, evaluation: Evaluation, ways: Mapping[str, list[Point]]
) -> list[Stroke]:
    """Draw the grade line of every run a pump keeps full.

    Parameters
    ----------
    frame : Frame
        Where metres land
    evaluation : Evaluation
        The plan's numbers
    ways : mapping
        Where each run goes in the picture

    Returns
    -------
    list of Stroke
        From the head at a run's beginning to that at its end; each stretch of the picture takes
        its share of what is lost. What stands above the picture is drawn at its edge.
    """
    strokes = []
    for result in evaluation.runs.values():
        if result.gravity is None and abs(result.flow) > 1e-9:
            points = _grade(frame, result, ways[result.run.id])
            strokes.append(Stroke(points, 1.8, "grade", result.run.id))
    return strokes


def _grade(frame: Frame, result: RunResult, way: list[Point]) -> str:
    lengths = [abs(b[0] - a[0]) + abs(b[1] - a[1]) for a, b in pairwise(way)]
    whole = max(sum(lengths), 1e-9)
    gone, points = 0.0, []
    for (x, _), length in zip(way, [*lengths, 0.0], strict=True):
        head = result.start_head + gone / whole * (result.end_head - result.start_head)
        points.append(f"{x:.1f},{max(frame.y(head), 0.3 * TOP):.1f}")
        gone += length
    return " ".join(points)
