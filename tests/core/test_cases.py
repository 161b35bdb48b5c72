"""The worked cases, and that their runner can fail."""

import copy
import json
import math
import tempfile
import unittest
from collections.abc import Iterator
from pathlib import Path
from typing import Any, ClassVar
from unittest.mock import patch

from cabrio.cases import failures, read_folder, run_folder
from cabrio.cases.topics import TOPICS
from cabrio.cases.units import as_expected, in_si
from cabrio.core.errors import CoreError, Impossible

FOLDER = Path(__file__).parent / "cases"


def once(ask: Any) -> Any:
    """A topic that answers the same question once: two tests look at every case."""
    kept: dict[str, Any] = {}

    def asked(given: dict[str, Any]) -> Any:
        key = json.dumps(given, sort_keys=True)
        if key not in kept:
            try:
                kept[key] = ask(given)
            except CoreError as refusal:
                kept[key] = refusal
        if isinstance(kept[key], CoreError):
            raise kept[key]
        return kept[key]

    return asked


class WorkedCases(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        patched = patch.dict(TOPICS, {topic: once(ask) for topic, ask in TOPICS.items()})
        patched.start()
        cls.addClassCleanup(patched.stop)

    def test_every_case_holds(self) -> None:
        outcomes = run_folder(FOLDER)
        for outcome in outcomes:
            with self.subTest(f"{outcome.file}: {outcome.name}"):
                self.assertEqual(outcome.failures, ())
        self.assertGreaterEqual(len(outcomes), 120)

    def test_every_topic_has_cases(self) -> None:
        self.assertEqual({topic for _, topic, _ in read_folder(FOLDER)}, set(TOPICS))

    def test_every_answer_is_expected_somewhere_to_the_digit(self) -> None:
        """A case with one expected number moved by a thousandth fails, in every topic."""
        moved = set()
        for _, topic, case in read_folder(FOLDER):
            if topic == "quarter_car":
                continue  # integrated, to two parts in a thousand
            wrong = copy.deepcopy(case)
            for where, holder, key in figures_in(wrong.get("expect", {})):
                holder[key] *= 1.001
                self.assertEqual(len(failures(topic, wrong)), 1, f"{topic} {where}")
                moved.add(topic)
                break
        self.assertEqual(moved, set(TOPICS) - {"quarter_car"})


def figures_in(expect: Any, where: str = "") -> Iterator[tuple[str, Any, Any]]:
    """Every figure of an answer that a thousandth of itself would show in, and what holds it."""
    for key, value in expect.items() if isinstance(expect, dict) else enumerate(expect):
        if isinstance(value, dict | list):
            yield from figures_in(value, f"{where}.{key}")
        elif isinstance(value, float) and abs(value) > 1e-3:
            yield f"{where}.{key}", expect, key


def with_one_number_else(given: Any, other: Any) -> Iterator[tuple[str, Any]]:
    """Copies of a case's given values, each with one of its numbers replaced."""

    def walk(part: Any, path: tuple[Any, ...]) -> Iterator[tuple[Any, ...]]:
        if isinstance(part, dict | list):
            items = part.items() if isinstance(part, dict) else enumerate(part)
            for key, value in items:
                yield from walk(value, (*path, key))
        elif isinstance(part, int | float) and not isinstance(part, bool):
            yield path

    for path in walk(given, ()):
        changed = copy.deepcopy(given)
        part = changed
        for key in path[:-1]:
            part = part[key]
        part[path[-1]] = other
        yield ".".join(str(key) for key in path), changed


def is_finite(answer: Any) -> bool:
    if isinstance(answer, dict | list | tuple):
        return all(
            is_finite(one) for one in (answer.values() if isinstance(answer, dict) else answer)
        )
    return not isinstance(answer, float) or math.isfinite(answer)


class Nonsense(unittest.TestCase):
    NO_MATTER: ClassVar[set[str]] = {"gravity_m_per_s2", "coil_bind_margin_wanted_m", "show"}

    def test_no_answer_without_a_number_and_no_crash(self) -> None:
        """One number of each topic's first case at a time made NaN, infinite, zero or negative."""
        first: dict[str, Any] = {}
        for _, topic, case in read_folder(FOLDER):
            first.setdefault(topic, case["given"])
        first["grip_balance"].pop("bar_change_share")  # the same limits, three times over
        first.pop("quarter_car")  # integrated: its own refusals are in test_simulate
        for given in first.values():
            for many in ("states", "rack_travels_m"):
                if many in given:
                    given[many] = given[many][:2]
        refused = 0
        for topic, given in first.items():
            for bad in (float("nan"), float("inf"), 0, -1.0):
                for where, changed in with_one_number_else(given, bad):
                    if where in self.NO_MATTER:
                        continue
                    try:
                        answer = TOPICS[topic](in_si(changed))
                    except CoreError as refusal:
                        self.assertTrue(refusal.sentence)
                        refused += 1
                        continue
                    self.assertTrue(math.isfinite(bad), f"{topic}: {where} took {bad}")
                    self.assertTrue(is_finite(answer), f"{topic}: {where} at {bad} gives {answer}")
        self.assertGreater(refused, 500)


class Runner(unittest.TestCase):
    CASE: ClassVar[dict[str, Any]] = {
        "name": "made up",
        "given": {"toe_m": [0.001, 0.001], "rim_diameter_m": 0.4},
        "expect": {"total_toe_m": 0.002},
    }

    def test_a_wrong_number_is_told_with_got_and_expected(self) -> None:
        wrong = self.CASE | {"expect": {"total_toe_m": 0.003}}
        self.assertEqual(failures("alignment", wrong), ["total_toe_m: got 0.002, expected 0.003"])

    def test_a_missing_answer_a_short_list_and_a_wrong_kind_fail(self) -> None:
        for key, expected in (
            ("camber_m", 1.0),
            ("toe_rad", [0.0025]),
            ("total_toe_m", True),
            ("total_toe_m", None),
            ("toe_rad", [0.0025, "x"]),
        ):
            self.assertEqual(len(failures("alignment", self.CASE | {"expect": {key: expected}})), 1)

    def test_a_refusal_is_asked_for_or_a_failure(self) -> None:
        refused = {"name": "", "given": {"toe_m": [1.0, 0.0], "rim_diameter_m": 0.4}}
        self.assertEqual(failures("alignment", refused | {"expect_error": "too far"}), [])
        self.assertIn("refusal", failures("alignment", refused | {"expect": {}})[0])
        asked = {**self.CASE, "expect_error": "no"}
        self.assertIn("expected a refusal", failures("alignment", asked)[0])

    def test_an_unknown_topic_or_key_is_a_failure_and_no_crash(self) -> None:
        self.assertIn("no topic is called wings", failures("wings", self.CASE)[0])
        self.assertIn("does not give front_wheel_rate", failures("launch", self.CASE)[0])
        self.assertEqual(failures("launch", {**self.CASE, "expect_error": "nothing given"}), [])
        odd = {**self.CASE, "given": {"toe_m": "wide", "rim_diameter_m": 0.4}}
        self.assertIn("cannot be read", failures("alignment", odd)[0])

    def test_other_units_go_in_and_come_out(self) -> None:
        case = {
            "name": "",
            "given": {"toe_mm": [1.0, 1.0], "rim_diameter_in": 15.0},
            "expect": {"total_toe_mm": 2.0, "toe_deg": [0.15038] * 2},
            "rel_tol": 1e-4,
        }
        self.assertEqual(failures("alignment", case), [])

    def test_every_suffix_is_exact(self) -> None:
        for key, value, name, wanted in (
            ("rate_kgf_per_mm", 1.0, "rate_n_per_m", 9806.65),
            ("rate_lbf_per_in", 1.0, "rate_n_per_m", 175.12683524647636),
            ("rate_n_per_mm", 1.0, "rate_n_per_m", 1000.0),
            ("mass_lb", 1.0, "mass_kg", 0.45359237),
            ("mass_g", 1.0, "mass_kg", 0.001),
            ("length_in", 1.0, "length_m", 0.0254),
            ("length_mm", 1.0, "length_m", 0.001),
            ("angle_deg", 180.0, "angle_rad", 3.141592653589793),
            ("air_degc", 0.0, "air_k", 273.15),
            ("air_degf", 32.0, "air_k", 273.15),
            ("gauge_psi", 1.0, "gauge_pa", 6894.757293168361),
            ("speed_mph", 1.0, "speed_m_per_s", 0.44704),
            ("acceleration_g", 1.0, "acceleration_m_per_s2", 9.80665),
        ):
            with self.subTest(key):
                self.assertAlmostEqual(in_si({key: value})[name], wanted, delta=1e-9 * abs(wanted))
                self.assertAlmostEqual(as_expected(key, wanted), value, delta=1e-9)
        self.assertEqual(in_si([{"a_mm": [1.0, None]}]), [{"a_m": [0.001, None]}])

    def test_a_folder_without_cases_and_a_broken_file_are_said(self) -> None:
        with tempfile.TemporaryDirectory() as name:
            folder = Path(name)
            with self.assertRaisesRegex(Impossible, "no case files"):
                run_folder(folder)
            (folder / "a.json").write_text("{")
            with self.assertRaisesRegex(Impossible, "a.json is no case file"):
                run_folder(folder)
            (folder / "a.json").write_text(json.dumps({"topic": "alignment", "cases": [self.CASE]}))
            heard: list[str] = []
            run_folder(folder, lambda outcome: heard.append(outcome.name))
            self.assertEqual(heard, ["made up"])
