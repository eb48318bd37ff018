"""Everything the engine tells of every example and fault plan, to hold a change of code against.

python tools/golden.py write FILE      before the change
python tools/golden.py compare FILE    after it: each figure equal to 1e-12, or it is named
"""

import gzip
import json
import math
import sys
from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor
from itertools import chain
from pathlib import Path
from typing import Any

from bathys.network import NotSolved
from bathys.pipeline import assess, assess_dynamic
from bathys.plan import load_plan
from bathys.simulation import NotSimulated

PROJECT = Path(__file__).resolve().parent.parent
SAME = 1e-12
_FOLDERS = ("examples", "examples/practice", "examples/faults", "tests/engine/plans")


def _findings(findings: Any) -> dict[str, Any]:
    """By rule, part and severity, with their figures."""
    found: dict[str, Any] = {}
    for finding in findings:
        name = f"{finding.rule.id} {finding.place} {finding.severity}"
        found.setdefault(name, []).append(dict(sorted(finding.figures.items())))
    return found


def told(path: Path) -> dict[str, Any]:
    """All that is told of one plan, as plain data.

    Parameters
    ----------
    path : Path
        A plan file

    Returns
    -------
    dict
        Figures by key, findings, events of a run from rest until it repeats itself, and the verdict
        on everything that may fail
    """
    plan = load_plan(path.read_bytes())
    try:
        found = assess(plan)
    except NotSolved as error:
        return {"not solved": str(error)}
    data: dict[str, Any] = {
        "figures": {f.key: f.value for f in chain(found.figures, found.details)},
        "findings": _findings(found.findings),
    }
    try:
        dynamic = assess_dynamic(found)
    except (NotSimulated, NotSolved) as error:
        return {**data, "not followed": str(error)}
    through = dynamic.resilience.periodic.through
    return {
        **data,
        "dynamic": _findings(dynamic.findings),
        "events": [[e.time, e.kind, e.place] for e in through.events],
        "levels": {v.id: [float(z) for z in through.level(v.id)[::100]] for v in plan.vessels},
        "failures": [
            [w.failure.kind, w.failure.place, w.spilled, w.tank_left, w.half_after]
            for w in dynamic.resilience.outcomes
        ],
    }


def all_told() -> dict[str, Any]:
    """Of every plan that ships, by its file's name."""
    paths = sorted(p for f in _FOLDERS for p in (PROJECT / f).glob("*.json"))
    with ProcessPoolExecutor() as pool:
        return dict(
            zip((str(p.relative_to(PROJECT)) for p in paths), pool.map(told, paths), strict=True)
        )


def differences(one: Any, two: Any, way: str = "") -> Iterator[str]:
    """Where two of these differ by more than ``SAME``, in words."""
    if isinstance(one, dict) and isinstance(two, dict):
        for key in sorted({*one, *two}):
            if key not in one or key not in two:
                yield f"{way} {key}: only {'after' if key not in one else 'before'}"
            else:
                yield from differences(one[key], two[key], f"{way} {key}")
    elif isinstance(one, list) and isinstance(two, list) and len(one) == len(two):
        for number, (a, b) in enumerate(zip(one, two, strict=True)):
            yield from differences(a, b, f"{way} {number}")
    elif isinstance(one, float) and isinstance(two, float):
        are_both_nothing = math.isnan(one) and math.isnan(two)
        if not (math.isclose(one, two, rel_tol=SAME) or are_both_nothing):
            yield f"{way}: {one!r} → {two!r}"
    elif one != two:
        yield f"{way}: {str(one)[:80]} → {str(two)[:80]}"


def main(what: str, file: str) -> int:
    """Write or compare; how many differences there are, as an exit code of at most 1."""
    now = json.loads(json.dumps(all_told()))
    if what == "write":
        Path(file).write_bytes(gzip.compress(json.dumps(now).encode()))
        print(f"{len(now)} plans are told in {file}.")
        return 0
    found = list(differences(json.loads(gzip.decompress(Path(file).read_bytes())), now))
    print(*found[:200], sep="\n")
    print(f"{len(found)} differences in {len(now)} plans.")
    return int(bool(found))


if __name__ == "__main__":
    raise SystemExit(main(*sys.argv[1:3]))
