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
        "counted",
        "Fish counted",
        (
            "Count them as they are caught, graded or moved: a look from above misses many.",
            "From then on they are counted from this number.",
        ),
        (
            EntryField("count", "How many there are", "count", 0.0, 1e6),
            EntryField("mass", "All together", "mass", 1e-5, 1e5, is_needed=False),
        ),
        fish,
        group="Fish",
    ),
    EntryKind(
        "graded",
        "Fish graded by size",
        (
            "Feed nothing the day before. Work in the cool of the morning, with wet hands and net.",
            "Those half as long again as the others eat first, and small ones get nothing: part "
            "them.",
            "Enter what goes to another tank under “Fish moved”.",
        ),
        (
            EntryField("small", "Small ones", "count", 0.0, 1e6),
            EntryField("large", "Large ones", "count", 0.0, 1e6),
            EntryField("gap", "Gap between the bars", "length", 1e-3, 0.3, is_needed=False),
        ),
        fish,
        group="Fish",
        does="grade-",
    ),
    EntryKind(
        "caught",
        "Fish caught to eat or sell",
        (
            "Keep them unfed in clean water for two or three days first: it takes the taste of mud "
            "away (common practice).",
            "Treat no fish that is to be eaten without asking a vet.",
        ),
        (
            EntryField("count", "How many", "count", 1.0, 1e6),
            EntryField("mass", "All together", "mass", 1e-4, 1e5, is_needed=False),
            EntryField("unfed", "Kept unfed before", "interval", 0.0, 3e6, is_needed=False),
            EntryField("value", "Worth", "price", 0.0, 1e7, is_needed=False),
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
