"""What people type, and what is shown of it."""

import json
import unittest
from pathlib import Path

from hypothesis import given
from hypothesis import strategies as st

from cabrio.core.catalog.units import (
    MEASURES,
    PROFILES,
    factor_and_offset,
    in_words,
    parse,
    rounded,
    show,
)
from cabrio.core.errors import NotANumber, UnknownUnit

# typed, quantity, profile, SI; exact conversions from the definitions of inch, pound and kgf
UNDERSTOOD = [
    ("70", "rate", "n_mm", 70e3),
    ("9 kgf/mm", "rate", "n_mm", 88259.85),
    ("9k", "rate", "imperial", 88259.85),
    ("500 lb/in", "rate", "kgf_mm", 500 * 175.12683524647636),
    ("500", "rate", "imperial", 500 * 175.12683524647636),
    ("57 1/4", "dimension", "imperial", 57.25 * 0.0254),
    ("3/16 in", "height", "n_mm", 3 / 16 * 0.0254),
    ("2' 5 1/2\"", "dimension", "n_mm", 29.5 * 0.0254),
    ("-1′ 3″", "dimension", "imperial", -15 * 0.0254),
    ("2 ft 1/4 in", "dimension", "n_mm", 24.25 * 0.0254),
    ("3'", "height", "n_mm", 36 * 0.0254),
    ("0.9 m2", "area", "n_mm", 0.9),
    ("10 ft^2", "area", "n_mm", 10 * 0.3048**2),
    ('98 1/8"', "dimension", "n_mm", 98.125 * 0.0254),
    ("1 1/4 turn", "turns", "n_mm", 1.25),
    ("-1/2 flat", "flats", "imperial", -0.5),
    ("−0.5", "flats", "n_mm", -0.5),
    ("75,5", "mass", "n_mm", 75.5),
    ("100 lbs", "mass", "n_mm", 45.359237),
    ("51 %", "share", "n_mm", 0.51),
    ("20", "temperature", "n_mm", 293.15),
    ("68 °F", "temperature", "n_mm", 293.15),
    ("0.94", "ratio", "n_mm", 0.94),
]
REFUSED = [
    ("", "mass", NotANumber, "Nothing typed here yet: write a number, such as 12.5 kg."),
    ("soft", "mass", NotANumber, "“soft” is not a number: write one such as 12.5 kg."),
    ("1,250", "mass", NotANumber, "“1,250” can be read two ways: write 1.250 or 1250."),
    ("1/0", "mass", NotANumber, "“1/0” divides by zero."),
    ("1e999", "mass", NotANumber, "“1e999” is too large to be a number here."),
    ("3 m", "mass", UnknownUnit, "“m” in “3 m” is no unit for this number: use kg or lb."),
    (
        "9 bananas",
        "rate",
        UnknownUnit,
        "“bananas” in “9 bananas” is no unit for this number: use N/mm or kgf/mm or lbf/in.",
    ),
    ("2 kg", "clicks", UnknownUnit, "“kg” in “2 kg” is no unit for this number: use clicks."),
]


class Rounding(unittest.TestCase):
    def test_the_vectors_that_the_browser_runs_too(self) -> None:
        vectors = json.loads((Path(__file__).parent / "rounding.json").read_text("utf-8"))
        for row in vectors:
            self.assertEqual(rounded(row["value"], row["precision"]), row["text"], row)


class Parsing(unittest.TestCase):
    def test_understood(self) -> None:
        for typed, quantity, profile, expected in UNDERSTOOD:
            with self.subTest(typed):
                self.assertAlmostEqual(
                    parse(typed, quantity, profile), expected, delta=1e-9 * abs(expected)
                )

    def test_refused_with_what_would_do(self) -> None:
        for typed, quantity, error, sentence in REFUSED:
            with self.subTest(typed), self.assertRaises(error) as caught:
                parse(typed, quantity)
            self.assertEqual(str(caught.exception), sentence)

    def test_numbers_must_be_finite(self) -> None:
        for value in (float("nan"), float("inf"), True):
            with self.assertRaises(NotANumber):
                parse(value, "mass")

    @given(
        st.sampled_from(sorted(MEASURES)), st.sampled_from(sorted(PROFILES)), st.floats(0.001, 9999)
    )
    def test_shown_units_come_back(self, quantity: str, profile: str, value: float) -> None:
        shown = MEASURES[quantity].for_profile(profile)
        factor, offset = factor_and_offset(quantity, shown.unit)
        si = parse(f"{value:.9f} {shown.symbol}", quantity, "n_mm")
        self.assertAlmostEqual(si * factor + offset, value, delta=1e-6 * max(1, value))


class Showing(unittest.TestCase):
    def test_about_how_much_is_said_in_the_units_of_the_car(self) -> None:
        for text, profile, said in (
            ("Door cars run {2.5 to 2.8 m}.", "n_mm", "Door cars run 2.5 to 2.8 m."),
            ("Door cars run {2.4 to 2.7 m}.", "imperial", "Door cars run 94 to 106 in."),
            ("Rates of {180 to 280 N/mm}.", "kgf_mm", "Rates of 18.4 to 29 kgf/mm."),
            ("Arms of {180 to 260 mm}.", "kgf_mm", "Arms of 180 to 260 mm."),
            ("In the shade at {18 °C}.", "imperial", "In the shade at 64 °F."),
        ):
            self.assertEqual(in_words(text, profile), said)

    def test_precision_of_each_profile(self) -> None:
        table = [
            (70_400.0, "rate", "n_mm", "70 N/mm"),
            (70_400.0, "rate", "kgf_mm", "7.2 kgf/mm"),
            (70_400.0, "rate", "imperial", "400 lbf/in"),
            (0.0623, "height", "n_mm", "62.5 mm"),
            (-0.0004, "height", "n_mm", "−0.5 mm"),
            (0.49876, "share", "n_mm", "49.9 %"),
            (-1e-9, "share", "n_mm", "0.0 %"),
        ]
        for si, quantity, profile, expected in table:
            self.assertEqual(show(si, quantity, profile), expected)
