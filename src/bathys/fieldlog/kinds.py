"""Kinds of entries, what is asked of each, and at which parts it is made."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass

from bathys.evaluation import Evaluation
from bathys.ground import is_tended

__all__ = ["ENTRY_KINDS", "EntryField", "EntryKind"]

_STILL = 1e-7  # [m³/s]


@dataclass(frozen=True, slots=True)
class EntryField:
    """Something that is asked of an entry.

    Attributes
    ----------
    name, label : str
        Its name in the data, and for people
    quantity : str
        What it measures; empty for words
    least, most : float
        Its bounds, in SI
    is_needed : bool
        Whether the entry says nothing without it
    usual : str
        What stands in its box at first
    is_many : bool
        Whether several values may be typed, apart by spaces
    """

    name: str
    label: str
    quantity: str
    least: float = 0.0
    most: float = 0.0
    is_needed: bool = True
    usual: str = ""
    is_many: bool = False


@dataclass(frozen=True, slots=True)
class EntryKind:
    """A kind of entry.

    Attributes
    ----------
    key, title : str
        Its name in the data, and for people
    how : tuple of str
        How it is done, step by step
    fields : tuple of EntryField
        What is asked
    parts : callable
        From the numbers of a plan to the ids of the parts it can be made at
    measures : str
        Quantity of the figure that it comes to; empty if it comes to none
    group : str
        Heading under which it is offered
    taps : tuple of (str, str)
        What is timed by presses of one button: after the first, words for the next press, and the
        field that it fills with the time since the first
    does : str
        Key of the job that is done by it too, up to a hyphen and the part's id where it is done at
        one; empty for none
    """

    key: str
    title: str
    how: tuple[str, ...]
    fields: tuple[EntryField, ...]
    parts: Callable[[Evaluation], Iterator[str]]
    measures: str = ""
    group: str = "Water and siphons"
    taps: tuple[tuple[str, str], ...] = ()
    does: str = ""

    def job_at(self, part: str) -> str:
        """Key of the job that is done by an entry at a part; empty for none.

        Parameters
        ----------
        part : str
            Id of the part

        Returns
        -------
        str
            As :mod:`bathys.routine` names it
        """
        return f"{self.does}{part}" if self.does.endswith("-") else self.does


def _outlets(found: Evaluation) -> Iterator[str]:
    for duty in found.duties.values():
        yield from (d.run for d in duty.deliveries if d.flow > _STILL)


def _siphon_beds(found: Evaluation) -> Iterator[str]:
    yield from (bed.bed.id for bed in found.beds if not bed.fed_by)


def _pumps(found: Evaluation) -> Iterator[str]:
    yield from (pump.id for pump in found.plan.pumps)


def _vessels(found: Evaluation) -> Iterator[str]:
    for vessel in found.plan.vessels:
        pumped = any(p.stands_in == vessel.id for p in found.plan.pumps)
        if vessel.use.keeps_fish or pumped:
            yield vessel.id


def _tanks(found: Evaluation) -> Iterator[str]:
    yield from (v.id for v in found.plan.vessels if v.use.keeps_fish)


def _settlers(found: Evaluation) -> Iterator[str]:
    yield from (v.id for v in found.plan.vessels if v.job == "settler")


def _grown(found: Evaluation) -> Iterator[str]:
    yield from (v.id for v in found.plan.vessels if is_tended(v))


def _fish(found: Evaluation) -> Iterator[str]:
    yield from (cohort.id for cohort in found.plan.fish)


def _whole(found: Evaluation) -> Iterator[str]:
    yield ""


_BUCKET = (
    EntryField("volume", "Bucket", "volume", 2e-4, 1.0, usual="10 L"),
    EntryField("times", "Seconds, each time", "time", 0.5, 3600.0, is_many=True),
)
_KINDS = (
    EntryKind(
        "bucket",
        "Flow, by a bucket",
        (
            "Hold a bucket of known litres under the outlet.",
            "Time how long it takes to fill. Three times is surer than once.",
        ),
        _BUCKET,
        _outlets,
        "flow",
    ),
    EntryKind(
        "cycle",
        "Siphon, start to start",
        (
            "Note the time when the siphon starts, when it stops, and when it starts again.",
            "How long it runs tells when it stops; leave it out if you did not see it.",
        ),
        (
            EntryField("period", "From one start to the next", "clock", 30.0, 86400.0),
            EntryField("runs", "From start to stop", "clock", 5.0, 86400.0, is_needed=False),
        ),
        _siphon_beds,
        "clock",
        taps=(("It stops", "runs"), ("It starts again", "period")),
    ),
    EntryKind(
        "starts",
        "Least flow that starts a siphon",
        (
            "Close the bed’s valve bit by bit until its siphon just fails; open it a hair.",
            "When it has started, time a bucket at the bed’s inlet.",
        ),
        _BUCKET,
        _siphon_beds,
        "flow",
    ),
    EntryKind(
        "stops",
        "Most flow at which it still stops",
        (
            "Open the bed’s valve bit by bit until its siphon just runs on; close it a hair.",
            "When it has stopped, time a bucket at the bed’s inlet.",
        ),
        _BUCKET,
        _siphon_beds,
        "flow",
    ),
    EntryKind(
        "lift",
        "How high a pump lifts",
        (
            "Put a hose on the pump and lift its end until nothing comes out.",
            "Measure from the water that the pump stands in up to the end of the hose.",
        ),
        (EntryField("height", "Height", "length", 0.05, 30.0),),
        _pumps,
        "length",
    ),
    EntryKind(
        "level",
        "Water under the rim",
        ("Measure from the rim straight down to the water, while the pump runs.",),
        (EntryField("below", "Under the rim", "length", 0.0, 5.0),),
        _vessels,
        "length",
    ),
    EntryKind(
        "watts",
        "Power, by a plug meter",
        (
            "Put the meter between plug and socket, in a dry place.",
            "Read the watts when the pump has run for some minutes.",
        ),
        (EntryField("power", "Watts", "power", 0.1, 1e5),),
        _pumps,
        "power",
    ),
    EntryKind(
        "water",
        "Water test",
        (
            "Take water from the fish tank, away from where it comes in.",
            "Do each test as its kit says. A strip between two fields: write both, as in 20-40.",
        ),
        (
            EntryField("temperature", "Temperature", "temperature", -1.0, 45.0, is_needed=False),
            EntryField("ph", "pH", "ratio", 3.0, 11.0, is_needed=False),
            EntryField("ammonia", "Ammonia, as nitrogen", "dissolved", 0.0, 100.0, False),
            EntryField("nitrite", "Nitrite, as nitrogen", "dissolved", 0.0, 100.0, False),
            EntryField("nitrate", "Nitrate, as nitrogen", "dissolved", 0.0, 1000.0, False),
            EntryField("oxygen", "Oxygen", "dissolved", 0.0, 30.0, False),
            EntryField("alkalinity", "Alkalinity, as CaCO3", "dissolved", 0.0, 2000.0, False),
            EntryField("clear", "A white disc is seen down to", "length", 0.0, 10.0, False),
        ),
        _tanks,
        does="test",
    ),
    EntryKind(
        "top_up",
        "Water topped up",
        ("Only water that has stood for a day, or has its chlorine taken out.",),
        (EntryField("volume", "How much", "volume", 1e-4, 1e3),),
        _vessels,
        does="top-up-",
    ),
    EntryKind(
        "purge",
        "Sludge let out",
        ("Open the drain until the water runs clear, and note how much went.",),
        (EntryField("volume", "How much", "volume", 1e-4, 1e3),),
        _settlers,
        does="sludge-",
    ),
    EntryKind(
        "feed",
        "Feed given",
        (
            "Give what they eat in five minutes. Weigh it, or count spoons that you weighed once.",
            "What lies after a minute was too much; take it out.",
        ),
        (
            EntryField("mass", "Feed", "mass", 1e-5, 1e3, is_needed=False),
            EntryField("spoons", "Or spoons, caps or handfuls", "ratio", 0.1, 1e4, False),
            EntryField("eaten", "Seconds until it was eaten", "time", 1.0, 3600.0, False),
            EntryField("left", "What was left over", "mass", 0.0, 1e3, False),
        ),
        _fish,
        "mass",
        group="Fish",
        does="feed",
    ),
    EntryKind(
        "spoon",
        "A spoon or a handful, weighed",
        (
            "Weigh ten at once; then feed is told by counting them.",
            "Weigh them again with each new sack: the grain differs.",
        ),
        (
            EntryField("count", "How many", "count", 1.0, 1e4, usual="10"),
            EntryField("mass", "All together", "mass", 1e-5, 1e3),
        ),
        _fish,
        group="Fish",
    ),
    EntryKind(
        "deaths",
        "Fish that died",
        ("Take them out at once. More than one in a day: test the water now.",),
        (EntryField("count", "How many", "count", 1.0, 1e6, usual="1"),),
        _fish,
        group="Fish",
    ),
    EntryKind(
        "netted",
        "Fish weighed",
        ("Net a few, weigh them together in water, and put them back.",),
        (
            EntryField("count", "How many", "count", 1.0, 1e5),
            EntryField("mass", "All together", "mass", 1e-5, 1e4),
        ),
        _fish,
        "mass",
        group="Fish",
    ),
    EntryKind(
        "moved",
        "Fish moved",
        ("Let them get used to the other water for a quarter of an hour.",),
        (
            EntryField("count", "How many", "count", 1.0, 1e6),
            EntryField("to", "Where to", ""),
            EntryField("mass", "All together", "mass", 1e-5, 1e4, is_needed=False),
        ),
        _fish,
        group="Fish",
    ),
    EntryKind(
        "sown",
        "Sown or planted out",
        ("Write what it is, and how many.",),
        (
            EntryField("what", "What", ""),
            EntryField("count", "How many", "count", 1.0, 1e6),
        ),
        _grown,
        group="Plants",
        does="sow-",
    ),
    EntryKind(
        "harvest",
        "Harvested",
        ("Heads, weight and worth may be left out.",),
        (
            EntryField("what", "What", ""),
            EntryField("count", "Heads", "count", 1.0, 1e6, is_needed=False),
            EntryField("mass", "Weight", "mass", 1e-4, 1e5, is_needed=False),
            EntryField("value", "Worth", "price", 0.0, 1e7, is_needed=False),
        ),
        _grown,
        group="Plants",
        does="sow-",
    ),
    EntryKind(
        "addition",
        "Something put in",
        ("Write what it was and how much; little at a time.",),
        (
            EntryField("what", "What", ""),
            EntryField("mass", "How much", "mass", 1e-6, 1e3),
        ),
        _vessels,
        group="Anything else",
    ),
    EntryKind(
        "cost",
        "Money spent",
        ("Fish, feed, seed, parts: whatever the season costs. Energy is worked out by the plan.",),
        (
            EntryField("what", "What for", ""),
            EntryField("value", "How much", "price", 0.01, 1e7),
        ),
        _whole,
        group="Anything else",
    ),
    EntryKind(
        "hours",
        "Hours of work",
        (),
        (
            EntryField("time", "How long", "hours", 60.0, 86400.0),
            EntryField("what", "What for", "", is_needed=False),
        ),
        _whole,
        group="Anything else",
    ),
    EntryKind(
        "note",
        "Note",
        (),
        (EntryField("words", "Note", ""),),
        _whole,
        group="Anything else",
    ),
    EntryKind(
        "job",
        "Job done",
        (),
        (EntryField("job", "Job", ""),),
        _whole,
        group="Anything else",
    ),
)

ENTRY_KINDS: dict[str, EntryKind] = {kind.key: kind for kind in _KINDS}
"""By their names, in the order in which they are offered."""
