"""A car file that is let in by the checks and refused by the tables, or whose database goes meanwhile."""

from __future__ import annotations

import copy
from typing import Any
from unittest import mock

from sqlalchemy import text

from cabrio.storage import bulk
from tests.support.client import INES, ApiTestCase


class ImportFails(ApiTestCase):
    def setUp(self) -> None:
        self.ines = self.person(INES)
        self.file = self.ines.call("GET", "/api/cars/1/file").get_json()
        self.cars = self.ines.ok("GET", "/api/cars")["cars"]

    def nothing_came(self) -> None:
        self.assertEqual(len(self.ines.ok("GET", "/api/cars")["cars"]), len(self.cars))
        events = self.ines.ok("GET", "/api/cars/1/logbook")["events"]
        self.assertEqual(
            len(events), len({(event["name"], event["starts_on"]) for event in events})
        )

    def test_what_the_tables_refuse_is_said(self) -> None:
        run = self.file["events"][0]["sessions"][0]["runs"][0]
        self.file["events"][0]["sessions"][0]["runs"].append(copy.deepcopy(run))
        self.file["events"][0]["name"] = "Nowhere"
        with mock.patch("cabrio.files.car_file.unfit", return_value=iter(())):
            told = self.ines.refused(422, "POST", "/api/cars/import", self.file)
        self.assertIn("cannot be kept together", told["detail"])
        self.nothing_came()

    def test_a_connection_lost_meanwhile_is_told_as_ever(self) -> None:
        whole = bulk._text
        ended: list[bool] = []

        def lost(document: Any) -> str:
            if not ended:
                with self.engine.connect() as owner:
                    query = (
                        "SELECT pg_terminate_backend(pid, 5000) FROM pg_stat_activity "
                        "WHERE query LIKE 'COPY%' AND datname = current_database()"
                    )
                    ended.extend(owner.scalars(text(query)))
            return whole(document)

        with mock.patch("cabrio.storage.bulk._text", lost):
            told = self.ines.refused(503, "POST", "/api/cars/import", self.file)
        self.assertEqual((ended, told["code"]), ([True], "no_database"))
        self.nothing_came()
        self.ines.ok("POST", "/api/cars/import", self.file)
