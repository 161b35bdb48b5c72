"""The pads under a car, by the API: the simulated set, and what is said where none answer."""

from __future__ import annotations

from typing import Any

from cabrio.api.app import Settings, create_app
from cabrio.instruments.simulated_pads import SimulatedPads
from tests.support.client import INES, PELL, WEB, ApiTestCase, Person

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
