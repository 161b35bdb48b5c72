"""What looks under the car say of heights: by place and axle, and of the height it stands at now."""

import unittest

from cabrio.core.errors import UnknownName
from cabrio.core.record.floor import Learned, Look, check_floor, learned


def of(now: float | None, touched: tuple[float, ...] = (), free: tuple[float, ...] = ()) -> Learned:
    looks = [Look("Fen", "front", True, one) for one in touched]
    looks += [Look("Fen", "front", False, one) for one in free]
    (found,) = learned(looks, {"front": now})
    return found


class Floor(unittest.TestCase):
    def test_the_highest_that_touched_and_the_lowest_that_ran_free_count(self) -> None:
        found = of(0.062, touched=(0.055, 0.058, 0.057), free=(0.066, 0.061))
        self.assertEqual((found.touched_at, found.free_at), (0.058, 0.061))
        self.assertEqual((found.looks, found.now), (5, 0.062))

    def test_the_height_it_stands_at_is_judged(self) -> None:
        for now, touched, free, said in (
            (0.0570, (0.058,), (0.061,), "where it touched, or 1.0 mm lower"),
            (0.0580, (0.058,), (), "where it touched, or 0.0 mm lower"),
            (0.0610, (0.058,), (0.061,), "as high as it ran free"),
            (0.0595, (0.058,), (0.061,), "between what touched and what ran free"),
            (0.0600, (), (0.061,), "lower than it has run here"),
            (0.0600, (0.058,), (), "whether high enough is not known"),
            (None, (0.058,), (0.061,), "Read the ride heights"),
            (0.0600, (0.061,), (0.058,), "ran free as low as it touched"),
        ):
            with self.subTest(said):
                self.assertIn(said, of(now, touched, free).says)

    def test_a_look_without_a_height_claims_none(self) -> None:
        (found,) = learned([Look("Fen", "rear", True, None)], {"rear": 0.07})
        self.assertEqual((found.touched_at, found.free_at, found.looks), (None, None, 1))
        self.assertIn("nothing is known of heights", found.says)

    def test_places_and_axles_stand_apart_as_they_come(self) -> None:
        looks = [
            Look("Fen", "front", True, 0.06),
            Look("Ring", "front", False, 0.05),
            Look("Fen", "rear", False, 0.08),
        ]
        found = learned(looks, {})
        self.assertEqual(
            [(one.place, one.axle) for one in found],
            [("Fen", "front"), ("Ring", "front"), ("Fen", "rear")],
        )

    def test_only_the_two_axles_and_the_two_states_are_known(self) -> None:
        check_floor({"front": "free", "rear": "touched"})
        for wrong in ({"left": "free"}, {"front": "scraped"}):
            with self.assertRaises(UnknownName):
                check_floor(wrong)
