"""Kinds of entries on fish and plants."""

from bathys.fieldlog.entries import EntryField, EntryKind, fish, grown

__all__ = ["STOCK_KINDS"]

STOCK_KINDS = (
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
        fish,
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
        fish,
        group="Fish",
    ),
    EntryKind(
        "deaths",
        "Fish that died",
        ("Take them out at once. More than one in a day: test the water now.",),
        (EntryField("count", "How many", "count", 1.0, 1e6, usual="1"),),
        fish,
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
        fish,
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
        fish,
        group="Fish",
    ),
    EntryKind(
        "came",
        "Fish that came",
        (
            "Let them get used to the water for a quarter of an hour.",
            "Keep bought fish apart from others for some weeks.",
            "Fish moved here from another tank are entered there, under “Fish moved”.",
        ),
        (
            EntryField("count", "How many", "count", 1.0, 1e6),
            EntryField("mass", "All together", "mass", 1e-5, 1e4, is_needed=False),
            EntryField("of", "Where from", "", is_needed=False),
        ),
        fish,
        group="Fish",
    ),
    EntryKind(
        "brood",
        "Eggs or fry",
        (
            "Look from above; leave a fish that broods alone.",
            "Count the fry of one cup, and cups: an estimate is enough.",
        ),
        (
            EntryField("what", "What: eggs, fry, or taken out", ""),
            EntryField("count", "About how many", "count", 0.0, 1e6, is_needed=False),
        ),
        fish,
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
        grown,
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
        grown,
        group="Plants",
        does="sow-",
    ),
)
"""What is entered of fish and plants."""
