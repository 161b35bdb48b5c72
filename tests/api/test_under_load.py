"""The car under load over HTTP: booked and drafted, limits, steps, and what is refused."""

from tests.support.client import INES, PELL, ApiTestCase

PATH = "/api/cars/1/under-load"


class UnderLoad(ApiTestCase):
    def test_booked_and_after_the_slip(self) -> None:
        ines = self.person(INES)
        ines.draft()
        plain = ines.ok("GET", PATH)
        self.assertIsNone(plain["drafted"])
        booked = plain["booked"]
        weight = sum(ines.bench()["figures"]["pad_mass"]["values"]) * 9.80665
        self.assertGreater(sum(booked["loads"]), weight)  # downforce at the speed of the car data
        self.assertGreater(booked["loads"][1], booked["loads"][0])  # turning left
        self.assertLess(booked["lift"], booked["roll_over"])
        self.assertAlmostEqual(
            booked["balance"], booked["front_limit"] - booked["rear_limit"], places=9
        )
        ines.draft(("bar_hole", "rear", 4))
        drafted = ines.ok("GET", PATH)["drafted"]
        self.assertGreater(drafted["front_share"], booked["front_share"])
        self.assertLess(drafted["balance"], booked["balance"])
        # what the front tyres carry more unequally costs them stiffness: more steer per g
        self.assertGreater(drafted["gradient"], booked["gradient"])
        step = next(
            one
            for one in plain["steps"]
            if (one["lines"][0]["name"], one["lines"][0]["place"]) == ("bar_hole", "rear")
        )
        self.assertAlmostEqual(step["balance"], drafted["balance"] - booked["balance"], places=5)
        ines.draft()

    def test_another_load(self) -> None:
        ines = self.person(INES)
        right = ines.ok("GET", f"{PATH}?sideways=-9.8&speed=0")["booked"]
        self.assertGreater(right["loads"][0], right["loads"][1])
        over = ines.ok("GET", f"{PATH}?sideways=40&speed=0")["booked"]
        self.assertIn("roll over", over["refused"])
        self.assertEqual(over["loads"], [])
        self.assertIsNotNone(over["lift"])
        braking = ines.ok("GET", f"{PATH}?sideways=0&along=-8&speed=0")["booked"]
        self.assertGreater(sum(braking["loads"][:2]), sum(braking["loads"][2:]))
        self.assertIsNone(braking["front_share"])

    def test_around_the_load(self) -> None:
        ines = self.person(INES)
        ines.draft(("bar_hole", "front", 4))
        found = ines.ok("GET", f"{PATH}/around?speed=50")
        booked, drafted = found["booked"], found["drafted"]
        self.assertEqual(len(booked["speeds"]), len(booked["balance"]))
        self.assertTrue(
            all(b < d for b, d in zip(booked["balance"], drafted["balance"], strict=True))
        )
        most = max(one for one in booked["sideways"] if one is not None)
        self.assertGreater(most, 9.81)
        ines.draft()
        ines.ok("PATCH", "/api/cars/2/given", {"values": {"roll_centre_height": [None, None]}})
        self.assertIsNone(ines.ok("GET", "/api/cars/2/under-load/around")["booked"])

    def test_what_cannot_be_asked(self) -> None:
        ines = self.person(INES)
        for asked in ("sideways=90", "speed=-1", "along=x", "turn=left"):
            with self.subTest(asked):
                self.assertEqual(ines.call("GET", f"{PATH}?{asked}").status_code, 422)

    def test_a_car_that_lacks_numbers_says_which(self) -> None:
        ines = self.person(INES)
        ines.ok("PATCH", "/api/cars/2/given", {"values": {"roll_centre_height": [None, None]}})
        found = self.person(PELL).ok("GET", "/api/cars/2/under-load")
        self.assertIsNone(found["booked"])
        self.assertIn("roll_centre_height", [need["name"] for need in found["needs"]])
