"""What builders type, and what they read."""

import math
import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bathys.units import UnreadableQuantity, entry, read, show
from bathys.units.table import QUANTITIES

INCH, FOOT, GALLON = 0.0254, 0.3048, 231 * 0.0254**3  # NIST SP 811: exact by definition


@pytest.mark.parametrize(
    ("text", "quantity", "system", "value"),
    [
        ("2 in", "length", "metric", 2 * INCH),
        ("30 cm", "length", "us", 0.30),
        ("1 1/2", "length", "us", 1.5 * INCH),
        ("1-1/2 in", "length", "metric", 1.5 * INCH),
        ("7 ft 6", "length", "metric", 7.5 * FOOT),
        ("7' 6\"", "length", "us", 7.5 * FOOT),
        ("1½ in", "length", "metric", 1.5 * INCH),
        ("-200", "length", "metric", -0.2),
        ("600 gph", "flow", "metric", 600 * GALLON / 3600),
        ("1200", "flow", "metric", 1.2 / 3600),
        ("1.2 m3/h", "flow", "us", 1.2 / 3600),
        ("150 gal / hr", "flow", "us", 150 * GALLON / 3600),
        ("20 litres per hour", "flow", "us", 0.02 / 3600),
        ("72 F", "temperature", "metric", 22.2222),
        ("68", "temperature", "us", 20.0),
        ("2 in2", "area", "metric", 2 * INCH**2),
        ("35°", "angle", "us", 35.0),
        ("10 lb", "mass", "metric", 4.5359237),
    ],
)
def test_typed_quantities(text: str, quantity: str, system: str, value: float) -> None:
    """Every way of writing that is offered."""
    assert read(text, quantity, system) == pytest.approx(value, rel=1e-5)  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("text", "quantity", "words"),
    [
        ("", "length", "empty"),
        ("abc", "length", "cannot be read"),
        ("3 gal", "length", "volume"),
        ("1,500", "length", "two things"),
        ("12,345,678", "length", "comma"),
        ("1,2.5", "length", "comma"),
        (",5", "length", "comma"),
        ("5 5", "length", "without a unit"),
        ("3/0", "length", "bar"),
        ("2 in 3 ft", "length", "one quantity"),
        ("9" * 400, "length", "too long"),
        ("4 parsecs", "length", "not a unit"),
        ("1e400", "length", "too large"),
    ],
)
def test_unreadable_quantities_say_why(text: str, quantity: str, words: str) -> None:
    """In a sentence."""
    with pytest.raises(UnreadableQuantity, match=words):
        read(text, quantity)


@given(
    st.floats(1e-4, 90.0),
    st.sampled_from(["length", "flow", "area", "mass", "temperature"]),
    st.sampled_from(["metric", "us"]),
)
def test_what_stands_in_a_box_reads_back(value: float, quantity: str, system: str) -> None:
    """To the seven figures that a box shows in metric, the five in US units."""
    text = entry(value, quantity, system)  # type: ignore[arg-type]
    # Half of the last figure shown; above 100 °F that is 0.005 °F, or 0.0028 °C.
    share = 1e-6 if system == "metric" else 5e-5
    least = 0.003 if quantity == "temperature" else 1e-8
    back = read(text, quantity, system)  # type: ignore[arg-type]
    assert back == pytest.approx(value, rel=share, abs=least)


@given(st.integers(0, 24 * 60))
def test_every_minute_of_the_day_reads_back(minutes: int) -> None:
    """As a clock shows it, and by halves of the day."""
    assert read(entry(60.0 * minutes, "daytime", "us"), "daytime") == 60.0 * minutes
    hour, minute = divmod(minutes % (24 * 60), 60)
    half = "pm" if hour >= 12 else "am"
    told = f"{hour % 12 or 12}:{minute:02d} {half}"
    assert read(told, "daytime") == 60.0 * (60 * hour + minute)


@pytest.mark.parametrize("text", ["25", "8:60", "13 pm", "0 am", "noon", "24:01", "8:5"])
def test_what_is_no_time_of_the_day_is_refused(text: str) -> None:
    """With two that are."""
    with pytest.raises(UnreadableQuantity, match="8:00"):
        read(text, "daytime")


def test_results_are_shown_without_false_precision() -> None:
    """Three figures at the most."""
    assert show(1359.6 / 3.6e6, "flow", "metric") == "1,360 L/h"
    assert show(0.6789, "head", "metric") == "0.679 m"
    assert show(0.025, "volume", "metric") == "25 L"
    assert show(0.02501, "volume", "metric") == "25.0 L"
    assert show(455.9, "time", "us") == "7 min 36 s"
    assert show(None, "time", "us") == "–"
    assert show(float("nan"), "flow", "us") == "–"


@pytest.mark.parametrize(
    ("text", "quantity", "value"),
    [
        ("0,42", "price", 0.42),
        ("1,16 m", "length", 1.16),
        ("2,5 kg", "mass", 2.5),
        ("0,125 m", "length", 0.125),
        ("1,5", "head", 1.5),
        ("12,75 L/h", "flow", 12.75 / 3.6e6),
        ("3,1416 m", "length", 3.1416),
    ],
)
def test_a_decimal_comma_is_read_where_it_can_mean_one_thing(
    text: str, quantity: str, value: float
) -> None:
    assert read(text, quantity) == pytest.approx(value)


@pytest.mark.parametrize("quantity", sorted(QUANTITIES))
def test_what_a_box_gives_as_its_example_can_be_typed_there(quantity: str) -> None:
    """Each example of a sentence that refuses something is taken itself."""
    for text in re.split(r",| or ", QUANTITIES[quantity].example):
        assert math.isfinite(read(text, quantity, "metric"))
