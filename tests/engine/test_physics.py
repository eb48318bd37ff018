"""Single relations against sources outside the project."""

import fluids
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from iapws import IAPWS95

from bathys.parts.bores import bore_of
from bathys.parts.fittings import FITTINGS
from bathys.parts.valves import ball_valve_loss
from bathys.physics.friction import colebrook, friction_factor, friction_head
from bathys.physics.openings import rim_flow, rim_head
from bathys.physics.pump_curve import LabelCurve, PointsCurve
from bathys.physics.siphon import start_flow
from bathys.physics.water import water_at

pytestmark = pytest.mark.uncompiled

LITRE_AN_HOUR = 1.0 / 3.6e6


@pytest.mark.parametrize("celsius", [1.0, 4.0, 10.0, 20.0, 25.0, 33.0, 40.0])
def test_water_agrees_with_iapws(celsius: float) -> None:
    """IAPWS-95 density and the 2008 IAPWS viscosity release, through ``iapws``: 0.1 %."""
    reference = IAPWS95(T=celsius + 273.15, P=0.101325)
    water = water_at(celsius)
    assert water.density == pytest.approx(reference.rho, rel=1e-3)
    assert water.viscosity == pytest.approx(reference.mu, rel=1e-3)


@pytest.mark.parametrize("relative_roughness", [0.0, 1e-5, 1e-3, 2e-2, 5e-2])
def test_turbulent_friction_agrees_with_colebrook(relative_roughness: float) -> None:
    """``fluids.friction.Colebrook``, solved there through Lambert's W."""
    for reynolds in np.geomspace(4000.0, 1e7, 12):
        ours, _ = colebrook(np.array([reynolds]), np.array([relative_roughness]))
        theirs = fluids.friction.Colebrook(reynolds, relative_roughness)
        assert ours[0] == pytest.approx(theirs, rel=1e-8)


@pytest.mark.parametrize(
    ("reynolds", "relative_roughness", "reading"),
    [(1e5, 0.0, 0.018), (1e5, 0.001, 0.0222), (1e6, 0.0, 0.01165), (1e7, 0.01, 0.0379)],
)
def test_friction_reads_as_on_the_moody_chart(
    reynolds: float, relative_roughness: float, reading: float
) -> None:
    """Moody (1944), chart readings from memory: a chart is read to 2 %."""
    factor, _ = friction_factor(np.array([reynolds]), np.array([relative_roughness]))
    assert factor[0] == pytest.approx(reading, rel=0.02)


@given(st.floats(1e-7, 0.02), st.floats(0.004, 0.15), st.floats(0.0, 0.05))
def test_friction_slope_is_the_slope(flow: float, bore: float, relative: float) -> None:
    """The slope given to the solver is that of the head, in every regime."""
    made = [np.array([v]) for v in (bore, 1.0, relative * bore)]
    step = 1e-6 * flow

    def head(q: float) -> tuple[float, float]:
        lost, slope = friction_head(np.array([q]), *made, 1e-6)
        return float(lost[0]), float(slope[0])

    reynolds = 4 * flow / (np.pi * bore * 1e-6)
    if min(abs(reynolds / kink - 1.0) for kink in (2000.0, 4000.0)) < 1e-5:
        return  # a kink has two slopes
    measured = (head(flow + step)[0] - head(flow - step)[0]) / (2 * step)
    assert head(flow)[1] == pytest.approx(measured, rel=1e-3)


@given(st.floats(1e-7, 0.02), st.floats(0.004, 0.15))
def test_friction_rises_with_flow(flow: float, bore: float) -> None:
    """More flow always loses more head, across the regimes."""
    lost, _ = friction_head(
        np.array([flow, 1.01 * flow]),
        np.array([bore] * 2),
        np.array([1.0] * 2),
        np.array([1e-5] * 2),
        1e-6,
    )
    assert lost[1] > lost[0]


@pytest.mark.parametrize(
    ("nominal", "millimetres", "litres_an_hour"),
    [
        ("3/4 in", 20.93, 174),
        ("1 in", 26.64, 318),
        ("1 1/4 in", 35.05, 631),
        ("1 1/2 in", 40.89, 928),
        ("2 in", 52.50, 1734),
    ],
)
def test_schedule_40_bores_and_start_flows(
    nominal: str, millimetres: float, litres_an_hour: float
) -> None:
    """Bores at minimum wall: ASTM D1785 (its inch tables, rounded to 0.05 mm). Start flows
    derived by hand from Fr = 0.31, the self-venting limit of Simpson (1968), from memory."""
    bore = bore_of("ASTM D1785 Schedule 40", nominal)
    assert bore * 1000 == pytest.approx(millimetres, abs=0.06)
    assert start_flow(millimetres / 1000) / LITRE_AN_HOUR == pytest.approx(litres_an_hour, abs=0.6)
    assert start_flow(bore) / LITRE_AN_HOUR == pytest.approx(litres_an_hour, rel=0.005)


def test_priming_level() -> None:
    """0.263 d over the rim at Fr 0.31: derived by hand from the weir law."""
    assert rim_head(start_flow(0.025), 0.025) / 0.025 == pytest.approx(0.263, abs=5e-4)


@given(st.floats(1e-7, 5e-3), st.floats(0.01, 0.1))
def test_rim_head_undoes_rim_flow(flow: float, bore: float) -> None:
    """The two laws of a rim are one law."""
    assert float(rim_flow(np.array([rim_head(flow, bore)]), bore)[0]) == pytest.approx(flow)


def test_ball_valve_table_and_its_ends() -> None:
    """Weisbach's cock (memory), and shut from 80°."""
    assert [ball_valve_loss(a) for a in (5.0, 30.0, 65.0)] == [0.05, 5.5, 486.0]
    assert ball_valve_loss(37.0) == pytest.approx(12.2, abs=0.1)  # log K between 9.7 and 17.3
    assert ball_valve_loss(80.0) == np.inf
    assert ball_valve_loss(66.0) > 486.0


def test_label_curve_at_four_feet() -> None:
    """Common practice: a pump labelled 400 gal/h gives about 150 at 4 ft, which puts the shut-off
    of a parabola near 4.65 ft."""
    head, _ = LabelCurve(400.0, 4.65, 2.0).head(150.0)
    assert head == pytest.approx(4.0, abs=0.02)


@given(st.lists(st.tuples(st.floats(0.01, 1.0), st.floats(0.01, 1.0)), min_size=2, max_size=8))
def test_points_curve_passes_through_its_points_and_never_rises(
    steps: list[tuple[float, float]],
) -> None:
    """Whatever falling points are given."""
    flows = np.cumsum([0.0, *(s[0] for s in steps)])
    heads = 10.0 - np.cumsum([0.0, *(s[1] for s in steps)])
    curve = PointsCurve(list(zip(flows, heads, strict=True)))
    for flow, head in zip(flows, heads, strict=True):
        assert curve.head(flow)[0] == pytest.approx(head)
    between = [curve.head(q)[0] for q in np.linspace(0.0, flows[-1] * 1.2, 60)]
    assert np.all(np.diff(between) <= 1e-12)
    assert curve.head(curve.max_flow)[0] == pytest.approx(0.0, abs=1e-6)


@pytest.mark.parametrize(
    ("kind", "other", "k"),
    [
        # K on the run's 40 mm bore. Borda–Carnot: (1 − β²)², β = 40/60 or 20/40; Crane TP-410, eqs.
        # 2-24 and 2-25 (memory): 0.5 (1 − β²); a K on the narrower bore times (40/20)⁴.
        ("expander", 0.06, (1 - (4 / 6) ** 2) ** 2),
        ("expander", 0.02, 0.375 * 16),
        ("reducer", 0.06, 0.5 * (1 - (4 / 6) ** 2)),
        ("reducer", 0.02, 0.5625 * 16),
    ],
)
def test_another_bore_costs_either_way(kind: str, other: float, k: float) -> None:
    assert FITTINGS[kind].loss(0.04, other) == pytest.approx(k)
