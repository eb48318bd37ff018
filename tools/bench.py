"""Speed, as ratios against references timed in the same run. Called by ``make bench``."""

import html
import http.cookiejar
import re
import statistics
import sys
import tempfile
import time
import urllib.parse
import urllib.request
from collections.abc import Callable
from pathlib import Path

from bathys.pipeline import assess
from bathys.plan import load_plan

sys.path.insert(0, str(Path(__file__).resolve().parent.parent))
from tests.engine.epanet import epanet_flow

EXAMPLE = Path(__file__).resolve().parent.parent / "examples" / "stacked-pair.json"


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


def _edit_time(address: str) -> tuple[float, float]:
    """Median seconds of an edit, and of a page that does nothing, over loopback."""
    visitor = _Visitor(address)
    visitor.get("/accounts/login/")
    shelf = visitor.post("/accounts/demo/")
    path = html.unescape(re.search(r'href="(/plans/[0-9a-f-]{36}/)"', shelf)[1])  # type: ignore[index]
    base = [1]

    def edit() -> None:
        height = 1100 + base[0] % 200
        answer = visitor.post(
            f"{path}edit/", htmx=True, base=base[0], part="B1",
            path="vessels.B1.floor_height", text=f"{height} mm",
        )  # fmt: skip
        base[0] = int(re.search(r'id="base" value="(\d+)"', answer)[1])  # type: ignore[index]

    visitor.get(path)
    return _median(edit, 40), _median(lambda: visitor.get("/plan.schema.json"), 40)


def main(address: str) -> None:
    """Print each figure with its reference and their ratio."""
    plan = load_plan(EXAMPLE.read_bytes())
    own = _median(lambda: assess(plan), 60)
    with tempfile.TemporaryDirectory() as folder:
        riser = assess(plan).evaluation.loops[0]
        pipe = next(p for p in riser.loop.line.pieces if p.kind == "friction")
        points = [(0.0, 1.7), (2e-4, 1.3), (4e-4, 0.13)]
        epanet = _median(
            lambda: epanet_flow(points, riser.duty.lift, pipe.length, pipe.area_bore,
                                pipe.roughness, 5.0, 1e-6, Path(folder)), 10,
        )  # fmt: skip
    edit, schema = _edit_time(address)
    rows = [
        ("assess, demo plan", own, "EPANET through wntr, its riser alone", epanet, 0.015),
        ("an edit over loopback", edit, "a page without a plan", schema, 0.150),
    ]
    print(f"{'what':<24}{'median':>10}  {'wanted':>8}  {'ratio':>7}  against")
    for what, seconds, against, reference, wanted in rows:
        print(
            f"{what:<24}{seconds * 1e3:>7.1f} ms  {wanted * 1e3:>5.0f} ms  "
            f"{seconds / reference:>6.2f}×  {against} ({reference * 1e3:.1f} ms)"
        )


if __name__ == "__main__":
    main(sys.argv[1])
