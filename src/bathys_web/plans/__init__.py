"""Plans on a shelf, their revisions, and the plan page."""
