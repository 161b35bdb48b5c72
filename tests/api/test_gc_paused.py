"""Garbage is left alone while a car comes in or goes out, and looked for again after the last of them."""

from __future__ import annotations

import gc

from cabrio.api.bodies import LARGEST
from cabrio.api.gc_paused import gc_paused
from tests.support.client import INES, ApiTestCase


class Unswept(ApiTestCase):
    def test_it_is_looked_for_again_after_the_last_and_after_a_failure(self) -> None:
        self.assertTrue(gc.isenabled())
        with gc_paused():
            with self.assertRaises(ValueError), gc_paused():
                self.assertFalse(gc.isenabled())
                raise ValueError
            self.assertFalse(gc.isenabled())
        self.assertTrue(gc.isenabled())

    def test_so_it_is_after_a_car_file_taken_or_refused(self) -> None:
        ines = self.person(INES)
        file = ines.call("GET", "/api/cars/2/file").data
        self.assertTrue(gc.isenabled())
        ines.ok("POST", "/api/cars/import", file)
        self.assertTrue(gc.isenabled())
        ines.refused(422, "POST", "/api/cars/import", file[:-20])
        self.assertTrue(gc.isenabled())

    def test_a_file_that_is_not_said_to_be_json_is_not_read(self) -> None:
        ines = self.person(INES)
        file = ines.call("GET", "/api/cars/2/file").data
        headers = {"X-CSRF-Token": ines.token}
        refused = ines.http.post("/api/cars/import", data=file, headers=headers)
        self.assertEqual(refused.status_code, 415)
        ines.refused(413, "POST", "/api/cars/import", b" " * (LARGEST + 1))
