"""Compiled without reference counts and put into one another, the laws and the simulation give the
same figures to the last bit."""

import hashlib
import os
import subprocess
import sys
from pathlib import Path

import numpy as np

from bathys.network import GravityLineArrays, gravity_lines
from bathys.network.layout import layout_of
from bathys.physics.water import water_at
from bathys.plan import load_plan
from bathys.simulation import simulate

EXAMPLE = Path(__file__).resolve().parents[2] / "examples" / "twelve-beds.json"

COUNTED = """
import numba
plain = numba.njit
usual = ("_nrt", "forceinline")
numba.njit = lambda *a, **k: plain(*a, **{x: y for x, y in k.items() if x not in usual})
from tests.engine.test_compiling import levels_needed, levels_through_time
print(levels_needed(), levels_through_time())
"""


def levels_needed() -> str:
    """A fingerprint of what every line of the example needs at many flows and tailwaters."""
    layout = layout_of(load_plan(EXAMPLE.read_bytes()), water_at(20.0))
    bank = GravityLineArrays(gravity_lines(layout))
    count = len(bank.lines)
    told = [
        bank.need(np.full(count, flow), np.full(count, tail))
        for flow in np.geomspace(1e-7, 1e-2, 40)
        for tail in (-np.inf, 0.2, 0.6, 1.1)
    ]
    return hashlib.sha256(np.array(told).tobytes()).hexdigest()


def levels_through_time() -> str:
    """A fingerprint of an hour of the example: every level, and when each siphon starts."""
    found = simulate(load_plan(EXAMPLE.read_bytes()), 1.0)
    starts = np.array([e.time for e in found.events])
    return hashlib.sha256(found.levels.tobytes() + starts.tobytes()).hexdigest()


def test_figures_are_the_same_with_reference_counts(tmp_path: Path) -> None:
    environment = {**os.environ, "NUMBA_CACHE_DIR": str(tmp_path)}
    counted = subprocess.run(
        [sys.executable, "-c", COUNTED],
        env=environment,
        capture_output=True,
        text=True,
        cwd=EXAMPLE.parents[1],
        check=True,
    )
    assert counted.stdout.split() == [levels_needed(), levels_through_time()]


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
            cwd=EXAMPLE.parents[1],
            text=True,
            stdout=subprocess.PIPE,
        )

    together = [start() for _ in range(3)]
    told = [process.communicate()[0] for process in together]
    told.append(start().communicate()[0])
    assert [process.returncode for process in together] == [0, 0, 0]
    assert told[0] and told == [told[0]] * 4
