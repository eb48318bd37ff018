"""Kinds of entries, what is asked of each, and at which parts it is made."""

from bathys.fieldlog.entries import (
    EntryField,
    EntryKind,
    anywhere,
    outdoors,
    outlets,
    pumps,
    settlers,
    siphon_beds,
    tanks,
    vessels,
    whole,
)
from bathys.fieldlog.stock_kinds import STOCK_KINDS

__all__ = ["ENTRY_KINDS"]

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
        outlets,
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
        siphon_beds,
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
        siphon_beds,
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
        siphon_beds,
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
        pumps,
        "length",
    ),
    EntryKind(
        "level",
        "Water under the rim",
        ("Measure from the rim straight down to the water, while the pump runs.",),
        (EntryField("below", "Under the rim", "length", 0.0, 5.0),),
        vessels,
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
        pumps,
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
        tanks,
        does="test",
    ),
    EntryKind(
        "top_up",
        "Water topped up",
        ("Only water that has stood for a day, or has its chlorine taken out.",),
        (EntryField("volume", "How much", "volume", 1e-4, 1e3),),
        vessels,
        does="top-up-",
    ),
    EntryKind(
        "purge",
        "Sludge let out",
        ("Open the drain until the water runs clear, and note how much went.",),
        (EntryField("volume", "How much", "volume", 1e-4, 1e3),),
        settlers,
        does="sludge-",
    ),
    EntryKind(
        "rain",
        "Rain",
        (
            "Read the gauge, or a straight glass that stood in the open, and empty it.",
            "What ran over a rim or an overflow is not known: measure below it, or leave it out.",
        ),
        (EntryField("depth", "How deep", "length", 1e-4, 0.5),),
        outdoors,
    ),
    *STOCK_KINDS,
    EntryKind(
        "addition",
        "Something put in",
        ("Write what it was and how much; little at a time.",),
        (
            EntryField("what", "What", ""),
            EntryField("mass", "How much", "mass", 1e-6, 1e3),
        ),
        vessels,
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
        whole,
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
        whole,
        group="Anything else",
    ),
    EntryKind(
        "note",
        "Note",
        (),
        (EntryField("words", "Note", ""),),
        anywhere,
        group="Anything else",
    ),
    EntryKind(
        "job",
        "Job done",
        (),
        (EntryField("job", "Job", ""),),
        whole,
        group="Anything else",
    ),
)

ENTRY_KINDS: dict[str, EntryKind] = {kind.key: kind for kind in _KINDS}
"""By their names, in the order in which they are offered."""
