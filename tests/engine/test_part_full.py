"""Part-full pipes, mouths and drops against printed tables."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from bathys.physics import GRAVITY, area_of
from bathys.physics.drop import drop_froude, drop_regime
from bathys.physics.friction import friction_head, hazen_williams_head
from bathys.physics.part_full import (
    critical_depth,
    critical_head,
    critical_table,
    manning_flow,
    normal_depth,
    section,
    surface_profile,
)
from bathys.physics.pipe_mouth import entry_head, mouth_head

pytestmark = pytest.mark.uncompiled

# Hydraulic elements of a circular section, n constant: d/D, Q/Q full, V/V full.
# Chow (1959), Open-Channel Hydraulics, fig. 6-5 and the usual tables of drainage manuals (memory).
ELEMENTS = [
    (0.10, 0.0209, 0.401), (0.20, 0.0876, 0.615), (0.25, 0.137, 0.701), (0.30, 0.196, 0.776),
    (0.40, 0.337, 0.902), (0.50, 0.500, 1.000), (0.60, 0.672, 1.072), (0.70, 0.837, 1.120),
    (0.75, 0.911, 1.133), (0.80, 0.977, 1.140), (0.90, 1.066, 1.124),
]  # fmt: skip

# Section factor of critical flow, Q/(√g D^2.5): Chow (1959), appendix A (memory).
CRITICAL = [
    (0.10, 0.0107),
    (0.20, 0.0418),
    (0.30, 0.0921),
    (0.40, 0.1603),
    (0.50, 0.2459),
    (0.60, 0.3487),
    (0.70, 0.4694),
    (0.80, 0.6177),
]


@pytest.mark.parametrize(("fill", "flow", "velocity"), ELEMENTS)
def test_manning_agrees_with_the_table_of_elements(
    fill: float, flow: float, velocity: float
) -> None:
    """Within the table's last figure."""
    ratio = float(manning_flow(fill, 0.1, 0.02) / manning_flow(1.0, 0.1, 0.02))
    assert ratio == pytest.approx(flow, rel=0.006)
    wet = float(section(fill).area) / (0.25 * np.pi)
    assert ratio / wet == pytest.approx(velocity, rel=0.006)


def test_a_drain_carries_most_a_little_below_full() -> None:
    """At 0.938 of its bore it carries 1.076 times its full flow (Chow 1959, memory)."""
    fills = np.linspace(0.5, 1.0, 501)
    flows = manning_flow(fills, 1.0, 1.0)
    assert fills[np.argmax(flows)] == pytest.approx(0.938, abs=0.002)
    assert flows.max() / flows[-1] == pytest.approx(1.076, abs=0.001)


@given(fill=st.floats(0.02, 0.93), bore=st.floats(0.02, 0.2), slope=st.floats(0.001, 0.1))
def test_normal_depth_inverts_manning(fill: float, bore: float, slope: float) -> None:
    """To within a part in a thousand."""
    flow = float(manning_flow(fill, bore, slope))
    assert normal_depth(flow, bore, slope) == pytest.approx(fill, rel=2e-3, abs=1e-4)


@pytest.mark.parametrize(("fill", "factor"), CRITICAL)
def test_critical_flow_agrees_with_the_table(fill: float, factor: float) -> None:
    """Q² T = g A³."""
    table = critical_table()
    assert float(np.interp(fill, table.depth, table.flow)) == pytest.approx(factor, rel=0.006)


@pytest.mark.parametrize("fill", [0.9, 0.975, 0.979, 0.981, 0.99, 0.995, 0.999, 0.9999])
def test_critical_depth_goes_on_to_the_crown_without_a_jump(fill: float) -> None:
    """Q² T = g A³ of a circle cut by the surface, in closed form (FHWA HDS-5, 2012)."""
    bore, angle = 0.05, 2.0 * np.arccos(1.0 - 2.0 * fill)
    area, top = bore**2 * (angle - np.sin(angle)) / 8.0, bore * np.sin(0.5 * angle)
    flow = float(np.sqrt(GRAVITY * area**3 / top))
    assert float(critical_depth(flow, bore)) == pytest.approx(fill, abs=2e-4)
    assert critical_head(flow, bore) == pytest.approx(fill * bore, abs=2e-4 * bore)


def test_a_mouth_stops_running_at_critical_depth_where_hds5_says() -> None:
    """FHWA HDS-5: E = 1.06 D and Q = 0.634 (π/4) D² √(g D) at y_c = 0.72 D."""
    bore = 0.05
    flow = 0.634 * area_of(bore) * np.sqrt(GRAVITY * bore)
    assert float(critical_depth(flow, bore)) == pytest.approx(0.72, abs=0.005)
    head, _ = entry_head(flow, bore)
    assert float(head) == pytest.approx(1.06 * bore, rel=0.01)


# HDS-5 (2012), table A.1, circular pipe with square-edged headwall (memory): unsubmerged form 1
# K = 0.0098, M = 2; submerged c = 0.0398, Y = 0.67; Ku = 1.811. Slope left out.
@pytest.mark.parametrize("intensity", [0.6, 1.0, 1.6, 2.2, 2.6])
def test_inlet_control_agrees_with_hds5(intensity: float) -> None:
    """Q/(A √D) in SI. A square edge loses up to 8 % more than a mouth that counts no edge, which
    here is counted with the pipe's own losses."""
    bore = 0.1
    flow = intensity * area_of(bore) * np.sqrt(bore)
    english = 1.811 * intensity
    if english < 3.5:
        critical, _ = mouth_head(flow, bore)
        theirs = critical / bore + 0.0098 * english**2
    else:
        theirs = 0.0398 * english**2 + 0.67
    ours = float(entry_head(flow, bore)[0]) / bore
    assert 0.90 * theirs <= ours <= 1.01 * theirs


@given(flow=st.floats(1e-6, 0.02), bore=st.floats(0.015, 0.2))
def test_slopes_are_slopes_and_heads_rise(flow: float, bore: float) -> None:
    """The solvers' derivative is that of the law, and more flow always needs more head."""
    head, slope = mouth_head(flow, bore)
    ahead, _ = mouth_head(1.0001 * flow, bore)
    assert ahead > head
    assert slope == pytest.approx((ahead - head) / (1e-4 * flow), rel=0.05)
    assert critical_head(flow, bore) <= bore
    assert critical_head(flow, bore) == pytest.approx(
        bore * float(critical_depth(flow, bore)), rel=1e-6
    )


def test_a_long_pipe_comes_to_normal_depth() -> None:
    """Chow (1959): an M2 profile nears normal depth upstream."""
    flow, bore, slope = np.array([1.2e-3]), np.array([0.1]), np.array([0.002])
    energy = surface_profile(flow, bore, np.array([60.0]), slope, np.array([0.0]))
    fill = normal_depth(1.2e-3, 0.1, 0.002)
    speed = 1.2e-3 / (float(section(fill).area) * 0.01)
    assert energy[0] == pytest.approx(fill * 0.1 + speed**2 / (2 * GRAVITY), rel=0.01)


def test_a_short_level_pipe_stands_hardly_over_critical() -> None:
    """Over no length at all the energy is the critical energy."""
    bore, flow = np.array([0.05]), np.array([3e-4])
    nothing = np.array([0.0])
    short = surface_profile(flow, bore, np.array([1e-6]), nothing, nothing)
    assert short[0] == pytest.approx(float(entry_head(3e-4, 0.05)[0]), rel=0.02)
    longer = surface_profile(flow, bore, np.array([2.0]), nothing, nothing)
    assert longer[0] > short[0]


REGIMES = [(0.3, "vents itself"), (0.9, "surges"), (1.9, "mostly full"), (2.1, "full siphon")]


@pytest.mark.parametrize(("froude", "words"), REGIMES)
def test_drops_by_their_froude_number(froude: float, words: str) -> None:
    """Simpson (1968), Hills (1983), memory."""
    flow = froude * area_of(0.04) * np.sqrt(GRAVITY * 0.04)
    assert drop_regime(drop_froude(flow, 0.04) - 1e-9) == words


def test_hazen_williams_is_a_second_opinion() -> None:
    """1 L/s through 10 m of new 40 mm plastic: both within 6 % in turbulent flow, as the usual
    charts have them (memory)."""
    theirs = hazen_williams_head(1e-3, 0.04, 10.0, 150.0)
    one = np.array([1e-3])
    ours, _ = friction_head(one, one * 40, one * 1e4, one * 1.5e-3, 1.0034e-6)
    assert theirs == pytest.approx(float(ours[0]), rel=0.06)
