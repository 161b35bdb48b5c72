"""Every entered number can be given, set, read or fitted somewhere, and estimates are ranked."""

import unittest

from cabrio.core.car import first_setup
from cabrio.core.catalog.entered import ENTERED
from cabrio.core.knowledge import DISCIPLINES, knowledge
from cabrio.core.sheet.build import build
from cabrio.core.sheet.entry_points import entry_point
from cabrio.core.sheet.measure_next import measure_next
from tests.core.test_estimates import new


class Doors(unittest.TestCase):
    def test_every_entered_number_has_a_door(self) -> None:
        for discipline in DISCIPLINES:
            kinds = knowledge().readings.values()
            elsewhere = {
                name
                for kind in kinds
                for name in kind.numbers
                if not {"all", discipline} & set(kind.disciplines)
            }
            for number in ENTERED:
                if number.name in elsewhere:
                    continue  # nobody is asked to read it on such a car
                found = entry_point(number.name, discipline)
                assert found is not None, f"{number.name} has no door on a {discipline} car"
                views = {s.id for s in knowledge().stations_for(discipline)} | {"data", "parts"}
                self.assertIn(found.view, views)

    def test_a_figure_leads_to_its_first_root(self) -> None:
        found = entry_point("bar_wheel_rate", "circuit")
        assert found is not None
        self.assertEqual((found.view, found.anchor), ("parts", "bar"))


class MeasureNext(unittest.TestCase):
    def test_what_stains_most_of_what_decides_comes_first(self) -> None:
        car = new("race_no_downforce", "independent")
        found = measure_next(build(car, first_setup(car)))
        self.assertEqual(found[0].name, "pad_mass")
        counts = [len(one.stains) for one in found]
        self.assertEqual(counts, sorted(counts, reverse=True))
        self.assertTrue(all(one.why and one.door for one in found))

    def test_what_was_measured_is_not_asked_for(self) -> None:
        car = new("race_no_downforce", "independent", pad_mass=(250.0,) * 4)
        self.assertNotIn(
            "pad_mass", [one.name for one in measure_next(build(car, first_setup(car)))]
        )
