"""What Bathys stands on: packages, environment, database, server. Standard library only.

python3 tools/ground.py demo | backup [file] | restore file | test | bench | shots | lint | lock |
hunt [minutes [seed]]
"""

import contextlib
import fcntl
import glob
import hashlib
import json
import os
import pwd
import secrets
import shutil
import signal
import socket
import subprocess
import sys
import time
import urllib.request
from collections.abc import Iterator
from pathlib import Path

PROJECT = Path(__file__).resolve().parent.parent
DATA = PROJECT / ".data"
VENV = PROJECT / ".venv"
PYTHON = VENV / "bin" / "python"
LEAST_DISK = 400_000_000
FIRST_PORT = 8000
LOOK_AFTER = 2.0  # between two looks at what runs [s]


class Trouble(Exception):
    """Something a person must be told, in a sentence."""


def say(text: str) -> None:
    print(text, flush=True)


# ---------------------------------------------------------------- Debian packages


def _missing_packages(with_browser: bool) -> list[str]:
    missing = []
    if not glob.glob("/usr/lib/postgresql/*/bin/initdb"):
        missing.append("postgresql")
    probe = subprocess.run([sys.executable, "-c", "import ensurepip, venv"], capture_output=True)
    if probe.returncode:
        missing.append("python3-venv")
    for library in ("libpango-1.0", "libpangoft2-1.0"):  # a PDF is set with them
        if not glob.glob(f"/usr/lib/*/{library}.so.0"):
            missing.append(f"{library}-0")
    if with_browser and not shutil.which("chromium"):
        missing.append("chromium")
    if with_browser and not Path("/usr/sbin/mosquitto").exists():  # a broker, for the tests
        missing.append("mosquitto")
    return missing


def _may_sudo() -> bool:
    if not shutil.which("sudo"):
        return False
    return subprocess.run(["sudo", "-n", "true"], capture_output=True).returncode == 0


def install_packages(with_browser: bool) -> None:
    """Install the Debian packages that are missing, or say the line that does."""
    missing = _missing_packages(with_browser)
    if not missing:
        return
    words = ["apt-get", "install", "-y", "--no-install-recommends", *missing]
    is_root = os.geteuid() == 0
    if not is_root and not _may_sudo():
        line = f"apt-get update && apt-get {' '.join(words[1:])}"
        raise Trouble(
            f"Some Debian packages are missing. As root, run this, then try again:\n  {line}"
        )
    sudo = [] if is_root else ["sudo", "-n"]
    say(f"Installing {', '.join(missing)} …")
    environment = {**os.environ, "DEBIAN_FRONTEND": "noninteractive"}
    for command in (["apt-get", "update", "-qq"], words):
        done = subprocess.run([*sudo, *command], env=environment, capture_output=True, text=True)
        if done.returncode:
            raise Trouble(f"“{' '.join(command)}” failed:\n{done.stderr[-800:]}")


# ---------------------------------------------------------------- Python environment


def prepare_environment(requirements: str) -> None:
    """Make the virtual environment, or bring it up to date with its lock file."""
    lock = PROJECT / "requirements" / f"{requirements}.txt"
    wanted = hashlib.sha256(lock.read_bytes() + (PROJECT / "pyproject.toml").read_bytes())
    stamp = VENV / f"bathys-{requirements}"
    if stamp.exists() and stamp.read_text() == wanted.hexdigest() and PYTHON.exists():
        return
    say("Preparing the Python environment (a minute or three the first time) …")
    if not PYTHON.exists():
        shutil.rmtree(VENV, ignore_errors=True)
        subprocess.run([sys.executable, "-m", "venv", str(VENV)], check=True)
    pip = [str(PYTHON), "-m", "pip", "install", "-q", "--disable-pip-version-check", "--no-compile"]
    steps = (
        [*pip, "--require-hashes", "-r", str(lock)],
        [*pip, "--no-deps", "--no-build-isolation", "-e", str(PROJECT)],
    )
    for step in steps:
        done = subprocess.run(step, capture_output=True, text=True)
        if done.returncode:
            raise Trouble(f"The Python packages could not be installed:\n{done.stderr[-1500:]}")
    # pip compiles one file after the other, which takes as long as all else. What does not compile
    # is of no use here: some packages bring files for other versions.
    compiling = [str(PYTHON), "-m", "compileall", "-q", "-j", "0", str(VENV / "lib")]
    subprocess.run(compiling, capture_output=True)
    stamp.write_text(wanted.hexdigest())


# ---------------------------------------------------------------- PostgreSQL


def _as_postgres() -> list[str]:
    """What goes before a PostgreSQL command: it will not run as root."""
    return ["runuser", "-u", "postgres", "--"] if os.geteuid() == 0 else []


def _free_port(first: int = 0) -> int:
    with socket.socket() as probe:
        with contextlib.suppress(OSError):
            probe.bind(("127.0.0.1", first))
            return int(probe.getsockname()[1])
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


_NOT_BACKED_UP = (
    "computing_computation",
    "procrastinate_jobs",
    "procrastinate_events",
    "procrastinate_workers",
    "procrastinate_periodic_defers",
    "django_session",
    "accounts_guesses",
    "accounts_keptemail",
    "bathys_cache",
)
"""Tables whose rows can be computed again, or are of the day."""


class Database:
    """A PostgreSQL server of this project's own, on loopback."""

    def __init__(self, name: str, durable: bool) -> None:
        programs = sorted(
            glob.glob("/usr/lib/postgresql/*/bin"), key=lambda p: int(p.split("/")[4])
        )
        self.programs = Path(programs[-1])
        self.home = self._home(name)
        self.folder = self.home / "data"
        self.log = self.home / "server.log"
        self.secret = self.home / "password"
        self.durable = durable
        self.port = 0

    @staticmethod
    def _home(name: str) -> Path:
        """The data folder: in the project, unless the database account cannot enter there."""
        inside = DATA / name
        if os.geteuid() != 0:
            return inside
        DATA.mkdir(exist_ok=True)
        enters = subprocess.run(
            [*_as_postgres(), "test", "-x", str(DATA)], cwd="/", capture_output=True
        )
        if enters.returncode == 0:
            return inside
        mark = hashlib.sha256(str(PROJECT).encode()).hexdigest()[:12]
        outside = Path("/var/lib/bathys") / f"{name}-{mark}"
        (DATA / f"{name}-is-elsewhere").write_text(
            f"The database account cannot enter this folder; its data lies in {outside}.\n"
        )
        return outside

    def _run(
        self, program: str, *words: str, check: bool = True
    ) -> subprocess.CompletedProcess[str]:
        done = subprocess.run(
            [*_as_postgres(), str(self.programs / program), *words],
            cwd="/",
            capture_output=True,
            text=True,
            stdin=subprocess.DEVNULL,
        )
        if check and done.returncode:
            raise Trouble(
                f"PostgreSQL’s {program} failed:\n{(done.stderr or done.stdout)[-800:]}"
                f"{self._log_end()}"
            )
        return done

    def _log_end(self) -> str:
        with contextlib.suppress(OSError):
            return "\nThe end of its log:\n" + "\n".join(self.log.read_text().splitlines()[-8:])
        return ""

    def _own(self, path: Path, mode: int) -> None:
        if os.geteuid() == 0:
            account = pwd.getpwnam("postgres")
            os.chown(path, account.pw_uid, account.pw_gid)
        path.chmod(mode)

    def _set_aside(self, why: str) -> None:
        kept = self.home.with_name(f"{self.home.name}-kept-{time.strftime('%Y%m%d-%H%M%S')}")
        self.home.rename(kept)
        say(f"{why} It was moved to {kept}, and a new one is made.")

    def _check_old(self) -> None:
        if not self.folder.exists():
            return
        version = self.folder / "PG_VERSION"
        major = self.programs.parent.name
        if not version.exists() or not (self.folder / "global" / "pg_control").exists():
            self._set_aside("The data folder is half made.")
        elif version.read_text().strip() != major:
            self._set_aside(
                f"The data folder is of PostgreSQL {version.read_text().strip()}, "
                f"and {major} is installed."
            )
        elif not self.secret.exists():
            self._set_aside("The data folder has lost its password.")

    def _make(self) -> None:
        self.home.mkdir(parents=True, exist_ok=True)
        if self.home.is_relative_to("/var/lib/bathys"):
            self.home.parent.chmod(0o755)
        self._own(self.home, 0o700)
        self.secret.write_text(secrets.token_urlsafe(24))
        self._own(self.secret, 0o600)
        say("Making the database …")
        self._run(
            "initdb",
            "-D",
            str(self.folder),
            "-U",
            "bathys",
            "-A",
            "scram-sha-256",
            "--pwfile",
            str(self.secret),
            "-E",
            "UTF8",
            "--locale",
            "C.UTF-8",
        )

    def start(self) -> None:
        """Start the server; make its data folder first if need be."""
        DATA.mkdir(exist_ok=True)
        room_at = self.home if self.home.exists() else DATA
        if shutil.disk_usage(room_at).free < LEAST_DISK:
            raise Trouble(
                f"There is too little room on the disk of {room_at}: Bathys needs 400 MB free."
            )
        self._check_old()
        if not self.folder.exists():
            self._make()
        elif self._run("pg_ctl", "-D", str(self.folder), "status", check=False).returncode == 0:
            say("A database server was left running; it is stopped first.")
            self.stop()
        self.port = _free_port()
        self._launch()

    def _launch(self) -> None:
        options = [
            f"-p {self.port}",
            "-c listen_addresses=127.0.0.1",
            "-c unix_socket_directories=''",
        ]
        if not self.durable:
            options += ["-c fsync=off", "-c full_page_writes=off", "-c synchronous_commit=off"]
        self._run(
            "pg_ctl",
            "-D",
            str(self.folder),
            "-l",
            str(self.log),
            "-w",
            "-t",
            "30",
            "-o",
            " ".join(options),
            "start",
        )

    def stop(self) -> None:
        """Stop the server cleanly."""
        self._run("pg_ctl", "-D", str(self.folder), "-m", "fast", "-w", "stop", check=False)

    def environment(self) -> dict[str, str]:
        """What the application needs to reach it."""
        return {
            "BATHYS_DB_HOST": "127.0.0.1",
            "BATHYS_DB_PORT": str(self.port),
            "BATHYS_DB_NAME": "bathys",
            "BATHYS_DB_USER": "bathys",
            "BATHYS_DB_PASSWORD": self.secret.read_text(),
        }

    def for_application(self) -> dict[str, str]:
        """The whole environment of the application."""
        return {
            **os.environ,
            **self.environment(),
            "BATHYS_SECRET_KEY": _secret_key(),
            "BATHYS_STATIC_ROOT": str(DATA / "static"),
            "PYTHONUNBUFFERED": "1",
        }

    def is_up(self) -> bool:
        """Whether the server runs."""
        return self._run("pg_ctl", "-D", str(self.folder), "status", check=False).returncode == 0

    def start_again(self) -> None:
        """Start a server that has died, where it was; parts of it may take a moment to end."""
        for attempt in range(10):
            try:
                self._launch()
                return
            except Trouble:
                if attempt == 9:
                    raise
                time.sleep(1.0)

    def make_database(self, afresh: bool) -> None:
        """Make the application's database, unless it is there; afresh, drop the old one first."""
        environment = {**os.environ, "PGPASSWORD": self.secret.read_text()}
        reach = ["-h", "127.0.0.1", "-p", str(self.port), "-U", "bathys"]
        steps = [["createdb", *reach, "bathys"]]
        if afresh:
            steps.insert(0, ["dropdb", "--if-exists", *reach, "bathys"])
        for program, *words in steps:
            done = subprocess.run(
                [str(self.programs / program), *words],
                env=environment,
                capture_output=True,
                text=True,
            )
            if done.returncode and "already exists" not in done.stderr:
                raise Trouble(f"The database could not be made:\n{done.stderr}")

    def attach(self) -> bool:
        """Find the port of a server that runs already; whether one does."""
        if not (self.folder.exists() and self.is_up()):
            return False
        self.port = int((self.folder / "postmaster.pid").read_text().splitlines()[3])
        return True

    def _client(self, program: str, *words: str) -> None:
        """Run one of PostgreSQL's own programs against the server."""
        environment = {**os.environ, "PGPASSWORD": self.secret.read_text()}
        reach = ["-h", "127.0.0.1", "-p", str(self.port), "-U", "bathys"]
        done = subprocess.run(
            [str(self.programs / program), *reach, *words],
            env=environment,
            capture_output=True,
            text=True,
        )
        if done.returncode:
            raise Trouble(f"PostgreSQL’s {program} failed:\n{done.stderr[-1200:]}")

    def dump(self, path: Path) -> None:
        """Write the application's database to a file, whole and of one moment; what can be computed
        again is left out."""
        part = path.with_suffix(".part")
        left_out = [f"--exclude-table-data={name}" for name in _NOT_BACKED_UP]
        self._client(
            "pg_dump", "-Fc", "--no-owner", "--no-privileges", *left_out, "-f", str(part), "bathys"
        )
        part.chmod(0o600)
        part.rename(path)

    def restore(self, path: Path, kept: str) -> None:
        """Put a file from :meth:`dump` in the database's place; what stood there is kept under
        another name."""
        self._client("dropdb", "--if-exists", "bathys_new")  # of a restore that was cut off
        self._client("createdb", "bathys_new")
        try:
            self._client(
                "pg_restore",
                "--no-owner",
                "--no-privileges",
                "--exit-on-error",
                "--single-transaction",
                "-d",
                "bathys_new",
                str(path),
            )
        except Trouble:
            self._client("dropdb", "bathys_new")
            raise
        for old, new in (("bathys", kept), ("bathys_new", "bathys")):
            self._client(
                "psql",
                "-q",
                "-v",
                "ON_ERROR_STOP=1",
                "-d",
                "postgres",
                "-c",
                f'ALTER DATABASE "{old}" RENAME TO "{new}"',
            )


# ---------------------------------------------------------------- running things


def _secret_key() -> str:
    path = DATA / "secret-key"
    if not path.exists():
        path.write_text(secrets.token_urlsafe(48))
        path.chmod(0o600)
    return path.read_text()


@contextlib.contextmanager
def only_one(name: str) -> Iterator[None]:
    """Hold this folder's lock, so that nothing is started twice."""
    DATA.mkdir(exist_ok=True)
    note = DATA / f"{name}.running"
    with (DATA / f"{name}.lock").open("w") as lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            where = note.read_text() if note.exists() else "It is still starting."
            raise Trouble(f"“make {name}” is already running from this folder. {where}") from None
        try:
            yield
        finally:
            note.unlink(missing_ok=True)


def _stop_leftovers(note: Path) -> None:
    """End the servers and workers that a killed start command left behind."""
    with contextlib.suppress(OSError, ValueError, KeyError, TypeError):
        for pid in map(int, json.loads(note.read_text())["pids"]):
            with contextlib.suppress(OSError):
                words = Path(f"/proc/{pid}/cmdline").read_bytes()
                if str(VENV).encode() in words and (
                    b"bathys_web" in words or b"manage.py" in words
                ):
                    say("A part of Bathys was left running; it is stopped first.")
                    os.kill(pid, signal.SIGTERM)
                    for _ in range(50):
                        os.kill(pid, 0)  # ends the wait with an OSError once it is gone
                        time.sleep(0.1)


def _manage(environment: dict[str, str], *words: str) -> None:
    done = subprocess.run(
        [str(PYTHON), str(PROJECT / "tools" / "manage.py"), *words],
        env=environment,
        capture_output=True,
        text=True,
    )
    if done.returncode:
        raise Trouble(f"“{' '.join(words)}” failed:\n{done.stderr[-1200:]}")


def prepare_application(environment: dict[str, str]) -> None:
    """Bring database, demo data and static files up to date."""
    _manage(environment, "prepare")


def _wait_until_served(server: subprocess.Popen[bytes], address: str) -> None:
    for _ in range(300):
        if server.poll() is not None:
            raise Trouble("The web server stopped while starting; its words stand above.")
        with contextlib.suppress(OSError), urllib.request.urlopen(address, timeout=5):
            return
        time.sleep(0.1)
    raise Trouble("The web server did not answer within 30 seconds.")


class Crew:
    """The web server and the workers: started, looked after, stopped."""

    def __init__(self, note: Path, environment: dict[str, str]) -> None:
        self._note, self._environment = note, environment
        self._words: dict[str, list[str]] = {}
        self._running: dict[str, subprocess.Popen[bytes]] = {}

    def start(self, name: str, *words: str) -> subprocess.Popen[bytes]:
        """Start one of them, in a session of its own, so that Ctrl-C reaches this command alone."""
        self._words[name] = [str(PYTHON), *words]
        self._running[name] = subprocess.Popen(
            self._words[name],
            env=self._environment,
            cwd=PROJECT,
            start_new_session=True,
        )
        self._note.write_text(json.dumps({"pids": [p.pid for p in self._running.values()]}))
        return self._running[name]

    def look_after(self) -> None:
        """Start again what has ended, and say so."""
        for name, process in tuple(self._running.items()):
            if process.poll() is not None:
                say(f"The {name} stopped; it is started again.")
                self.start(name, *self._words[name][1:])

    def stop(self) -> None:
        """Stop them all; none is left behind."""
        for process in self._running.values():
            process.terminate()
        for process in self._running.values():
            try:
                process.wait(10)
            except subprocess.TimeoutExpired:
                with contextlib.suppress(ProcessLookupError):
                    os.killpg(process.pid, signal.SIGKILL)
                process.wait()
        self._note.unlink(missing_ok=True)


LANES = ("quick", "long")
"""What a worker takes: things of seconds, and things of minutes."""


@contextlib.contextmanager
def served(
    environment: dict[str, str], name: str, first_port: int, workers: int
) -> Iterator[tuple[str, Crew]]:
    """The application on loopback, with a worker for each lane, until the block ends."""
    note = DATA / f"{name}-server.json"
    _stop_leftovers(note)
    port = _free_port(first_port)
    address, crew = f"http://127.0.0.1:{port}", Crew(note, environment)
    try:
        server = crew.start(
            "web server",
            "-m",
            "gunicorn",
            "bathys_web.config.wsgi:application",
            "--bind",
            f"127.0.0.1:{port}",
            "--workers",
            str(workers),
            "--threads",
            "16",
            "--log-level",
            "warning",
            "--no-control-socket",
            "--limit-request-line",
            "8190",
        )
        for lane in LANES:
            crew.start(f"worker for {lane} things", "tools/manage.py", "work", "--lane", lane)
        crew.start("watch over instruments", "tools/manage.py", "watch")
        _wait_until_served(server, f"{address}/accounts/login/")
        yield address, crew
    finally:
        crew.stop()


@contextlib.contextmanager
def running_database(
    name: str, durable: bool, afresh: bool = False
) -> Iterator[tuple[Database, dict[str, str]]]:
    """A database server, and the environment for the application."""
    database = Database(name, durable)
    try:
        database.start()
        database.make_database(afresh)
        yield database, database.for_application()
    finally:
        if database.folder.exists():
            database.stop()


def demo() -> int:
    """From a bare machine to a running application with the demo data."""
    with only_one("demo"):
        install_packages(with_browser=False)
        prepare_environment("run")
        with running_database("postgres", durable=True) as (database, environment):
            environment["BATHYS_DEMO"] = "1"
            phone = _free_port()
            environment.setdefault("BATHYS_PUSH_URL", f"http://127.0.0.1:{phone}")
            prepare_application(environment)
            with served(environment, "demo", FIRST_PORT, 2) as (address, crew):
                crew.start("stand-in phone", "tools/manage.py", "phone", "--port", str(phone))
                if environment.get("BATHYS_MQTT_HOST"):
                    crew.start("listener at the broker", "tools/manage.py", "listen")
                crew.start("simulated boards", "tools/manage.py", "rig", "--to", address)
                (DATA / "demo.running").write_text(f"Open {address}")
                say(
                    f"\nBathys is running: {address}\nSign in with the demo account; "
                    "Ctrl-C stops it."
                )
                while True:
                    time.sleep(LOOK_AFTER)
                    if not database.is_up():
                        say("The database server stopped; it is started again.")
                        database.start_again()
                    crew.look_after()
    return 0


def _now() -> str:
    return time.strftime("%Y%m%d-%H%M%S")


def backup() -> int:
    """Write all accounts and plans to a file, whether or not the demo runs: FILE, or a new one."""
    path = Path(sys.argv[2]) if len(sys.argv) > 2 else DATA / "backups" / f"bathys-{_now()}.dump"
    database = Database("postgres", durable=True)
    if not database.folder.exists():
        raise Trouble("There is nothing to back up yet: Bathys was never started here.")
    path.parent.mkdir(parents=True, exist_ok=True)
    if path.exists():
        raise Trouble(f"{path} is there already; name another file.")
    was_running = database.attach()
    if not was_running:
        database.start()
    try:
        database.dump(path)
    finally:
        if not was_running:
            database.stop()
    say(f"All accounts and plans are in {path}. It can be read by whoever has it: keep it safe.")
    return 0


def restore() -> int:
    """Put a backup in the place of what is there: FILE. What was there is kept in the database."""
    if len(sys.argv) < 3 or not Path(sys.argv[2]).is_file():
        raise Trouble("Name the file to restore: make restore FILE=…")
    path, kept = Path(sys.argv[2]), f"bathys_before_{_now().replace('-', '_')}"
    with only_one("demo"):
        install_packages(with_browser=False)
        prepare_environment("run")
        with running_database("postgres", durable=True) as (database, environment):
            database.restore(path, kept)
            prepare_application(environment)
    say(f"{path} is restored. What stood there before is kept as the database {kept}.")
    return 0


def _checked(*commands: list[str], environment: dict[str, str]) -> int:
    for command in commands:
        say(f"— {' '.join(command)}")
        done = subprocess.run(
            [str(VENV / "bin" / command[0]), *command[1:]], env=environment, cwd=PROJECT
        )
        if done.returncode:
            return done.returncode
    return 0


_LINTS = (
    ["ruff", "check", "."],
    ["ruff", "format", "--check", "."],
    ["mypy"],
    ["lint-imports"],
    ["djlint", "--lint", "--quiet", "src/bathys_web/templates"],
    ["deno", "fmt", "--check", "--quiet"],
    ["deno", "lint", "--quiet"],
    ["deno", "test", "--quiet", "--no-prompt"],
)


def _linted() -> int:
    # Types are told by the settings, which want to know a database; none is spoken to.
    nowhere = {"BATHYS_SECRET_KEY": "of no use", "BATHYS_DB_PORT": "1", "BATHYS_DB_PASSWORD": "-"}
    quiet = {"DENO_NO_UPDATE_CHECK": "1", "DENO_DIR": str(DATA / "deno"), "NO_COLOR": "1"}
    return _checked(*_LINTS, environment={**os.environ, **nowhere, **quiet})


def lint() -> int:
    """Style, types, import contracts, templates."""
    prepare_environment("test")
    return _linted()


@contextlib.contextmanager
def _compiling() -> Iterator[None]:
    """Meanwhile compile what the engine compiles, once for all tests that run side by side."""
    words = ["resilience", "examples/twelve-beds.json"]
    nowhere = subprocess.DEVNULL
    warming = subprocess.Popen(
        [str(VENV / "bin" / "bathys"), *words], cwd=PROJECT, stdout=nowhere, stderr=nowhere
    )
    try:
        yield
        warming.wait()
    finally:
        warming.terminate()


def test() -> int:
    """Everything that must pass."""
    with only_one("test"):
        install_packages(with_browser=True)
        prepare_environment("test")
        with _compiling():
            failed = _linted()
        if failed:
            return failed
        with running_database("postgres-test", durable=False) as (_, environment):
            environment["BATHYS_DEMO"] = "1"
            _manage(environment, "collectstatic", "--noinput")
            environment["DJANGO_SETTINGS_MODULE"] = "bathys_web.config.settings"
            if len(sys.argv) > 2:
                return _checked(["pytest", *sys.argv[2:]], environment=environment)
            return _side_by_side(environment)


def _marked(mark: str) -> list[str]:
    """Files of the engine's tests in which some are marked: to read all takes as long as these."""
    files = sorted((PROJECT / "tests" / "engine").glob("test_*.py"))
    return [
        str(path.relative_to(PROJECT))
        for path in files
        if f"pytest.mark.{mark}" in path.read_text(encoding="utf-8")
    ]


_SCREENS = [f"tests/browser/test_{name}.py" for name in ("screens", "slow", "newcomer")]

_TESTS = {
    "engine": ["-p", "no:django", "src/bathys", "tests/engine", "tests/hunt"],
    "uncompiled": ["-p", "no:django", "-m", "uncompiled", *_marked("uncompiled")],
    "ground": ["tests/ground"],
    "site": ["tests/web"],
    "browser": ["tests/browser", *(f"--ignore={file}" for file in _SCREENS)],
    "screens": _SCREENS,
}
"""What is tested: the engine knows of no settings and needs no database, the ground starts servers
of its own. Site, browser and screens have a database each; both of the last drive the browser.
Compiled functions are counted where they are not compiled: lines of theirs are else not seen."""

_SIDE_BY_SIDE = (("engine",), ("site", "uncompiled"), ("browser", "ground"), ("screens",))
_FIRST = ("browser", "screens", "ground")
_BROWSERS = ("browser", "screens")
_SITE_ONLY = ("BATHYS_", "DJANGO_")
_LEAST_COVERED = 96  # of all lines, in percent


def _environment_of(name: str, environment: dict[str, str]) -> dict[str, str]:
    if name in _BROWSERS:
        return {**environment, "BATHYS_DB_NAME": f"bathys_{name}"}
    if name in ("ground", "site"):
        return environment
    own = {k: v for k, v in environment.items() if not k.startswith(_SITE_ONLY)}
    return {**own, "NUMBA_DISABLE_JIT": "1"} if name == "uncompiled" else own


def _begin(name: str, environment: dict[str, str]) -> subprocess.Popen[bytes]:
    say(f"— pytest {' '.join(_TESTS[name])}")
    counting = [] if name in _BROWSERS else ["coverage", "run", "-m"]  # it goes over the same lines
    words = [*counting, "pytest", "--color=no", "--durations=15", *_TESTS[name]]
    # The browser's tests wait for what they see and have the longest way: they go first.
    gives_way = [] if name in _FIRST else ["nice", "-n", "5"]
    with _output_of(name).open("wb") as output:
        return subprocess.Popen(
            [*gives_way, str(VENV / "bin" / words[0]), *words[1:]],
            env=_environment_of(name, environment),
            cwd=PROJECT,
            stdout=output,
            stderr=subprocess.STDOUT,
        )


def _output_of(name: str) -> Path:
    return DATA / f"tests-{name}.txt"


def _side_by_side(environment: dict[str, str]) -> int:
    """All tests, four rows of them at once, each told whole as it ends; then what they covered.

    There are more rows than most machines have cores, since browser and ground often wait."""
    forgotten = {p.name for p in (PROJECT / "tests").iterdir() if list(p.glob("test_*.py"))} - {
        Path(place).name for places in _TESTS.values() for place in places
    }
    if forgotten:
        raise Trouble(f"No half of the tests holds {', '.join(sorted(forgotten))}.")
    for old in DATA.glob("coverage*"):
        old.unlink()
    waiting = [list(row) for row in _SIDE_BY_SIDE]
    running: dict[str, tuple[subprocess.Popen[bytes], list[str], float]] = {}
    failed = 0
    try:
        while waiting or running:
            for row in waiting:
                running[row[0]] = (_begin(row[0], environment), row[1:], time.monotonic())
            waiting = []
            time.sleep(0.5)
            for name in [n for n, (p, _, _) in running.items() if p.poll() is not None]:
                process, rest, begun = running.pop(name)
                failed = process.returncode or failed
                say(_output_of(name).read_text(encoding="utf-8", errors="replace"))
                say(f"“{name}” took {time.monotonic() - begun:.0f} s.")
                waiting += [rest] if rest else []
    finally:
        for process, _, _ in running.values():
            process.terminate()
    return failed or _checked(
        ["coverage", "combine", "--quiet"],
        ["coverage", "report", f"--fail-under={_LEAST_COVERED}"],
        environment=environment,
    )


def hunt() -> int:
    """Search for plans that do harm while nothing is said: MINUTES, and a seed to go on from."""
    prepare_environment("test")
    return _checked(
        ["python", "-m", "tests.hunt.hunt", *sys.argv[2:]], environment=dict(os.environ)
    )


def _with_demo_served(script: str) -> int:
    """Run a script of tools/ against a freshly loaded demo."""
    with only_one(script):
        install_packages(with_browser=True)
        prepare_environment("test")
        with running_database(f"postgres-{script}", durable=False, afresh=True) as (_, environment):
            environment["BATHYS_DEMO"] = "1"
            prepare_application(environment)
            with served(environment, script, 0, 2) as (address, crew):
                if script == "shots":
                    crew.start("simulated boards", "tools/manage.py", "rig", "--to", address)
                return _checked(["python", f"tools/{script}.py", address], environment=environment)


def lock() -> int:
    """Pin every dependency again."""
    prepare_environment("test")
    words = [
        "pip-compile",
        "--quiet",
        "--strip-extras",
        "--allow-unsafe",
        "--generate-hashes",
        "--no-emit-index-url",
        "--no-emit-find-links",
        "--no-header",
    ]
    return _checked(
        *[[*words, "-o", f"requirements/{n}.txt", f"requirements/{n}.in"] for n in ("run", "test")],
        environment=dict(os.environ),
    )


COMMANDS = {
    "demo": demo,
    "backup": backup,
    "restore": restore,
    "test": test,
    "lint": lint,
    "lock": lock,
    "hunt": hunt,
    "bench": lambda: _with_demo_served("bench"),
    "shots": lambda: _with_demo_served("shots"),
}


def _interrupt(_number: int, _frame: object) -> None:
    raise KeyboardInterrupt


def main() -> int:
    """Run the command named on the command line."""
    signal.signal(signal.SIGINT, _interrupt)  # also where the caller had it ignored
    signal.signal(signal.SIGTERM, _interrupt)
    signal.signal(signal.SIGHUP, _interrupt)
    try:
        if sys.version_info < (3, 11):
            raise Trouble("Bathys needs Python 3.11 or newer.")
        return COMMANDS[sys.argv[1]]()
    except KeyboardInterrupt:
        say("\nStopped.")
        return 0 if sys.argv[1] == "demo" else 130
    except Trouble as trouble:
        print(trouble, file=sys.stderr)
        return 1
    except OSError as error:
        print(f"The machine refused: {error}", file=sys.stderr)
        return 1


if __name__ == "__main__":
    sys.exit(main())
