"""Boards that measure: what they send, what it should be, what calls for somebody."""
