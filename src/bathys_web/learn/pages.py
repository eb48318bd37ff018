"""The help pages: one for each place of the application."""

from dataclasses import dataclass

__all__ = ["HELP", "HelpPage"]


@dataclass(frozen=True, slots=True)
class HelpPage:
    """A help page.

    Attributes
    ----------
    key, title, about : str
        Its name in addresses, its title, and what it is about in one sentence
    """

    key: str
    title: str
    about: str

    @property
    def template(self) -> str:
        """Where its words stand."""
        return f"learn/help/{self.key}.html"


HELP = (
    HelpPage("first-plan", "Your first plan", "From a layout to a plan of your own system."),
    HelpPage("brief", "From a brief", "Six questions, and a plan that is sized."),
    HelpPage("plans", "Plans", "Find, copy, compare, archive, export and import plans."),
    HelpPage("design", "Design", "The side view, the inspector, findings and benches."),
    HelpPage("solids", "Solids and settlers", "How waste is caught, and what to build it of."),
    HelpPage("water", "Fish, water and air", "What lives in the water, and how long it has air."),
    HelpPage("ground", "Ground plan", "Where everything stands, and how pipes run."),
    HelpPage("build", "Build", "The sheet to level, drill, cut and buy by."),
    HelpPage("run", "Run", "Measure, log and keep up what is built."),
    HelpPage("instruments", "Instruments", "Boards that measure, and what they give alarm for."),
    HelpPage("parts", "Parts", "Pumps you can buy, containers, pipe sizes and prices."),
    HelpPage("account", "Account", "Password, e-mail address, your data, the demo account."),
)
"""In the order of their list."""
