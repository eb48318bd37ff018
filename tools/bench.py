"""Speed, as ratios against references timed in the same run. Called by ``make bench``."""

import gzip
import html
import http.cookiejar
import json
import os
import re
import resource
import statistics
import subprocess
import sys
import tempfile
import time
import urllib.parse
import urllib.request
import warnings
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parent.parent))
from bathys.design import DesignRefused, brief_from_data, design
from bathys.evaluation import evaluate
from bathys.evaluation.resilience import run_resilience
from bathys.network import Balance, NotSolved, balance, solve
from bathys.network.layout import pressure_network
from bathys.parts.pumps import sample_pumps
from bathys.physics.water import water_at
from bathys.pipeline import assess
from bathys.plan import load_plan
from bathys.quality import Constituent, flow_net, solids_of, steady
from bathys.quality.water import water_of
from bathys.simulation import simulate
from bathys.sizing import search_pumps
from tests.engine.eight_beds import split_flow_beds
from tests.engine.epanet import epanet_flows, power_law_points
from tests.engine.random_briefs import random_brief
from tests.engine.random_plans import random_plan
from tests.engine.terrace import terrace
from tests.engine.two_beds import two_beds, worst_deviation

EXAMPLE = Path(__file__).resolve().parent.parent / "examples" / "stacked-pair.json"
TWELVE = EXAMPLE.with_name("twelve-beds.json")
RANDOM_LAYOUTS = 10_000
_WATER = water_at(20.0)

Row = tuple[str, float, str, float, float]


def _median(work: Callable[[], object], runs: int) -> float:
    work()
    times = []
    for _ in range(runs):
        start = time.perf_counter()
        work()
        times.append(time.perf_counter() - start)
    return statistics.median(times)


class _Visitor:
    """A browser without eyes: keeps cookies, sends the form's own token."""

    def __init__(self, address: str) -> None:
        jar = urllib.request.HTTPCookieProcessor(http.cookiejar.CookieJar())
        self.opener = urllib.request.build_opener(jar)
        self.address = address
        self.token = ""

    def get(self, path: str) -> str:
        page: str = self.opener.open(self.address + path).read().decode()
        found = re.search(r'name="csrfmiddlewaretoken" value="([^"]+)"', page)
        self.token = found[1] if found else self.token
        return page

    def post(self, where: str, /, htmx: bool = False, **fields: object) -> str:
        data = urllib.parse.urlencode({"csrfmiddlewaretoken": self.token, **fields}).encode()
        request = urllib.request.Request(self.address + where, data)
        request.add_header("Referer", self.address)
        if htmx:
            request.add_header("HX-Request", "true")
        answer: str = self.opener.open(request).read().decode()
        return answer


def _edits(address: str, plan: str, height: int, runs: int) -> list[float]:
    """Seconds of each of some edits of a demo plan over loopback: a bed raised again and again."""
    visitor = _Visitor(address)
    path = _signed_in(visitor, plan)
    base = int(re.search(r'id="base" value="(\d+)"', visitor.get(path))[1])  # type: ignore[index]
    times = []
    for number in range(runs):
        begun = time.perf_counter()
        answer = visitor.post(
            f"{path}edit/",
            htmx=True,
            base=base,
            part="B1",
            path="vessels.B1.floor_height",
            text=f"{height + number % 40} mm",
        )
        times.append(time.perf_counter() - begun)
        base = int(re.search(r'id="base" value="(\d+)"', answer)[1])  # type: ignore[index]
    return times


def _drags(address: str, plan: str, runs: int) -> list[float]:
    """Seconds of each of some drags on the ground plan of a demo plan: its tank to and fro."""
    visitor = _Visitor(address)
    path = _signed_in(visitor, plan)
    page = visitor.get(f"{path}ground/")
    times = []
    for number in range(runs):
        base = re.search(r'data-base="(\d+)"', page)[1]  # type: ignore[index]
        begun = time.perf_counter()
        page = visitor.post(
            f"{path}ground/",
            htmx=True,
            base=base,
            part="T1",
            verb="place",
            at=f"{2.0 + 0.05 * (number % 20):.2f},2.0",
        )
        times.append(time.perf_counter() - begun)
    return times


def _sheet(address: str, plan: str) -> tuple[float, float]:
    """Seconds of a build sheet as a page, and as a PDF from asking to having it."""
    visitor = _Visitor(address)
    path = _signed_in(visitor, plan)
    page = _median(lambda: visitor.get(f"{path}build/"), 9)
    begun = time.perf_counter()
    answer = visitor.post(f"{path}build/paper/A4/", htmx=True)
    while "/file/" not in answer:
        time.sleep(0.1)
        answer = visitor.get(f"{path}build/paper/A4/")
    return page, time.perf_counter() - begun


def _readings(address: str, plan: str) -> tuple[float, float]:
    """Seconds of a message of 500 readings through the API, and of a chart of their day."""
    visitor = _Visitor(address)
    path = f"{_signed_in(visitor, plan)}run/instruments/"
    visitor.get(path)
    page = visitor.post(f"{path}new/", name="Bench", measures="level T1")
    token = re.search(r'id="new-token" value="([^"]+)"', page)[1]  # type: ignore[index]
    chart = re.search(r'href="(/plans/[^"]+/run/instruments/\d+/)"', page)[1]  # type: ignore[index]
    last = [time.time()]

    def send() -> None:
        rows = [
            {"channel": "level-t1", "at": last[0] - 2.0 * n, "value": 500 + n % 50}
            for n in range(500)
        ]
        last[0] -= 1000.0
        request = urllib.request.Request(
            f"{address}/api/readings/",
            json.dumps({"readings": rows}).encode(),
            {"Authorization": f"Bearer {token}", "Content-Type": "application/json"},
        )
        if json.loads(urllib.request.urlopen(request).read())["kept"] != 500:
            raise SystemExit("A board’s readings were not kept.")

    sent = _median(send, 80)
    return sent, _median(lambda: visitor.get(chart), 9)


def _signed_in(visitor: _Visitor, plan: str) -> str:
    """The demo account's plan of this name."""
    visitor.get("/accounts/login/")
    page = visitor.post("/accounts/demo/")
    found = re.search(rf'href="(/plans/[0-9a-f-]{{36}}/)">{plan}', page)
    return html.unescape(found[1])  # type: ignore[index]


def _weigh(address: str) -> list[str]:
    """What a first visit to the twelve beds takes over the wire, fonts and all, and its picture."""
    visitor = _Visitor(address)
    path = _signed_in(visitor, "Glasshouse")
    visitor.opener.addheaders = [("Accept-Encoding", "gzip")]
    begun = time.perf_counter()
    sent = visitor.opener.open(address + path).read()
    page = gzip.decompress(sent).decode()
    total = len(sent)
    seen = dict.fromkeys(re.findall(r'(?:src|href)="(/static/[^"]+)"', page))
    for asset in seen:
        body = visitor.opener.open(address + asset).read()
        total += len(body)
        if asset.endswith(".css"):
            text = (gzip.decompress(body) if body[:2] == b"\x1f\x8b" else body).decode()
            for font in re.findall(r'url\("?([^")]+woff2)"?\)', text):
                where = urllib.parse.urljoin(asset, font)
                total += len(visitor.opener.open(address + where).read())
    took = time.perf_counter() - begun
    picture = re.search(r"<svg viewBox.*?</svg>", page, re.DOTALL)
    drawn = len(picture[0].encode()) if picture else 0
    return [
        f"first load of twelve beds: {total / 1024:.0f} KB over the wire (wanted 700), "
        f"{took:.2f} s one after the other (wanted 1)",
        f"side view of twelve beds: {drawn / 1024:.0f} KB (wanted 300)",
    ]


def _epanet_time(now: Balance, runs: int) -> float:
    """EPANET through wntr on the same pumped runs, its file written and read as it must be."""
    network = pressure_network(now.layout, now.levels)
    curves = {p.id: power_law_points(p.curve.max_flow, p.curve.max_head) for p in now.plan.pumps}  # type: ignore[union-attr]
    with tempfile.TemporaryDirectory() as folder:
        return _median(lambda: epanet_flows(network, curves, Path(folder)), runs)


def _network_rows() -> list[Row]:
    rows: list[Row] = []
    for beds, wanted, again, runs in ((10, 0.002, 0.004, 40), (100, 0.015, 0.03, 10)):
        plan = terrace(beds)
        now = balance(plan, _WATER)
        network = pressure_network(now.layout, now.levels)
        epanet = _epanet_time(now, runs)
        against = f"EPANET through wntr, its {2 * beds} pumped runs"
        rows += [
            (
                f"{3 * beds} runs: pumped part",
                _median(lambda n=network: solve(n), runs),
                against,
                epanet,
                wanted,
            ),
            (
                f"{3 * beds} runs: every level",
                _median(lambda p=plan: balance(p, _WATER), runs),
                against,
                epanet,
                wanted,
            ),
            # A copy is another plan: its lines and laws are made again, as after an edit.
            (
                f"{3 * beds} runs: compiled again",
                _median(lambda p=plan: balance(p.model_copy(), _WATER), runs),
                against,
                epanet,
                again,
            ),
        ]
    plan = terrace(10)
    now = balance(plan, _WATER)
    catalogue = (sample_pumps() * 2)[:500]
    one = _median(lambda: balance(plan.model_copy(), _WATER), 15)
    rows.append(
        (
            "500 pumps on 30 runs",
            _median(lambda: search_pumps(now, plan.pumps[0], catalogue), 10),
            "500 balances of it",
            500 * one,
            2.0,
        )
    )
    return rows


def _quality_rows() -> list[Row]:
    """What the water carries: transport alone, and the solids of a plan with all that they need."""
    plan = load_plan(TWELVE.read_bytes())
    found = assess(plan).evaluation
    all_of_it = _median(lambda: assess(plan), 20)
    net, tank = flow_net(found), next(v.id for v in plan.vessels if v.use.keeps_fish)
    held = {v.id: 0.2 for v in plan.vessels if v.media is not None}
    carried = [Constituent(str(k), {tank: 1e-3}, held) for k in range(20)]
    against = "numbers and findings of twelve beds"
    runs = f"{len(plan.runs)} runs"
    return [
        (
            f"{runs}: 20 carried",
            _median(lambda: steady(net, carried), 40),
            against,
            all_of_it,
            0.01,
        ),
        (
            f"{runs}: water of all",
            _median(lambda: water_of(replace(found)), 40),
            against,
            all_of_it,
            0.01,
        ),
        (
            f"{runs}: solids by grain",
            # A copy is another evaluation: what is kept of the first does not count.
            _median(lambda: solids_of(replace(found)), 40),
            against,
            all_of_it,
            0.01,
        ),
    ]


def _simulation_rows() -> list[Row]:
    """Days of eight and twelve beds, a live edit's hour, a resilience run, how cost grows with
    beds, and two beds beside scipy's integrator."""
    plan, twelve = split_flow_beds(8), load_plan(TWELVE.read_bytes())
    day, hour = _median(lambda: simulate(plan, 24.0), 9), _median(lambda: simulate(plan, 1.0), 25)
    large = _median(lambda: simulate(split_flow_beds(8, chamber=0.53), 24.0), 5)
    long_day = _median(lambda: simulate(twelve, 24.0), 5)
    evaluation = evaluate(twelve)
    resilience = _median(lambda: run_resilience(evaluation), 5)
    rows = []
    for beds in (16, 32, 64, 100):
        many = split_flow_beds(beds)
        found = _median(lambda p=many: simulate(p, 24.0), 3)
        linear = beds / 8
        rows.append(
            (f"{beds} beds, 24 h", found, f"8 beds (linear: {linear:g})", day, linear * day)
        )
    two, follow_by_scipy = two_beds()
    begun = time.perf_counter()
    beds_by_scipy = follow_by_scipy(3.0)
    scipy = time.perf_counter() - begun
    ours = _median(lambda: simulate(two, 3.0), 10)
    worst = worst_deviation(beds_by_scipy, simulate(two, 3.0))
    print(
        f"two unequal beds, 3 h: a fill or drain time is off by {worst:.3%} at most (wanted 0.05 %)"
    )
    return [
        ("8 beds, 24 h", day, "the same with a chamber 100 times as large", large, 0.1),
        ("12 unequal beds, 24 h", long_day, "8 beds, 24 h", day, 0.3),
        ("a live edit: 8 beds, 1 h", hour, "24 h (linear: 0.04)", day, 0.01),
        ("resilience of twelve beds", resilience, "a day of them", long_day, 1.5),
        *rows,
        ("2 unequal beds, 3 h", ours, "scipy's LSODA at 1e-9 on them", scipy, 0.05),
    ]


def _cold_start() -> float:
    """A new process until it has followed a plan through time, compiled code kept on disk."""
    code = (
        "from bathys.plan import load_plan; from bathys.simulation import simulate; "
        f"simulate(load_plan(open({str(EXAMPLE)!r}, 'rb').read()), 24.0)"
    )
    begun = time.perf_counter()
    subprocess.run([sys.executable, "-c", code], check=True)
    return time.perf_counter() - begun


def _try_random_layouts(count: int) -> None:
    begun, failed = time.perf_counter(), []
    for seed in range(count):
        try:
            balance(random_plan(seed), _WATER)
        except NotSolved as error:
            failed.append((seed, str(error)))
    each = (time.perf_counter() - begun) / count
    print(f"{count} random layouts: {len(failed)} not solved, {each * 1e3:.1f} ms each")
    for seed, reason in failed:
        print(f"  seed {seed}: {reason}")


def _try_random_briefs(count: int) -> None:
    """How many of so many drawn briefs are refused, and how long one takes."""
    refused, times = 0, list[float]()
    for number in range(count):
        begun = time.perf_counter()
        try:
            design(brief_from_data(random_brief(number)))
        except DesignRefused:
            refused += 1
        times.append(time.perf_counter() - begun)
    print(
        f"{count} random briefs from number 0: {refused} refused (15 % at most wanted), "
        f"three answers in {statistics.median(times):.1f} s, the slowest in {max(times):.1f} s"
    )


def main(address: str) -> None:
    """Print each figure with its reference and their ratio."""
    warnings.filterwarnings("ignore", module="wntr")
    plan = load_plan(EXAMPLE.read_bytes())
    demo = balance(plan, _WATER)
    edit = statistics.median(_edits(address, "Heron Lane", 1100, 41)[1:])
    large = statistics.quantiles(_edits(address, "Glasshouse", 740, 41)[1:], n=20)[-1]
    drag = statistics.median(_drags(address, "Heron Lane", 41)[1:])
    drags = statistics.quantiles(_drags(address, "Glasshouse", 41)[1:], n=20)[-1]
    sheet, paper = _sheet(address, "Glasshouse")
    sent, chart = _readings(address, "Heron Lane")
    visitor = _Visitor(address)
    schema = _median(lambda: visitor.get("/plan.schema.json"), 40)
    rows = [
        (
            "assess, demo plan",
            _median(lambda: assess(plan), 40),
            "EPANET through wntr, its riser alone",
            _epanet_time(demo, 10),
            0.015,
        ),
        *_network_rows(),
        *_quality_rows(),
        *_simulation_rows(),
        ("first simulation, cold", _cold_start(), "a page without a plan", schema, 2.0),
        ("an edit over loopback", edit, "a page without a plan", schema, 0.035),
        ("twelve beds, 95 % of edits", large, "an edit of the demo plan", edit, 0.090),
        ("a drag on the ground plan", drag, "an edit of the demo plan", edit, 0.1),
        ("twelve beds, 95 % of drags", drags, "the same", edit, 0.1),
        ("build sheet of twelve beds", sheet, "an edit of the demo plan", edit, 1.0),
        ("the same as PDF", paper, "its page", sheet, 15.0),
        ("500 readings of a board", sent, "an edit of the demo plan", edit, 0.25),
        ("a chart of their day", chart, "the same", edit, 0.2),
    ]
    print(f"{'what':<26}{'median':>10}  {'wanted':>8}  {'ratio':>7}  against")
    for what, seconds, against, reference, wanted in rows:
        print(
            f"{what:<26}{seconds * 1e3:>7.1f} ms  {wanted * 1e3:>5.0f} ms  "
            f"{seconds / reference:>6.2f}×  {against} ({reference * 1e3:.1f} ms)"
        )
    print(*_weigh(address), sep="\n")
    _try_random_layouts(RANDOM_LAYOUTS)
    _try_random_briefs(int(os.environ.get("BRIEFS", "60")))
    most = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
    print(f"memory of this process, reference libraries and all: {most:.0f} MB")


if __name__ == "__main__":
    main(sys.argv[1])
    # In a process of its own, since it kills and starts others.
    subprocess.run([sys.executable, "tools/bad_day.py", sys.argv[1]], check=True)
