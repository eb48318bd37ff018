"""Sentences that page, terminal and sheet share."""
