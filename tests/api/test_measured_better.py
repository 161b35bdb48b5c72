"""What a reading tells of a fact is offered at once, with its ± and where it is from, and taken by one press."""

import numpy as np

from cabrio.core.solve.cg import by_tilt
from tests.support.client import INES, ApiTestCase

HELD = dict.fromkeys(
    ("driver_aboard", "bars_free", "pressures_set", "pads_zeroed", "settled"), True
)


class MeasuredBetter(ApiTestCase):
    def test_the_cg_height_of_a_raised_axle(self) -> None:
        ines = self.person(INES)
        car = ines.add_car()
        at = f"/api/cars/{car}"
        given = {"wheelbase": ["2500 mm"], "loaded_radius": ["310 mm", "310 mm"]}
        ines.ok("PATCH", f"{at}/given", {"values": given})
        self.assertEqual(ines.bench(car)["better"], [])
        pads = [["300", "300", "250", "250"]]
        body = {"kind": "pads", "settles": {"pad_mass": pads}, "conditions": HELD}
        ines.ok("POST", f"{at}/readings", body)
        raised = {"front_raised_mass": [["620"]], "rear_lift": [["400 mm"]]}
        body = {"kind": "cg_tilt", "settles": raised, "conditions": HELD}
        body["conditions"] = {"driver_aboard": True, "pads_zeroed": True}
        ines.ok("POST", f"{at}/readings", body)
        (offer,) = ines.bench(car)["better"]
        known = {"wheelbase": 2.5, "total_mass": 1100.0, "front_level": 600.0}
        plain = by_tilt(**known, front_raised=620.0, radii=(0.31, 0.31), rear_lift=0.4)
        self.assertEqual((offer["fact"], offer["kind"]), ("cg_height", "cg_tilt"))
        self.assertAlmostEqual(offer["values"][0], plain.height, 9)
        # the ± by plain sampling of many cars whose numbers are off by as much, nine in ten
        rng, heights = np.random.default_rng(3), []
        for _ in range(4000):
            off = rng.normal(size=9) / 1.645
            level = 600.0 + 0.5 * off[0] + 0.5 * off[1]
            total = 1100.0 + 0.5 * off[:4].sum()
            heights.append(
                by_tilt(
                    wheelbase=2.5 + 0.003 * off[4],
                    total_mass=total,
                    front_level=level,
                    front_raised=620.0 + 0.7 * off[5],
                    radii=(0.31 + 0.003 * off[6], 0.31 + 0.003 * off[7]),
                    rear_lift=0.4 + 0.002 * off[8],
                ).height
            )
        low, high = np.quantile(heights, (0.05, 0.95))
        self.assertAlmostEqual(offer["within"][0], (high - low) / 2, delta=0.05 * (high - low))
        take = {"values": {"cg_height": offer["values"]}, "source": {"cg_height": offer["source"]}}
        ines.ok("PATCH", f"{at}/given", take)
        bench = ines.bench(car)
        fact = bench["given"]["cg_height"]
        self.assertEqual(fact["estimated"], [False])
        self.assertIn("±", fact["why"])
        self.assertIn("by Ines Halloran", fact["why"])
        self.assertEqual(bench["better"], [])
        self.assertEqual(bench["revision"], 1)  # a correction is no change of the car

    def test_what_rests_on_what_nobody_read_is_no_measurement(self) -> None:
        ines = self.person(INES)
        car = ines.add_car()
        raised = {"front_raised_mass": [["800"]], "rear_lift": [["400 mm"]]}
        body = {"kind": "cg_tilt", "settles": raised, "conditions": {}, "confirmed": True}
        ines.ok("POST", f"/api/cars/{car}/readings", body)
        (offer,) = ines.bench(car)["better"]
        self.assertEqual(set(offer["lacks"]), {"pad_mass", "wheelbase", "loaded_radius"})
        self.assertEqual(offer["within"], [None])

    def test_droop_at_the_wheels_that_were_lifted_until_heights_are_void(self) -> None:
        ines = self.person(INES)
        car = ines.add_car()
        at = f"/api/cars/{car}/readings"
        heights = {"ride_height": [["120", "120", "130", "130"]]}
        ines.ok("POST", at, {"kind": "heights", "settles": heights, "conditions": HELD})
        lifted = {"lifted_height": [["165", "165", "", "178"]]}
        ines.ok("POST", at, {"kind": "droop", "settles": lifted, "conditions": {}})
        (offer,) = ines.bench(car)["better"]
        self.assertEqual(offer["fact"], "droop_travel")
        told = [None if one is None else round(one, 4) for one in offer["values"]]
        self.assertEqual(told, [0.045, 0.045, None, 0.048])
        self.assertEqual([one is None for one in offer["within"]], [False, False, True, False])
        self.assertAlmostEqual(offer["within"][0], 0.0007 * 2**0.5, 6)
        ines.draft(("spring", "LF", None), ("perch_turns", "LF", 2.0), car=car)
        ines.book(car)
        self.assertEqual(ines.bench(car)["better"], [])
