"""The dictionary's own contract."""

import inspect
import unittest

from cabrio.core.catalog.quantities import Kind, Shape
from cabrio.core.catalog.units import MEASURES
from cabrio.core.errors import UnknownName
from cabrio.core.graph import registry
from cabrio.core.graph.registry import downstream, figures, number_named, numbers, upstream


class Dictionary(unittest.TestCase):
    def test_every_number_has_a_label_a_help_and_a_known_quantity(self) -> None:
        for number in numbers().values():
            with self.subTest(number.name):
                self.assertTrue(number.label and number.help)
                self.assertIn(number.quantity, MEASURES)

    def test_every_figure_tells_unit_formula_and_source(self) -> None:
        for name, entry in figures().items():
            with self.subTest(name):
                self.assertRegex(entry.number.help, r"\[.+\]")
                self.assertTrue(entry.number.formula and entry.number.source)
                self.assertRegex(entry.number.wrong, r"^[a-z].+\.$", "when it is wrong to use")
                self.assertEqual(entry.needs, tuple(inspect.signature(entry.function).parameters))

    def test_figures_come_after_what_they_need(self) -> None:
        seen = {n.name for n in numbers().values() if n.kind is not Kind.WORKED}
        for name, entry in figures().items():
            self.assertLessEqual(set(entry.needs), seen)
            seen.add(name)

    def test_labels_are_not_used_twice(self) -> None:
        labels = [number.label for number in numbers().values()]
        self.assertEqual(len(labels), len(set(labels)))

    def test_reach_is_the_same_graph_both_ways(self) -> None:
        self.assertIn("axle_frequency", downstream(["motion_ratio"]))
        self.assertNotIn("cross_share", downstream(["motion_ratio"]))
        self.assertIn("motion_ratio", upstream(["axle_frequency"]))

    def test_an_unknown_name_and_place_are_refused(self) -> None:
        with self.assertRaisesRegex(UnknownName, "no number called “wing”"):
            number_named("wing")
        with self.assertRaisesRegex(UnknownName, "use front, rear"):
            number_named("track").index("LF")

    def test_a_name_cannot_be_entered_twice(self) -> None:
        def wheel_rate() -> None:
            """Again."""

        self.assertIn("wheel_rate", figures())
        enter = registry.figure(label="x", quantity="rate", shape=Shape.CAR, formula="", source="")
        with self.assertRaisesRegex(ValueError, "entered twice"):
            enter(wheel_rate)  # type: ignore[arg-type]

    def test_a_figure_without_a_docstring_is_refused(self) -> None:
        enter = registry.figure(label="x", quantity="rate", shape=Shape.CAR, formula="", source="")
        with self.assertRaisesRegex(ValueError, "no docstring"):
            enter(lambda: None)  # type: ignore[arg-type, return-value]
