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
        body = {"kind": "pads", "repeats": {"pad_mass": pads}, "conditions": HELD}
        ines.ok("POST", f"{at}/readings", body)
        raised = {"front_raised_mass": [["620"]], "rear_lift": [["400 mm"]]}
        body = {"kind": "cg_tilt", "repeats": raised, "conditions": HELD}
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
        body = {"kind": "cg_tilt", "repeats": raised, "conditions": {}, "confirmed": True}
        ines.ok("POST", f"/api/cars/{car}/readings", body)
        (offer,) = ines.bench(car)["better"]
        self.assertEqual(set(offer["lacks"]), {"pad_mass", "wheelbase", "loaded_radius"})
        self.assertEqual(offer["within"], [None])

    def test_droop_at_the_wheels_that_were_lifted_until_heights_are_void(self) -> None:
        ines = self.person(INES)
        car = ines.add_car()
        at = f"/api/cars/{car}/readings"
        heights = {"ride_height": [["120", "120", "130", "130"]]}
        ines.ok("POST", at, {"kind": "heights", "repeats": heights, "conditions": HELD})
        lifted = {"lifted_height": [["165", "165", "", "178"]]}
        ines.ok("POST", at, {"kind": "droop", "repeats": lifted, "conditions": {}})
        (offer,) = ines.bench(car)["better"]
        self.assertEqual(offer["fact"], "droop_travel")
        told = [None if one is None else round(one, 4) for one in offer["values"]]
        self.assertEqual(told, [0.045, 0.045, None, 0.048])
        self.assertEqual([one is None for one in offer["within"]], [False, False, True, False])
        self.assertAlmostEqual(offer["within"][0], 0.0007 * 2**0.5, 6)
        ines.draft(("spring", "LF", None), ("perch_turns", "LF", 2.0), car=car)
        ines.book(car)
        self.assertEqual(ines.bench(car)["better"], [])

    def test_ratio_rates_and_unsprung_mass_of_one_wheel_each(self) -> None:
        ines = self.person(INES)
        car = ines.add_car()
        at = f"/api/cars/{car}"
        ines.ok("POST", f"{at}/parts", SPRING)
        ines.draft(("spring", "LF", "A"), ("spring", "RF", "A"), car=car)
        ines.book(car)
        for kind, told in READ.items():
            repeats = {name: [[text, "", "", ""]] for name, text in told.items()}
            held = {"pressures_set": True, "pads_zeroed": True}
            body = {"kind": kind, "repeats": repeats, "conditions": held}
            ines.ok("POST", f"{at}/readings", body)
        stands = {one["kind"]: one["status"] for one in ines.bench(car)["standings"]}
        self.assertEqual({stands[kind] for kind in READ}, {"fresh"})  # no other wheel is missed
        offers = {one["fact"]: one for one in ines.bench(car)["better"]}
        # by hand: 24/30; (1500 − 300)/24 mm; 9.80665·80 kg/3.5 mm; the pad itself
        by_hand = {
            "motion_ratio": (0.8, 0.0250),
            "spring_rate": (50e3, 1080.0),
            "tyre_rate": (224.15e3, 27.2e3),
            "unsprung_mass": (36.5, 0.5),
        }
        self.assertEqual(set(offers), set(by_hand))
        for fact, (value, within) in by_hand.items():
            with self.subTest(fact):
                offer = offers[fact]
                self.assertEqual(offer["lacks"], [])
                self.assertNotIn("doubt", offer["source"])
                self.assertAlmostEqual(offer["values"][0] / value, 1.0, 4)
                self.assertEqual(offer["values"][1:], [None] * 3)
                self.assertAlmostEqual(offer["within"][0] / within, 1.0, delta=0.02)
        self.assertIn("± 3.1 %", offers["motion_ratio"]["source"])  # whichever way up it is written
        # taken: at the wheel that was read, and at no other
        before = ines.bench(car)["given"]["tyre_rate"]
        taken = [offers["tyre_rate"]["values"][0], *before["values"][1:]]
        ines.ok("PATCH", f"{at}/given", {"values": {"tyre_rate": taken}, "confirmed": True})
        after = ines.bench(car)["given"]["tyre_rate"]
        self.assertEqual(after["estimated"], [False, True, True, True])
        self.assertNotIn("tyre_rate", {one["fact"] for one in ines.bench(car)["better"]})
        # a spring whose part says so is told nothing better; another spring has not been rated
        values = SPRING["values"] | {"rate": "50 N/mm"}
        ines.ok("POST", f"{at}/parts", SPRING | {"values": values, "instead_of": "A"})
        self.assertNotIn("spring_rate", {one["fact"] for one in ines.bench(car)["better"]})

    def test_a_spring_that_carried_less_when_shorter_is_refused(self) -> None:
        ines = self.person(INES)
        car = ines.add_car()
        told = READ["spring_rated"] | {"spring_load_second": "200 N"}
        repeats = {name: [[text, "", "", ""]] for name, text in told.items()}
        body = {"kind": "spring_rated", "repeats": repeats, "conditions": {}}
        said = ines.refused(422, "POST", f"/api/cars/{car}/readings", body)
        (field,) = said["errors"]
        self.assertEqual(field["detail"], "LF: the shorter spring must carry more.")
        self.assertEqual((field["number"], field["place"]), ("spring_load_second", "LF"))

    def test_what_does_not_go_with_an_earlier_reading_is_said_where_it_was_read(self) -> None:
        ines = self.person(INES)
        car = ines.add_car()
        at = f"/api/cars/{car}/readings"
        lifted = {"lifted_height": [["", "", "110", ""]]}
        ines.ok("POST", at, {"kind": "droop", "repeats": lifted, "conditions": {}})
        (told,) = ines.bench(car)["better"]
        self.assertEqual(told["lacks"], ["ride_height"])  # refused by an estimate: that is said too
        heights = {"ride_height": [["120", "120", "130", "130"]]}
        ines.ok("POST", at, {"kind": "heights", "repeats": heights, "conditions": HELD})
        ines.ok("POST", at, {"kind": "droop", "repeats": lifted, "conditions": {}})
        (told,) = ines.bench(car)["better"]
        self.assertEqual(told["lacks"], [])
        self.assertEqual((told["fact"], told["values"]), ("droop_travel", [None] * 4))
        self.assertEqual(
            told["refused"], "LR: the lifted height must not be below the ride height."
        )


SPRING = {
    "kind": "spring",
    "code": "A",
    "note": "",
    "values": {"rate": "52 N/mm", "free_length": "200 mm", "solid_length": "80 mm"},
}
READ = {
    "wheel_lift": {"wheel_raised": "30 mm", "spring_shortened": "24 mm"},
    "spring_rated": {
        "spring_load_first": "300 N",
        "spring_length_first": "190 mm",
        "spring_load_second": "1500 N",
        "spring_length_second": "166 mm",
    },
    "tyre_deflection": {
        "tyre_load_light": "250 kg",
        "hub_height_light": "310 mm",
        "tyre_load_heavy": "330 kg",
        "hub_height_heavy": "306.5 mm",
    },
    "unsprung_weighed": {"wheel_alone": "36.5 kg"},
}
