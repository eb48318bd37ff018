"""The site under a bad day: what each bar of it comes to. Called by ``make bench``."""

import http.cookiejar
import json
import os
import re
import signal
import statistics
import subprocess
import sys
import threading
import time
import urllib.error
import urllib.parse
import urllib.request
from collections import Counter
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import Any

PROJECT = Path(__file__).resolve().parent.parent
sys.path.insert(0, str(PROJECT))
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "bathys_web.config.settings")
import django

django.setup()
from django.contrib.auth import get_user_model
from django.test import Client

from bathys.plan import from_file, load_plan, plan_from_data
from bathys_web.computing.models import Computation
from bathys_web.plans.actions.create_plan import create_plan
from bathys_web.plans.storing import plan_of
from tests.typed import box_values

__all__ = ["bad_day"]

_MINUTE = 60.0
_USERS, _PLANS, _EDITS, _TYPED, _FLIGHT = 50, 100, 200, 5000, 12
_HTMX = {"HX-Request": "true"}


class _Visitor:
    """Somebody signed in, who opens a new connection for every request."""

    def __init__(self, address: str, user: Any) -> None:
        client = Client()
        client.force_login(user)
        self.address, self.user, self.token = address, user, ""
        self._jar = http.cookiejar.CookieJar()
        self._opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(self._jar))
        self._cookie = f"sessionid={client.cookies['sessionid'].value}"

    def ask(
        self, path: str, posted: dict[str, Any] | None = None, **headers: str
    ) -> tuple[int, str]:
        """Status and page."""
        data = None
        if posted is not None:
            fields = {"csrfmiddlewaretoken": self.token, **posted}
            data = urllib.parse.urlencode(fields, doseq=True).encode("utf-8", "replace")
        cookies = "; ".join([self._cookie, *(f"{c.name}={c.value}" for c in self._jar)])
        request = urllib.request.Request(
            self.address + path,
            data,
            headers={"Cookie": cookies, "Referer": self.address, **headers},
        )
        try:
            with self._opener.open(request, timeout=120) as answer:
                status, page = answer.status, answer.read().decode()
        except urllib.error.HTTPError as error:
            status, page = error.code, error.read().decode()
        found = re.search(r'name="csrfmiddlewaretoken" value="([^"]+)"', page)
        self.token = found[1] if found else self.token
        return status, page

    def timed(self, path: str, posted: dict[str, Any] | None = None, **headers: str) -> float:
        """Seconds until the page is there; whatever is no page stops the bench."""
        begun = time.perf_counter()
        status, _ = self.ask(path, posted, **headers)
        took = time.perf_counter() - begun
        if status != 200:
            raise SystemExit(f"{path} answered {status}")
        return took


def _user(name: str) -> Any:
    return get_user_model().objects.get_or_create(
        username=name, defaults={"email": f"{name}@bathys.example"}
    )[0]


def _plan(user: Any, name: str) -> Any:
    return create_plan(
        user, load_plan((PROJECT / "examples" / f"{name}.json").read_bytes()), "made"
    )


def _largest(user: Any) -> Any:
    """A plan about as large as one may be: the twelve beds six times."""
    data = from_file(json.loads((PROJECT / "examples" / "twelve-beds.json").read_text()))
    groups = [g for g, v in data.items() if isinstance(v, list)]
    ids = sorted((p["id"] for g in groups for p in data[g]), key=len, reverse=True)
    pattern = re.compile(rf'"({"|".join(ids)})((?:\.[a-z0-9_]+)?)"')
    for group in groups:
        text = json.dumps(data[group])
        data[group] = [
            p
            for n in range(6)
            for p in json.loads(pattern.sub(lambda m, n=n: f'"{m[1]}n{n}{m[2]}"', text))
        ]
    return create_plan(user, plan_from_data(data), "made")


def _until(is_so: Callable[[], bool], most: float = 120.0) -> float:
    begun = time.perf_counter()
    while not is_so():
        if time.perf_counter() - begun > most:
            raise SystemExit(f"nothing came within {most:.0f} s")
        time.sleep(0.05)
    return time.perf_counter() - begun


def _hours(visitor: _Visitor, saved: Any, hours: str) -> str:
    """Ask for a run of so many hours; its page."""
    form = {"hours": hours, "cut": "", "lasts": "", "event": ""}
    return visitor.ask(f"/plans/{saved.key}/bench/hours/", form, **_HTMX)[1]


def _followed(visitor: _Visitor, saved: Any, hours: str) -> float:
    """Seconds until a run is there that is asked for now."""
    address = f"/plans/{saved.key}/bench/hours/?hours={hours}&cut=&lasts=&event="
    begun = time.perf_counter()
    _hours(visitor, saved, hours)
    _until(lambda: "Level of every vessel" in visitor.ask(address, **_HTMX)[1])
    return time.perf_counter() - begun


def _long_workers() -> list[int]:
    found = []
    for path in Path("/proc").glob("[0-9]*/cmdline"):
        words = path.read_bytes().split(b"\0") if path.exists() else []
        if b"work" in words and b"long" in words:
            found.append(int(path.parent.name))
    return found


def _killed_worker(address: str) -> Iterator[str]:
    """A worker for long things is killed in mid-job, and another started as the start command
    does."""
    visitor = _Visitor(address, _user("killed"))
    saved = _plan(visitor.user, "twelve-beds")
    visitor.ask(f"/plans/{saved.key}/")
    visitor.ask(f"/plans/{saved.key}/offers/dynamic/", {}, **_HTMX)
    rows = Computation.objects.filter(page=str(saved.key), kind="resilience")
    _until(lambda: rows.filter(state="running").exists())
    worker = rows.values_list("worker", flat=True).get()
    for pid in _long_workers():
        os.kill(pid, signal.SIGKILL)
    again = subprocess.Popen(
        [sys.executable, "tools/manage.py", "work", "--lane", "long"],
        cwd=PROJECT,
        start_new_session=True,
    )
    took = _until(lambda: rows.filter(state="running").exclude(worker=worker).exists())
    _until(lambda: rows.filter(state="done", attempts=1).exists())
    yield f"a killed worker's job is taken up after {took:.1f} s (wanted 15), published once"
    global _spare
    _spare = again


_spare: subprocess.Popen[bytes] | None = None


def _fairness(address: str) -> Iterator[str]:
    """Eight months of one user, and two days of another."""
    many, other = _Visitor(address, _user("many")), _Visitor(address, _user("other"))
    beds, pair = _plan(many.user, "twelve-beds"), _plan(other.user, "stacked-pair")
    many.ask(f"/plans/{beds.key}/")
    other.ask(f"/plans/{pair.key}/")
    alone = _followed(other, pair, "48")
    for number in range(8):
        _hours(many, beds, str(744 - number))
    time.sleep(1.0)
    beside = _followed(other, pair, "47")
    Computation.objects.filter(page=str(beds.key)).update(state="stopped")
    yield (
        f"two days of a small plan: {alone:.2f} s alone, {beside:.2f} s beside eight months of "
        f"another user: {beside - alone:+.2f} s (wanted 5)"
    )


def _in_flight(address: str) -> Iterator[str]:
    """Twelve of the dearest requests an ordinary visitor can make, over and over, while another
    opens a plan on a new connection each time."""
    dear, other = _Visitor(address, _user("dear")), _Visitor(address, _user("quiet"))
    large, pair = _largest(dear.user), _plan(other.user, "stacked-pair")
    way = f"/plans/{large.key}/"
    dear.ask(way)
    alone = statistics.median(other.timed(f"/plans/{pair.key}/") for _ in range(5))
    asks: list[tuple[str, dict[str, Any] | None]] = [
        (way, None),
        (f"{way}bench/figures/", None),
        (f"{way}offers/pumps/", {}),
        (f"{way}offers/gains/", {}),
        (f"{way}compare/", None),
        (f"{way}play/", {"hours": "48"}),
        (f"{way}offers/dynamic/", {}),
        (f"{way}bench/pump/", None),
        (
            f"{way}edit/",
            {"base": "1", "part": "B1n0", "path": "vessels.B1n0.floor_height", "text": "741 mm"},
        ),
        (f"{way}offers/change/preview/?verb=raise&target=B1n0&steps=1", None),
        (f"{way}bench/hours/", {"hours": "744", "cut": "", "lasts": "", "event": ""}),
        (f"{way}offers/valves/", {}),
    ]
    ends, seen = threading.Event(), Counter[int]()

    def press(number: int) -> None:
        while not ends.is_set():
            path, posted = asks[number % len(asks)]
            seen[dear.ask(path, posted, **_HTMX)[0]] += 1

    with ThreadPoolExecutor(_FLIGHT) as pool:
        for number in range(_FLIGHT):
            pool.submit(press, number)
        time.sleep(3.0)
        times = []
        until = time.perf_counter() + 30.0
        while time.perf_counter() < until:
            times.append(other.timed(f"/plans/{pair.key}/"))
            time.sleep(0.2)
        ends.set()
    broken = sum(n for status, n in seen.items() if status >= 500)
    yield (
        f"beside {_FLIGHT} of the dearest requests a plan opens in {max(times):.2f} s at most "
        f"of {len(times)} (wanted 2), alone in {alone:.2f} s; {sum(seen.values())} of them were "
        f"answered, {broken} broke"
    )


def _plans_page(address: str) -> Iterator[str]:
    visitor = _Visitor(address, _user("plans"))
    for number in range(_PLANS):
        _plan(visitor.user, ("stacked-pair", "split-flow", "raft-line", "twelve-beds")[number % 4])
    visitor.ask("/")
    times = [visitor.timed("/") for _ in range(9)]
    yield (
        f"a page of {_PLANS} plans opens in {1e3 * statistics.median(times):.0f} ms, at most "
        f"{1e3 * max(times):.0f} ms (wanted 300)"
    )


def _fittings(address: str) -> Iterator[str]:
    """A plan of 20,000 fittings on one run, as an upload."""
    visitor = _Visitor(address, _user("fittings"))
    visitor.ask("/")
    data = from_file(json.loads((PROJECT / "examples" / "stacked-pair.json").read_text()))
    data["runs"][0]["fittings"] = [{"kind": "elbow_90", "count": 1}] * 20_000
    mark = "bathys-bench"
    body = (
        f'--{mark}\r\nContent-Disposition: form-data; name="csrfmiddlewaretoken"\r\n\r\n'
        f'{visitor.token}\r\n--{mark}\r\nContent-Disposition: form-data; name="file"; '
        f'filename="a.json"\r\n\r\n{json.dumps(data)}\r\n--{mark}--\r\n'
    ).encode()
    cookies = "; ".join([visitor._cookie, *(f"{c.name}={c.value}" for c in visitor._jar)])
    request = urllib.request.Request(
        f"{address}/plans/import/",
        body,
        headers={
            "Cookie": cookies,
            "Referer": address,
            "Content-Type": f"multipart/form-data; boundary={mark}",
        },
    )
    begun = time.perf_counter()
    try:
        status = urllib.request.urlopen(request, timeout=120).status
    except urllib.error.HTTPError as error:
        status = error.code
    took = time.perf_counter() - begun
    yield f"20,000 fittings on a run answer {status} after {took:.2f} s (wanted 2)"


def _at_once(address: str) -> Iterator[str]:
    """Many edits on one base at the same time, from several sessions of one user."""
    user = _user("atonce")
    saved, visitors = _plan(user, "stacked-pair"), [_Visitor(address, user) for _ in range(20)]
    for visitor in visitors:
        visitor.ask(f"/plans/{saved.key}/")

    def edit(number: int) -> int:
        return visitors[number % 20].ask(
            f"/plans/{saved.key}/edit/",
            {
                "base": "1",
                "part": "T1",
                "path": "vessels.T1.freeboard",
                "text": f"{51 + number} mm",
            },
            **_HTMX,
        )[0]

    with ThreadPoolExecutor(40) as pool:
        seen = Counter(pool.map(edit, range(_EDITS)))
    kept = saved.revisions.count() - 1
    yield (
        f"{_EDITS} edits at once on one base: {dict(seen)}, {kept} kept (wanted one 200, the "
        "rest 409)"
    )


def _a_minute(address: str) -> Iterator[str]:
    """Fifty users open their plan and edit it, a second between two doings of each."""
    visitors = [_Visitor(address, _user(f"user{n}")) for n in range(_USERS)]
    plans = [_plan(v.user, "stacked-pair") for v in visitors]
    opened, edited, seen = list[float](), list[float](), Counter[int]()
    kept, until = Counter[int](), time.perf_counter() + _MINUTE

    def live(number: int) -> None:
        visitor, saved, base = visitors[number], plans[number], 1
        while time.perf_counter() < until:
            begun = time.perf_counter()
            seen[visitor.ask(f"/plans/{saved.key}/")[0]] += 1
            opened.append(time.perf_counter() - begun)
            time.sleep(1.0)
            begun = time.perf_counter()
            status, page = visitor.ask(
                f"/plans/{saved.key}/edit/",
                {
                    "base": base,
                    "part": "B1",
                    "path": "vessels.B1.floor_height",
                    "text": f"{1100 + base % 40} mm",
                },
                **_HTMX,
            )
            edited.append(time.perf_counter() - begun)
            seen[status] += 1
            found = re.search(r'id="base" value="(\d+)"', page)
            if status == 200 and found:
                base = int(found[1])
                kept[number] = base
            time.sleep(1.0)

    with ThreadPoolExecutor(_USERS) as pool:
        list(pool.map(live, range(_USERS)))
    lost = sum(kept[n] != p.revisions.count() for n, p in enumerate(plans))
    p95 = [1e3 * statistics.quantiles(t, n=20)[-1] for t in (opened, edited)]
    yield (
        f"{_USERS} users for a minute: {dict(seen)}, {lost} users with an edit lost (wanted "
        f"none); 95 % open within {p95[0]:.0f} ms, edit within {p95[1]:.0f} ms, "
        f"{len(edited)} edits"
    )


def _typed(address: str) -> Iterator[str]:
    """Everything into every box."""
    visitor = _Visitor(address, _user("typed"))
    saved = _plan(visitor.user, "cascade-float-lift")
    visitor.ask(f"/plans/{saved.key}/")
    seen, base, begun = Counter[int](), 1, time.perf_counter()
    for part, path, text in box_values(plan_of(saved.head), _TYPED, seed=7):
        status, page = visitor.ask(
            f"/plans/{saved.key}/edit/",
            {"base": base, "part": part, "path": path, "text": text},
            **_HTMX,
        )
        seen[status] += 1
        found = re.search(r'id="base" value="(\d+)"', page)
        base = int(found[1]) if found else base
    took = time.perf_counter() - begun
    yield f"{_TYPED} values typed into every box: {dict(seen)} in {took:.0f} s (wanted no 500)"


def bad_day(address: str) -> None:
    """Print each bar with what it comes to."""
    try:
        for part in (
            _plans_page,
            _fittings,
            _at_once,
            _typed,
            _a_minute,
            _in_flight,
            _fairness,
            _killed_worker,
        ):
            for line in part(address):
                print(line, flush=True)
            Computation.objects.filter(state__in=("waiting", "running")).update(state="stopped")
            time.sleep(4.0)  # until workers have heard
    finally:
        if _spare is not None:
            _spare.terminate()
            _spare.wait(10)


if __name__ == "__main__":
    bad_day(sys.argv[1])
