"""Terms a newcomer may not know, each with one sentence; one term for one thing."""

from dataclasses import dataclass

__all__ = ["GLOSSARY", "Term", "term_in"]


@dataclass(frozen=True, slots=True)
class Term:
    """A term of the trade.

    Attributes
    ----------
    name : str
        The term, as labels have it
    meaning : str
        What it means, in one sentence
    instead_of : tuple of str
        Words that mean the same and are not used, as patterns of whole words
    """

    name: str
    meaning: str
    instead_of: tuple[str, ...] = ()


GLOSSARY = (
    Term("air hole", "A hole in a drowned return, above the water, that stops it siphoning back."),
    Term("air stone", "Where air comes out into the water in bubbles."),
    Term("air tube", "A tube that lets air into a siphon so that it stops with certainty."),
    Term("alarm", "What instruments tell when something has been wrong for long enough."),
    Term("alkalinity", "What holds the pH up; bacteria use it up."),
    Term("ammonia", "What fish give off; as such it burns their gills."),
    Term("baffle", "A plate across a vessel that water passes under."),
    Term("bell", "The cap over a standpipe that makes it a siphon.", ("dome",)),
    Term("biofilter", "A vessel full of surface for bacteria that make fish waste harmless."),
    Term("board", "A small computer with sensors that sends what they read."),
    Term("bore", "The inside diameter of a pipe.", ("caliber", "inner diameter")),
    Term("brushes", "Round brushes that stand in a chamber and hold fines back."),
    Term("bypass", "A pipe that leads part of the water past something."),
    Term("canister", "A closed filter with pads that a pump presses water through."),
    Term("carriers", "Small bodies that bacteria live on."),
    Term("catch area", "The roof or rim whose rain comes into a vessel."),
    Term("channel", "One thing that a board measures, such as the level of the sump."),
    Term("check valve", "A valve that lets water through one way only.", ("non-return valve",)),
    Term("clean-out", "A plugged branch through which a pipe is rodded out."),
    Term("crest", "The height water must reach before it runs over into a pipe."),
    Term("cup", "A small vessel about an air tube’s foot that makes the siphon break at once."),
    Term("cycle", "From one start of a siphon to the next: the bed fills, then drains."),
    Term("dial", "The pump's own control, as a share of full speed."),
    Term(
        "dip tube", "A pipe through a wall that turns down inside, so that it draws from the floor."
    ),
    Term("evaporation", "Water that dries off, as depth of open water a day."),
    Term("exchange", "Water let out and made up again with fresh water."),
    Term("fall", "How much lower the end of a pipe is than its beginning."),
    Term(
        "film", "The layer that grows on the wall of a pipe and narrows it.", ("slime", "biofilm")
    ),
    Term("fish", "Fish of one age in a tank."),
    Term("float switch", "A switch that runs a pump by the height of the water."),
    Term("float valve", "A valve that lets in fresh water when the level falls.", ("ballcock",)),
    Term("freeboard", "Dry wall between the highest water and the rim."),
    Term("grade line", "The height water would rise to in a tube set into the pipe."),
    Term("grow bed", "A box of media that plants grow in, flooded with fish water.", ("growbed",)),
    Term("guard", "A perforated pipe that keeps media away from the siphon."),
    Term("head", "Pressure as a height of water: what a pump lifts and what pipes take."),
    Term("head loss", "Head that water loses to friction, bends and valves on its way."),
    Term("high water", "The highest level in normal running."),
    Term("intake", "Where a siphon draws from: at this level air gets in and it stops."),
    Term("invert", "The lowest point inside a pipe."),
    Term("junction", "Where pipes meet: a tee, a wye or a plain joint."),
    Term("label flow", "What a pump moves without any lift, as its label says."),
    Term("label lift", "How high a pump lifts at no flow, as its label says."),
    Term("lift", "How far a pump raises the water."),
    Term("loop siphon", "A siphon made of a bent tube instead of a bell."),
    Term("low water", "The lowest level in normal running."),
    Term("manifold", "Where the air of a pump parts to its stones."),
    Term("matting", "Sheets of coarse fibre that water passes to lose its fines."),
    Term("media", "Gravel, clay pebbles or the like in a grow bed.", ("substrate",)),
    Term("mineralising drum", "An aerated drum in which sludge breaks down into plant food."),
    Term("netting", "Net balled up in a chamber, so that fines catch in it."),
    Term("nitrate", "What bacteria make in the end; plants take it up."),
    Term("nitrite", "What bacteria make of ammonia first; it harms fish."),
    Term("notch", "A cut in an edge that water runs over; a V keeps shares even at small flows."),
    Term("outfall", "An open end where water leaves the system."),
    Term("overflow rate", "The flow through a settler over its open area: how fast water rises."),
    Term("overflows", "Water runs over a rim.", ("spills over", "brims over")),
    Term("power cut", "The mains fail and every pump stops.", ("outage", "blackout")),
    Term("purge", "Sludge let out of a settler by its drain."),
    Term("raft", "A long tank with plants floating on boards."),
    Term("reading", "What a sensor tells at one moment."),
    Term("rim", "The top edge of a vessel or a standpipe."),
    Term("riser", "The pipe that leads up from a pump."),
    Term("run", "One line of pipe between two ends."),
    Term("runs dry", "A pump has no water left over its inlet."),
    Term("saturation", "All the oxygen that water can hold."),
    Term("schedule", "What a timer does, and when."),
    Term("screen", "A mesh over a way out that keeps fish, roots or media back."),
    Term("settler", "A vessel where water slows down so that solids sink.", ("swirl pot",)),
    Term("siphon starts", "The siphon fills with water and begins to empty the bed."),
    Term("siphon stops", "Air gets into the siphon and it no longer runs.", ("siphon breaks",)),
    Term(
        "sleeve",
        "A wider pipe about a standpipe, drilled at its foot, so that it draws from the floor.",
    ),
    Term("slots", "Openings at the foot of a bell that water comes in by."),
    Term("sludge mark", "The height at which a settler's sludge is let out."),
    Term("sock", "A bag of felt or mesh that a pipe ends in."),
    Term("solids lift", "A pipe that draws water and solids up from the floor of a tank."),
    Term("spell", "A time of the day during which a clock keeps something on."),
    Term("splash plate", "A plate that spreads falling water."),
    Term("standpipe", "An upright pipe that water drains into over its top edge.", ("stand pipe",)),
    Term("static bed", "Drifting media that stand still and strain the water."),
    Term("sump", "The lowest vessel: it takes up what the others let go.", ("sump tank",)),
    Term("tail", "The pipe that leads down from a siphon or a standpipe."),
    Term("telltale holes", "Holes high in a filter: water from them shows that it clogs."),
    Term("token", "A long word by which a board is known; whoever has it can send for it."),
    Term("trial", "Two parts compared, with one thing that differs between them on purpose."),
    Term("turnover", "How often in an hour a vessel's whole water is replaced."),
    Term("variant", "A copy of a plan or of a part, changed to compare the two."),
    Term("void fraction", "The share of the media that water can fill."),
    Term("wear", "What is left of a new pump's flow."),
    Term("weir", "An edge that water runs over."),
    Term("working window", "The inflows at which a siphon both starts and stops."),
)
"""Every term, in the order of the alphabet."""

_BY_LENGTH = sorted(GLOSSARY, key=lambda t: -len(t.name))


def term_in(label: str) -> Term | None:
    """The longest term that stands in a label.

    Parameters
    ----------
    label : str
        A label

    Returns
    -------
    Term or None
        The term; none if it needs no explaining
    """
    words = f" {label.lower()} "
    return next((t for t in _BY_LENGTH if f" {t.name} " in words), None)
