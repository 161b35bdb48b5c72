"""The pads under a car, by the API: the simulated set, and what is said where none answer."""

from __future__ import annotations

from typing import Any

from cabrio.api.app import Settings, create_app
from cabrio.instruments.simulated_pads import SimulatedPads
from tests.support.client import INES, PELL, WEB, ApiTestCase, Person, pads

PADS = "/api/cars/1/instruments/pads"


class Pads(ApiTestCase):
    connected: Any

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        pads = SimulatedPads()
        settings = Settings(secret="test", web=WEB, demo=True, pads=pads.start())
        cls.connected = create_app(settings, cls.engine)
        cls.addClassCleanup(pads.server_close)
        cls.addClassCleanup(pads.shutdown)

    def test_no_pads_connected_is_said_with_what_would_do(self) -> None:
        told = self.person(INES).refused(409, "POST", PADS, {})
        self.assertIn("CABRIO_PADS=host:port", told["detail"])

    def test_they_weigh_the_car_as_it_should_stand_now(self) -> None:
        ines = Person(self.connected)
        ines.sign_in(INES)
        before = ines.ok("POST", PADS, {"settle": True})["loads"]
        last = ines.bench()["figures"]["pad_mass"]["values"]
        known = [(one, was) for one, was in zip(before, last, strict=True) if one is not None]
        self.assertGreaterEqual(len(known), 3)
        # swinging, and a perch turned since they were read: near the last reading, not at it
        for one, was in known:
            self.assertLess(abs(one - was), 40.0)
        count = len(ines.ok("GET", "/api/cars/1/readings?kind=pads"))
        ines.ok("POST", PADS, {})
        self.assertEqual(len(ines.ok("GET", "/api/cars/1/readings?kind=pads")), count)

    def test_a_driver_reads_no_pads(self) -> None:
        pell = Person(self.connected)
        pell.sign_in(PELL)
        pell.refused(403, "POST", PADS, {})

    def test_the_ledger_sets_what_was_predicted_beside_what_was_weighed(self) -> None:
        ines = self.person(INES)
        steps = ines.ok("GET", "/api/cars/1/ledger")["steps"]
        self.assertGreaterEqual(len(steps), 2)
        told = 0
        for step in steps:
            self.assertLess(step["since"], step["revision"] + 1)
            if step["predicted"] is None:
                self.assertTrue(step["why"])
                continue
            told += 1
            self.assertAlmostEqual(sum(step["predicted"]), sum(step["weighed"]), delta=6.0)
        self.assertGreater(told, 0)
        # the demo's wrong reading is withdrawn: what stands agrees with what was done
        newest = steps[0]
        apart = [a - b for a, b in zip(newest["weighed"], newest["predicted"], strict=True)]
        self.assertLess(max(map(abs, apart)), 3.0)

    def test_what_a_perch_turn_really_moves_is_learned_from_the_pads(self) -> None:
        """A car whose perches move three quarters of what its data says: found out over three changes."""
        ines = self.person(INES)
        made = ines.ok("POST", "/api/cars/1/copy", {"name": "Learner"})["id"]
        at = f"/api/cars/{made}"
        self.assertIsNone(ines.ok("GET", f"{at}/ledger")["perches"])
        rows, told = [262.0, 260.0, 248.0, 246.0], []
        ines.ok("POST", f"{at}/readings", pads(rows))
        for turns in (1.0, -1.5, 0.5, 1.0):
            now = ines.bench(made)["setup"]["perch_turns"]
            lines = [
                ("perch_turns", place, round((now[i] or 0.0) + sign * turns, 6))
                for i, (place, sign) in enumerate(
                    zip(("LF", "RF", "LR", "RR"), (1, -1, -1, 1), strict=True)
                )
            ]
            slip = ines.draft(*lines, car=made)
            ines.book(made)
            # once three changes were weighed the slip itself goes by what they told
            share = 1.0 if slip["notes"] else 0.75
            told.append(bool(slip["notes"]))
            rows = [
                old + share * (new - old)
                for old, new in zip(rows, slip["after"]["pad_mass"], strict=True)
            ]
            ines.ok("POST", f"{at}/readings", pads([round(row, 1) for row in rows]))
        learned = ines.ok("GET", f"{at}/ledger")["perches"]
        self.assertEqual(learned["count"], 4)
        self.assertAlmostEqual(learned["share"], 0.75, delta=0.03)
        self.assertTrue(learned["sure"])
        self.assertTrue(learned["used"])
        self.assertEqual(told, [False, False, False, True])

    def test_what_a_flat_does_to_the_line_is_learned_and_told_with_the_advice(self) -> None:
        ines = self.person(INES)
        told = ines.ok("GET", "/api/cars/2/line-error")
        self.assertEqual(len(told["passes"]), 5)
        self.assertIn("to the left by 60 ft, over 5 passes; straight at −1 flat", told["said"])
        self.assertEqual(told["straight"], -1.0)
        asked = "symptom=drives_left&phase=hit"
        found = ines.ok("GET", f"/api/cars/2/advice?{asked}")["candidates"]
        flat = next(one for one in found if one["number"] == "link_preload")
        # it stands there already: a flat more would take it off its line
        self.assertIn("runs straight at −1 flat, and has −1 flat", flat["refused"])
        # a car without preload has nothing to learn
        self.assertEqual(ines.ok("GET", "/api/cars/1/line-error")["passes"], [])
        moved = ines.call("GET", "/api/cars/1/drift")  # its address before
        self.assertEqual((moved.status_code, moved.location), (308, "/api/cars/1/line-error"))

    def test_two_weighings_in_unlike_states_are_not_the_same_car_again(self) -> None:
        ines = self.person(INES)
        car = ines.add_car()
        held = ("driver_aboard", "bars_free", "pressures_set", "pads_zeroed", "settled")
        for conditions, fuel in ((dict.fromkeys(held, True), "30"), ({"settled": True}, "")):
            repeats = {"pad_mass": [["300", "290", "250", "260"]], "fuel_mass": [[fuel]]}
            body = {"kind": "pads", "repeats": repeats, "conditions": conditions}
            ines.ok("POST", f"/api/cars/{car}/readings", body)
        (step,) = ines.ok("GET", f"/api/cars/{car}/ledger")["steps"]
        said = " ".join(step["states"])
        self.assertIn("Driver", said)
        self.assertIn("then, not now", said)
        self.assertIn("Fuel: 30.0 kg then, not told now.", said)
