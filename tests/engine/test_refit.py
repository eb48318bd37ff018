"""A plan fitted to what was measured: against rigs whose secrets are known, a posterior by brute
force, and a least-squares fit by hand."""

import math
from collections.abc import Collection
from pathlib import Path

import numpy as np
import pytest

from bathys.edits import Edit, apply_edits
from bathys.evaluation import Evaluation, evaluate
from bathys.fieldlog import Logged
from bathys.parts.fouling import FOULING, film_of_thickness
from bathys.plan import load_plan
from bathys.refit import (
    MEASURES,
    NothingMeasured,
    Parameter,
    Reading,
    as_built,
    lasting_of,
    next_readings,
    odds_of,
    parameters_of,
    readings_of_log,
    refit,
    with_values,
)
from bathys.refit.parameters import METER
from bathys.refit.trials import Trials, predicted_readings
from bathys.simulation import Abandoned
from tests.conftest import EXAMPLE

pytestmark = pytest.mark.uncounted

SPLIT = load_plan((Path(EXAMPLE).parent / "split-flow.json").read_bytes())
PAIR = load_plan(Path(EXAMPLE).read_bytes())
_NOISE, _MODEL = 0.03, 0.02


def _rig(seed: int, *keys: str) -> tuple[np.ndarray, Evaluation, np.random.Generator]:
    """A layout built by the plan, with secrets drawn from what is assumed of them; or only of
    some."""
    rng = np.random.default_rng(seed)
    parameters = [p for p in parameters_of(evaluate(SPLIT)) if not keys or p.key in keys]
    z = np.clip(rng.normal(size=len(parameters)), -2.5, 2.5)
    fields = {f: p.value(at) for p, at in zip(parameters, z, strict=True) for f in p.fields}
    return z, evaluate(with_values(SPLIT, fields)), rng


def _readings(
    truth: Evaluation, rng: np.random.Generator, kinds: Collection[str] = (), meter: float = 1.0
) -> list[Reading]:
    """One of everything that can be read, each with the noise of a hand and of the model."""
    off = math.hypot(_NOISE, _MODEL)
    return [
        Reading(
            kind,
            part,
            value * (meter if kind == "watts" else 1.0) * (1.0 + off * rng.normal()),
            _NOISE * value,
        )
        for (kind, part), value in predicted_readings(truth, kinds).items()
    ]


def test_secrets_of_200_parameters_lie_where_the_fit_says_about_as_often_as_it_says() -> None:
    """Of intervals that are to hold 80 %, 70 to 90 % hold the secret; film, wear and starts of
    siphons are known to 0.6 of what they were before, in the mean."""
    held, widths = [], []
    for seed in range(13):
        z, truth, rng = _rig(seed)
        whole = parameters_of(evaluate(SPLIT))
        hidden = {p.key: p.value(at) for p, at in zip(whole, z, strict=True)}
        fit = refit(SPLIT, _readings(truth, rng, ("watts", "dries"), hidden[METER]))
        for fitted in fit.fitted:
            held.append(fitted.low <= hidden[fitted.parameter.key] <= fitted.high)
            if fitted.parameter.key.startswith(("film", "wear", "start")):
                widths.append(fitted.narrowed)
    assert len(held) >= 200
    assert 0.70 <= np.mean(held) <= 0.90
    assert np.mean(widths) <= 0.6


def _brute(
    parameters: list[Parameter], readings: list[Reading], grids: list[np.ndarray]
) -> np.ndarray:
    """Likelihood times prior on a grid, written apart from the fit."""
    weights = np.zeros([len(grid) for grid in grids])
    for i, one in enumerate(grids[0]):
        for j, two in enumerate(grids[1]):
            pairs = zip(parameters, (one, two), strict=True)
            found = evaluate(
                with_values(SPLIT, {f: p.value(at) for p, at in pairs for f in p.fields})
            )
            computed = {
                ("bucket", d.run): d.flow for duty in found.duties.values() for d in duty.deliveries
            } | {("lift", id_): duty.shut_off_head for id_, duty in found.duties.items()}
            chi = sum(
                ((r.value - computed[r.kind, r.part]) / math.hypot(r.spread, 0.02 * r.value)) ** 2
                for r in readings
            )
            weights[i, j] = -0.5 * (chi + one**2 + two**2)
    weights = np.exp(weights - weights.max())
    return weights / weights.sum()


def test_two_parameters_agree_with_a_posterior_by_brute_force() -> None:
    """Mean and spread on a grid, first coarse, then fine where anything is."""
    keys = ("film.pumped", "wear.P1")
    z, truth, rng = _rig(3, *keys)
    parameters = [p for p in parameters_of(evaluate(SPLIT)) if p.key in keys]
    readings = [r for r in _readings(truth, rng) if r.kind in ("bucket", "lift")]
    fit = refit(SPLIT, readings, only=keys)
    assert not any(r.is_odd for r in fit.readings)
    assert len(fit.fitted) == len(z) == 2
    grids = [np.linspace(-3.0, 3.0, 19)] * 2
    coarse = _brute(parameters, readings, grids)
    inside = [np.nonzero(coarse.sum(axis=1 - axis) > 1e-6)[0] for axis in (0, 1)]
    grids = [
        np.linspace(grid[max(rows[0] - 1, 0)], grid[min(rows[-1] + 1, 18)], 19)
        for grid, rows in zip(grids, inside, strict=True)
    ]
    fine = _brute(parameters, readings, grids)
    for axis, fitted in enumerate(fit.fitted):
        along, grid = fine.sum(axis=1 - axis), grids[axis]
        mean = float(along @ grid)
        spread = math.sqrt(float(along @ (grid - mean) ** 2))
        assert fitted.narrowed == pytest.approx(spread, rel=0.1)
        parameter = fitted.parameter
        assert abs(parameter.value(mean) - fitted.value) < 0.2 * fitted.spread


def test_a_reading_that_goes_with_none_is_named_and_the_others_are_not() -> None:
    _, truth, rng = _rig(5)
    readings = _readings(truth, rng)
    n = next(n for n, r in enumerate(readings) if r.kind == "bucket")
    readings[n] = Reading("bucket", readings[n].part, 2.0 * readings[n].value, readings[n].spread)
    fit = refit(SPLIT, readings)
    assert [r.reading.part for r in fit.readings if r.is_odd] == [readings[n].part]


def test_what_flow_alone_does_not_tell_apart_is_said_and_what_to_read_next_tells_it() -> None:
    """One bucket: film, strainer and wear hang together, the siphons stay as they were. The reading
    that is put forward narrows the figure asked about by about as much as it said."""
    _, truth, rng = _rig(7)
    every = {(r.kind, r.part): r for r in _readings(truth, rng)}
    readings = [every["bucket", "R5"]]
    fit = refit(SPLIT, readings)
    told = {f.parameter.key for f in fit.fitted if f.is_told}
    assert "start.X1" not in told
    assert not told & {"void.B1", "void.B2", "break.X1"}
    asked = "reserve.X1"
    best = next_readings(fit, asked)[0]
    assert best.measure.kind == "starts"
    again = refit(SPLIT, [*readings, every[best.measure.kind, best.part]])

    def doubt(of: object) -> float:
        slopes = getattr(of, "asked_slopes")[asked]  # noqa: B009 - of either fit
        value = next(a.value for a in getattr(of, "asked") if a.key == asked)  # noqa: B009
        return float(np.sqrt(slopes @ getattr(of, "covariance") @ slopes)) / (1.0 + value)  # noqa: B009

    assert 1.0 - doubt(again) / doubt(fit) == pytest.approx(best.narrows, abs=0.15)
    assert next_readings(fit)
    full = refit(SPLIT, list(every.values()))
    assert sum(f.narrowed for f in full.fitted) < sum(f.narrowed for f in fit.fitted)


def test_as_built_is_a_plan_like_any_other_and_says_what_was_fitted() -> None:
    """Its figures are those of the fit, to the four digits that are kept."""
    _, truth, rng = _rig(2)
    fit = refit(SPLIT, _readings(truth, rng))
    taken = [f for f in fit.fitted if f.is_told]
    edits = as_built(
        [f.parameter for f in fit.fitted],
        [f.value for f in fit.fitted],
        [f.spread for f in fit.fitted],
    )
    built = evaluate(apply_edits(SPLIT, edits))
    for key, value in predicted_readings(built).items():
        assert value == pytest.approx(fit.predicted[key], rel=5e-3)
    siphon = built.beds[0].siphon
    assert siphon.start_froude.low < siphon.start_froude.value < siphon.start_froude.high
    assert taken
    assert as_built([], [], []) == ()


def test_nothing_measured_is_said() -> None:
    with pytest.raises(NothingMeasured, match="bucket at each"):
        refit(SPLIT, [Reading("bucket", "nowhere", 1e-4, 1e-6)])


@pytest.mark.parametrize("kind", sorted(MEASURES))
def test_every_measure_has_a_prediction_and_words(kind: str) -> None:
    found = evaluate(SPLIT)
    rows = dict(MEASURES[kind].predicted(found))
    assert rows
    of_all = kind == "dries"
    assert all(value > 0.0 and (part in found.plan.names) != of_all for part, value in rows.items())
    assert ("{part:words}" in MEASURES[kind].advice) != of_all


def test_a_film_as_measured_lies_between_the_states() -> None:
    """At their thickness it is theirs; between, the flow lies between; a cleaned one is new."""
    for film in FOULING.values():
        same = film_of_thickness(film.thickness)
        assert (same.thickness, same.roughness) == pytest.approx((film.thickness, film.roughness))
    flows = []
    for thickness in (0.0, 0.2e-3, 0.5e-3, 1.0e-3, 2.0e-3, 4e-3):
        edits = [Edit(f"runs.{r.id}.film", thickness) for r in SPLIT.runs]
        flows.append(evaluate(apply_edits(SPLIT, edits)).duties["P1"].flow)
    assert flows == sorted(flows, reverse=True)
    new = evaluate(apply_edits(SPLIT, [Edit(f"runs.{r.id}.fouling", "new") for r in SPLIT.runs]))
    assert flows[0] == pytest.approx(new.duties["P1"].flow, rel=1e-9)


def _share_over(flow: float, froude_flow: float, spread: float) -> float:
    """Share of a log-normal start under a flow, by the normal's own integral."""
    return 0.5 * (1.0 + math.erf(math.log(flow / froude_flow) / spread / math.sqrt(2.0)))


def test_odds_of_one_doubt_are_the_integral_of_its_law() -> None:
    """Where nothing but the start of one siphon is in doubt, its odds are a normal's integral;
    after a reading of it, that of the two laws taken together by their weights (Gauss)."""
    found = evaluate(PAIR)
    bed = next(b for b in found.beds if not b.fed_by)
    start, inflow = bed.cycle.window.start.value, bed.cycle.mean_inflow
    low = apply_edits(
        PAIR,
        [
            Edit(
                f"siphons.{bed.siphon.id}.starts_at",
                0.97 * inflow / start * bed.siphon.start_froude.value,
            )
        ],
    )
    key = f"start.{bed.siphon.id}"
    at = next(b for b in evaluate(low).beds if b.siphon.id == bed.siphon.id)
    start, inflow = at.cycle.window.start.value, at.cycle.mean_inflow
    read, spread = 1.05 * inflow, 0.02 * inflow
    fit = refit(low, [Reading("starts", bed.bed.id, read, spread)], only=(key,))
    (odds,) = (o for o in odds_of(fit, 600) if o.key == f"starts.{bed.siphon.id}")
    assert odds.before == pytest.approx(_share_over(inflow, start, 0.25), abs=0.06)
    of_reading = math.hypot(spread, 0.02 * read) / read
    weights = 1.0 / 0.25**2, 1.0 / of_reading**2
    middle = math.exp((weights[0] * math.log(start) + weights[1] * math.log(read)) / sum(weights))
    expected = _share_over(inflow, middle, sum(weights) ** -0.5)
    assert odds.after == pytest.approx(expected, abs=0.06)
    assert odds.after < odds.before


def test_what_goes_well_in_every_layout_is_not_told() -> None:
    """A plan with wide margins leaves nothing to tell of the stop of its siphons; and the same fit
    tells the same twice."""
    fit = refit(SPLIT, _readings(evaluate(SPLIT), np.random.default_rng(1)), only=("wear.P1",))
    told = odds_of(fit, 10)
    assert told == odds_of(fit, 10)
    assert all(min(o.before, o.after) < 1.0 for o in told)
    assert not [o for o in told if o.key.startswith("stops.")]


def test_odds_are_given_up_when_nobody_waits() -> None:
    fit = refit(SPLIT, _readings(evaluate(SPLIT), np.random.default_rng(1)), only=("wear.P1",))
    with pytest.raises(Abandoned):
        odds_of(fit, 40, lambda: False)


def _tests_of_water(*rows: tuple[float, float, float]) -> list[Logged]:
    """Days ago, ammonia and nitrite [g/m³]."""
    return [
        Logged("water", "T1", {"ammonia": tan, "nitrite": nitrite, "nitrate": 20.0}, age)
        for age, tan, nitrite in rows
    ]


def test_what_was_topped_up_and_tested_is_read_out_of_the_log() -> None:
    """By hand: 20 + 30 L replace what went in ten days, less 10 L of sludge: 4 L a day. Ammonia
    counts from the day on which the bacteria turn all of it over."""
    found = evaluate(PAIR)
    rows = [Logged("top_up", "T1", {"volume": v}, age) for v, age in ((0.1, 12.0), (0.02, 7.0))]
    rows += [Logged("top_up", "T1", {"volume": 0.03}, 2.0)]
    rows += [Logged("purge", "T1", {"volume": 0.01}, 5.0), Logged("purge", "T1", {"volume": 9}, 13)]
    (dries,) = (r for r in readings_of_log(rows, found, 0.0) if r.kind == "dries")
    assert dries.value == pytest.approx(0.004)
    assert dries.spread == pytest.approx(math.hypot(0.1 * 0.04, 0.0125) / 10.0)
    assert not [r for r in readings_of_log(rows[1:], found) if r.kind == "dries"]
    open_air = evaluate(apply_edits(PAIR, [Edit("site.storm_depth", 0.05)]))
    assert not [r for r in readings_of_log(rows, open_air, 0.0) if r.kind == "dries"]
    rain = [Logged("rain", "", {"depth": d}, age) for d, age in ((0.006, 6.0), (0.3, 20.0))]
    (wet,) = (r for r in readings_of_log([*rows, *rain], open_air, 0.0) if r.kind == "dries")
    caught = 0.006 * sum(v.catches_rain for v in PAIR.vessels)
    assert wet.value == pytest.approx(0.004 + caught / 10.0)
    assert wet.spread > dries.spread
    tests = _tests_of_water((40, 4.0, 0.0), (30, 2.0, 4.0), (20, 0.1, 0.1), (18, 0.2, 0.1))
    (ammonia,) = readings_of_log([*tests, *_tests_of_water((9, 0.4, 0.1))], found)
    assert (ammonia.kind, ammonia.part) == ("ammonia", "T1")
    assert ammonia.value == pytest.approx(0.3)
    assert readings_of_log(tests[:3], found) == []


def test_what_dries_is_fitted_by_the_weights_of_reading_and_prior() -> None:
    """One number, one reading: the mean of both by their weights, in the logarithm (Gauss); and the
    plan as built takes it as told, though its climate was worked out before."""
    hot = apply_edits(PAIR, [Edit("site.hot_air", 30.0), Edit("site.evaporation_from", "climate")])
    before = dict(MEASURES["dries"].predicted(evaluate(hot)))[""]
    read, spread = 1.8 * before, 0.1 * 1.8 * before
    fit = refit(hot, [Reading("dries", "", read, spread)], only=("evaporation",))
    weights = 1.0 / 0.4**2, 1.0 / (math.hypot(spread, 0.02 * read) / read) ** 2
    middle = (weights[0] * math.log(before) + weights[1] * math.log(read)) / sum(weights)
    (fitted,) = fit.fitted
    area = before / hot.site.dries
    assert math.log(fitted.value * area) == pytest.approx(middle, abs=0.01)
    built = apply_edits(hot, as_built([fitted.parameter], [fitted.value], [fitted.spread]))
    assert built.site.dries == pytest.approx(fitted.value, rel=1e-3)


def test_a_plug_meter_that_shows_more_makes_no_pump_stronger() -> None:
    """Watts alone tell of the meter; bacteria that do half leave more ammonia."""
    found = evaluate(PAIR)
    watts = dict(MEASURES["watts"].predicted(found))["P1"]
    fit = refit(PAIR, [Reading("watts", "P1", 1.05 * watts, 0.005 * watts)])
    told = {f.parameter.key: f for f in fit.fitted}
    assert told[METER].value > 1.01
    assert not told["wear.P1"].is_told
    assert as_built([told[METER].parameter], [1.05], [0.01]) == ()
    tan = [
        dict(MEASURES["ammonia"].predicted(evaluate(with_values(PAIR, {_BACTERIA: share}))))["T1"]
        for share in (0.5, 1.0, 2.0)
    ]
    assert tan == sorted(tan, reverse=True)
    assert tan[0] > 1.5 * tan[1]


_BACTERIA = ("site", "", "nitrification")


def test_the_day_on_which_a_siphon_starts_no_longer_is_the_one_it_is_told_for() -> None:
    """Film and strainer of that day, put into the plan by hand: a day before the siphon starts, a
    day after it does not. Half the pace so far lasts about twice as long."""
    found = evaluate(PAIR)
    bed = next(b for b in found.beds if not b.fed_by)
    froude = bed.siphon.start_froude.value * bed.cycle.mean_inflow / bed.cycle.window.start.value
    weak = apply_edits(PAIR, [Edit(f"siphons.{bed.siphon.id}.starts_at", 0.93 * froude)])
    truth = evaluate(weak)
    readings = [
        Reading(kind, part, value, 0.01 * value)
        for (kind, part), value in predicted_readings(truth).items()
    ]
    fit = refit(weak, readings, 30.0)
    key = f"starts.{bed.siphon.id}"
    lasts = {r.key: r for r in lasting_of(fit, 30.0)}[key]
    assert lasts.likely is not None
    assert lasts.soon is not None
    assert lasts.soon <= lasts.likely
    grows = [f for f in fit.fitted if f.parameter.grows]
    still = {f: x.value for x in fit.fitted for f in x.parameter.fields}

    def starts(days: float) -> bool:
        grown = {f: x.value * (1.0 + days / 30.0) for x in grows for f in x.parameter.fields}
        at = next(
            b
            for b in evaluate(with_values(weak, {**still, **grown})).beds
            if b.siphon.id == bed.siphon.id
        )
        return at.cycle.mean_inflow > at.cycle.window.start.value

    assert starts(lasts.likely - 1.0)
    assert not starts(lasts.likely + 1.0)
    slower = {r.key: r for r in lasting_of(fit, 60.0)}[key]
    assert slower.likely == pytest.approx(2.0 * lasts.likely, rel=0.02)
    assert lasting_of(fit, 3.0) == ()


def test_what_grows_goes_on_growing_however_thick_it_is() -> None:
    """A film of twenty times is one of twenty times, though no fit would look so far for it."""
    film = next(p for p in parameters_of(evaluate(PAIR), 7.0) if p.key == "film.pumped")
    grown = Trials(PAIR, [film]).evaluation(np.zeros(1), 20.0)
    by_hand = evaluate(with_values(PAIR, dict.fromkeys(film.fields, 20.0 * film.median)))
    assert grown is not None
    assert grown.duties["P1"].flow == pytest.approx(by_hand.duties["P1"].flow, rel=1e-9)
