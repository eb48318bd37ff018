"""Points read off a picture: against points put into one by arithmetic, however it lies."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bathys.parts.curve_picture import AxisMarks, BadPicture, points_off_picture
from bathys.parts.pumps import CatalogPump

XY = tuple[float, float]


def _drawn(flow: float, head: float, turned: float, skew: float, scale: float) -> XY:
    """Where a flow [L/h] and a head [m] lie in a picture: turned, askew, its heights downwards."""
    x, y = scale * (0.1 * flow + skew * head), -scale * 80.0 * head
    return (
        300.0 + x * math.cos(turned) - y * math.sin(turned),
        700.0 + x * math.sin(turned) + y * math.cos(turned),
    )


@given(st.floats(-0.5, 0.5), st.floats(-20.0, 20.0), st.floats(0.2, 5.0))
def test_what_is_drawn_is_read(turned: float, skew: float, scale: float) -> None:
    """Flows and heads come out as they were put in, whatever marks the axes are read at, and in
    the order of the flow."""

    def at(flow: float, head: float) -> XY:
        return _drawn(flow, head, turned, skew, scale)

    flows = AxisMarks(at(500.0, 0.0), at(2500.0, 0.0), 500.0, 2500.0)
    heads = AxisMarks(at(0.0, 1.0), at(0.0, 3.0), 1.0, 3.0)
    curve = [(2000.0, 1.1), (0.0, 3.4), (900.0, 2.7)]
    found = points_off_picture(flows, heads, [at(*point) for point in curve])
    for (flow, head), (wanted_flow, wanted_head) in zip(found, sorted(curve), strict=True):
        assert flow == pytest.approx(wanted_flow, abs=1e-6)
        assert head == pytest.approx(wanted_head, abs=1e-9)


def test_what_makes_no_curve_is_refused_with_a_sentence() -> None:
    flows = AxisMarks((0.0, 100.0), (100.0, 100.0), 0.0, 1000.0)
    heads = AxisMarks((0.0, 100.0), (0.0, 0.0), 0.0, 2.0)
    for one, two, pressed, words in (
        (AxisMarks((0.0, 0.0), (1.0, 0.0), 0.0, 1.0), heads, [(1.0, 1.0)] * 2, "farther apart"),
        (AxisMarks((0.0, 0.0), (90.0, 0.0), 5.0, 5.0), heads, [(1.0, 1.0)] * 2, "something else"),
        (flows, AxisMarks((0.0, 0.0), (90.0, 0.0), 0.0, 1.0), [(1.0, 1.0)] * 2, "one line"),
        (flows, heads, [(1.0, 1.0)], "two points"),
    ):
        with pytest.raises(BadPicture, match=words):
            points_off_picture(one, two, pressed)
    assert points_off_picture(flows, heads, [(-1.0, 50.0), (101.0, 101.0)])[0][0] == 0.0


def test_a_pump_of_points_lifts_what_its_points_say() -> None:
    """At its points; between them it falls; by label it follows its law."""
    points = ((0.0, 3.0), (2e-4, 2.5), (4e-4, 1.5), (6e-4, 0.0))
    pump = CatalogPump("own", 6e-4, 3.0, 2.0, 20.0, is_own=True, points=points)
    for flow, head in points:
        assert pump.head_at(flow) == pytest.approx(head, abs=1e-6)
    heads = [pump.head_at(1e-5 * n) for n in range(61)]
    assert heads == sorted(heads, reverse=True)
    assert pump.as_curve["kind"] == "points"
    label = CatalogPump("label", 6e-4, 3.0, 2.0, 20.0)
    assert label.head_at(3e-4) == pytest.approx(3.0 * 0.75)
    assert label.as_curve["kind"] == "label"
