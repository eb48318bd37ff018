"""Stored plans, their revisions, and the plan page."""
