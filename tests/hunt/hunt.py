"""A search for plans that do harm while nothing is said.

``make hunt`` [minutes] edits the examples at random, works each plan out, follows it through a day
and a power cut, and holds what happens against what was told. ``make test`` runs a few fixed seeds.
"""

import random
import signal
import sys
import time
from collections import Counter
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from bathys.network import NotSolved
from bathys.pipeline import assess, assess_dynamic
from bathys.plan import BadPlan, Plan, load_plan, plan_from_data
from bathys.rules import Finding
from bathys.simulation import Doings, NotSimulated, PowerCut, simulate
from tests.hunt.harms import Harm, false_alarms, harms_of, is_told
from tests.hunt.operators import mutate

__all__ = ["Case", "hunt_one"]

EXAMPLES = [
    *sorted(Path("examples").glob("*.json")),
    *sorted(Path("examples/practice").glob("*.json")),
]
_TRIES = 6  # edits drawn until one leaves a plan
_MOST_SECONDS = 60  # a plan that takes longer hangs
_DAY = 24.0
_CUT_LASTS = 7200.0
_WANTED_HARMFUL = 300


class _Hangs(Exception):
    pass


@dataclass
class Case:
    """One plan of the hunt.

    Attributes
    ----------
    seed, example : int, str
        Where it came from
    words : list of str
        Its edits
    status : str
        ``followed``, ``refused``, ``unsolved``, ``hung`` or ``broken``
    harms, untold : list of Harm
        What went wrong, and what of it nobody told
    alarms : list of Finding
        Faults told where nothing was seen
    faults : int
        Faults told in all
    why : str
        What a refusal or a breakdown said
    """

    seed: int
    example: str
    words: list[str]
    status: str = "followed"
    harms: list[Harm] = field(default_factory=list)
    untold: list[Harm] = field(default_factory=list)
    alarms: list[Finding] = field(default_factory=list)
    faults: int = 0
    why: str = ""
    document: dict[str, Any] = field(default_factory=dict)


@contextmanager
def _bounded(seconds: int) -> Iterator[None]:
    def ring(_number: int, _frame: object) -> None:
        raise _Hangs

    before = signal.signal(signal.SIGALRM, ring)
    signal.alarm(seconds)
    try:
        yield
    finally:
        signal.alarm(0)
        signal.signal(signal.SIGALRM, before)


def _edited(seed: int) -> tuple[Case, Plan | None]:
    pick = random.Random(seed)
    path = pick.choice(EXAMPLES)
    document = load_plan(path.read_bytes()).model_dump(mode="json", by_alias=True)
    case, plan = Case(seed, path.stem, []), None
    for _ in range(pick.randint(1, 3)):
        for _ in range(_TRIES):
            changed, words = mutate(document, pick)
            try:
                plan = plan_from_data(changed)
            except BadPlan as bad:
                case.why = str(bad)
                continue
            document = changed
            case.words.append(words)
            break
    case.document = document
    return case, plan


def hunt_one(seed: int) -> Case:
    """Edit an example by a seed, and hold what its plan does against what is told of it."""
    case, plan = _edited(seed)
    if plan is None:
        case.status = "refused"
        return case
    try:
        with _bounded(_MOST_SECONDS):
            _follow(case, plan)
    except _Hangs:
        case.status = "hung"
    except NotSimulated as error:
        case.status, case.why = "refused", str(error)
    except NotSolved as error:
        case.status, case.why = "unsolved", str(error)
    except Exception as error:
        case.status, case.why = "broken", f"{type(error).__name__}: {error}"
    return case


def _follow(case: Case, plan: Plan) -> None:
    found = assess(plan)
    hours = 2.0 * _DAY if plan.transfers else _DAY
    cut = PowerCut((hours - 3.0) * 3600.0, _CUT_LASTS)
    run = simulate(plan, hours, Doings(cut), 30.0)
    case.harms = harms_of(run, cut.begins)
    told = found.findings
    case.untold = [h for h in case.harms if not is_told(h, told, plan)]
    if case.untold and any(plan.run_from(f"{p.id}.out") for p in plan.pumps):
        told = (*told, *assess_dynamic(found, with_failures=False).findings)
        case.untold = [h for h in case.harms if not is_told(h, told, plan)]
    case.alarms = false_alarms(told, case.harms, hours * 3600.0)
    case.faults = sum(f.severity == "fault" for f in told)


def _say(case: Case) -> None:
    what = [f"{h.kind} {h.place}" for h in case.untold]
    what += [f"alarm {f.rule.id} {f.place}" for f in case.alarms]
    if what or case.status in ("unsolved", "hung", "broken"):
        print(f"{case.status} seed {case.seed} {case.example}: {'; '.join(what)} {case.why}")
        for words in case.words:
            print(f"    {words}")


def main(minutes: float, seed: int | None = None) -> int:
    """Hunt for so long, and until enough harmful plans were seen; print the tally."""
    first = seed if seed is not None else int(time.time())
    print(f"seed {first}", flush=True)
    until, tally, number = time.monotonic() + 60.0 * minutes, Counter[str](), first
    while time.monotonic() < until or tally["harmful"] < _WANTED_HARMFUL:
        case = hunt_one(number)
        number += 1
        tally[case.status] += 1
        tally["harms"] += len(case.harms)
        tally["harmful"] += bool(case.harms)
        tally["untold"] += len(case.untold)
        tally["faults"] += case.faults
        tally["false alarms"] += len(case.alarms)
        _say(case)
        if time.monotonic() > until + 60.0 * minutes:
            break  # twice as long as asked for is enough
    plans = number - first
    print(f"{plans} plans, {tally['harmful']} of them harmful, {tally['harms']} harms")
    for name in ("untold", "broken", "hung", "unsolved"):
        print(f"{name} {tally[name]}")
    share = tally["false alarms"] / max(tally["faults"], 1)
    print(f"false alarms {tally['false alarms']} of {tally['faults']} faults, {100 * share:.1f} %")
    print(f"refused {tally['refused']}, {100 * tally['refused'] / max(plans, 1):.1f} %")
    clean = not (tally["untold"] or tally["broken"] or tally["hung"])
    return 0 if clean and share <= 0.10 and tally["refused"] <= 0.05 * plans else 1


if __name__ == "__main__":
    words = sys.argv[1:]
    sys.exit(main(float(words[0]) if words else 10.0, int(words[1]) if len(words) > 1 else None))
