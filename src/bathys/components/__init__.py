"""Kinds of parts: one folder each, with all that the engine knows of it.

A folder holds a module for each thing the engine asks of a kind, named after it; what a kind has
no answer to it leaves out. :mod:`bathys.kinds` lists the kinds and finds the modules;
``docs/architecture.md`` tells what each module holds.
"""
