"""Compiled without reference counts and put into one another, the laws and the simulation give the
figures that they give uncompiled."""

import json
import os
import subprocess
import sys
from pathlib import Path

import numpy as np
import pytest

from bathys.network import GravityLineArrays, gravity_lines
from bathys.network.layout import layout_of
from bathys.physics.water import water_at
from bathys.plan import load_plan
from bathys.simulation import simulate

EXAMPLES = Path(__file__).resolve().parents[2] / "examples"
_HOURS = {"stacked-pair": 0.4, "twelve-beds": 0.15, "cascade-float-lift": 0.3, "split-flow": 0.3}

UNCOMPILED = """
import json
from tests.engine.test_compiling import levels_needed, levels_through_time
print(json.dumps([levels_needed(), levels_through_time()]))
"""


def levels_needed() -> list[float]:
    """What every line of an example needs at many flows and tailwaters."""
    plan = load_plan((EXAMPLES / "twelve-beds.json").read_bytes())
    arrays = GravityLineArrays(gravity_lines(layout_of(plan, water_at(20.0))))
    count = len(arrays.lines)
    told = [
        arrays.need(np.full(count, flow), np.full(count, tail))
        for flow in np.geomspace(1e-7, 1e-2, 12)
        for tail in (-np.inf, 0.2, 0.6, 1.1)
    ]
    return [float(value) for value in np.array(told).ravel()]


def levels_through_time() -> list[float]:
    """Every level of some examples through some minutes, and when something happens there."""
    told: list[float] = []
    for name, hours in _HOURS.items():
        found = simulate(load_plan((EXAMPLES / f"{name}.json").read_bytes()), hours)
        told += [*found.levels.ravel().tolist(), *(event.time for event in found.events)]
    return told


def test_compiled_figures_are_those_of_what_is_not_compiled() -> None:
    """What is freed too early reads as whatever stands there then: no rounding hides it."""
    uncompiled = subprocess.run(
        [sys.executable, "-c", UNCOMPILED],
        env={**os.environ, "NUMBA_DISABLE_JIT": "1"},
        capture_output=True,
        text=True,
        cwd=EXAMPLES.parent,
        check=True,
    )
    needed, through_time = json.loads(uncompiled.stdout)
    assert levels_needed() == pytest.approx(needed, rel=1e-12, abs=1e-15)
    assert levels_through_time() == pytest.approx(through_time, rel=1e-11)


FRICTION = """
import numpy as np
from bathys.physics.friction import friction_head
from bathys.physics.pipe_mouth import entry_head
flows = np.linspace(0.0, 1e-3, 50)
print(friction_head(flows, 0.03, 2.0, 1e-5, 1e-6)[0].sum(), entry_head(flows, 0.03)[0].sum())
"""


def test_processes_that_start_cold_together_share_what_they_compile(tmp_path: Path) -> None:
    """One killed the other once, and every process after them."""
    environment = {**os.environ, "NUMBA_CACHE_DIR": str(tmp_path)}

    def start() -> subprocess.Popen[str]:
        return subprocess.Popen(
            [sys.executable, "-c", FRICTION],
            env=environment,
            cwd=EXAMPLES.parent,
            text=True,
            stdout=subprocess.PIPE,
        )

    together = [start() for _ in range(3)]
    told = [process.communicate()[0] for process in together]
    told.append(start().communicate()[0])
    assert [process.returncode for process in together] == [0, 0, 0]
    assert told[0] and told == [told[0]] * 4
