"""Bathys: the engine that computes recirculating aquaponics layouts.

Public: :func:`bathys.pipeline.assess` turns a plan into an assessment, and
:func:`bathys.plan.load_plan` turns a file into a plan. Everything inside speaks SI; only
:mod:`bathys.units` converts. Imports go one way, as the contract in ``pyproject.toml`` says:
physics, then parts and units, plan, vessels, network, simulation, sizing, evaluation, rules,
pipeline, cli.
"""

from bathys.engine import keep_compiled_code

__version__ = "0.1.0"

keep_compiled_code()
