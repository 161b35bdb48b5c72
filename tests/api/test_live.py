"""What is written is told to the pages that are open: to the team, from wherever, and to nobody else."""

import json
import threading
import time
from collections.abc import Iterator
from datetime import timedelta
from typing import Any, cast
from unittest import mock

import psycopg
from sqlalchemy import text, update

from cabrio.api.app import Settings, create_app
from cabrio.api.live import KEY, Live
from cabrio.operations.car_files import STEPS
from cabrio.storage import listening
from cabrio.storage.database import open_engine
from cabrio.storage.models import SignIn
from tests.support.client import INES, PELL, TEO, WEB, ApiTestCase, Person, pads


def until(true: Any, seconds: float = 10) -> bool:
    end = time.monotonic() + seconds
    while not true():
        if time.monotonic() > end:
            return False
        time.sleep(0.02)
    return True


class Pooled(psycopg.Connection[Any]):
    """As through a pool that shares connections out: one hears what it called itself, and nothing besides."""

    called = False

    def execute(self, query: Any, *given: Any, **named: Any) -> Any:
        self.called = "NOTIFY" in str(query)
        return super().execute(query, *given, **named)

    def notifies(self, *, timeout: float | None = None, **_: Any) -> Any:
        return super().notifies(timeout=timeout, stop_after=1) if self.called else []


class Streams(ApiTestCase):
    def setUp(self) -> None:
        self.app = create_app(Settings("test", WEB, demo=True), self.app_engine)
        self.live = cast(Live, self.app.extensions[KEY])
        patch = mock.patch.object(listening, "RECONNECT_S", 0.1)
        patch.start()
        self.addCleanup(patch.stop)
        self.live.listen(self.app_engine)
        self.addCleanup(self.live.close)
        self.assertTrue(until(lambda: self.live.is_live))

    def stream(
        self, who: Person, after: int = 0, last: str = "", kind: bytes = b"id: "
    ) -> Iterator[dict[str, Any]]:
        """The events of a stream, each once it is there."""
        headers = {"Last-Event-ID": last} if last else {}
        answer = who.http.get(f"/api/live?after={after}", headers=headers, buffered=False)
        self.assertEqual((answer.status_code, answer.mimetype), (200, "text/event-stream"))
        self.addCleanup(answer.close)
        events = (event for sent in answer.iter_encoded() for event in sent.split(b"\n\n"))
        return (json.loads(event.split(b"data: ")[1]) for event in events if event.startswith(kind))

    def test_a_reading_is_told_to_others_and_to_oneself_elsewhere_and_not_where_it_was_typed(
        self,
    ) -> None:
        ines, teo, tablet = self.person(INES), self.person(TEO), self.person(TEO)
        told, own, other = self.stream(ines), self.stream(teo), self.stream(tablet)
        start = next(told)
        self.assertEqual((start["cars"], start["more"]), ([], False))
        next(own), next(other)
        teo.ok("POST", "/api/cars/2/readings", pads([250, 251, 262, 263]))
        for heard, cars in ((told, [2]), (other, [2]), (own, [])):
            self.assertEqual((news := next(heard))["cars"], cars)
            self.assertFalse(news["more"])
            self.assertGreater(news["at"], start["at"])

    def test_what_was_missed_is_told_first(self) -> None:
        ines, teo = self.person(INES), self.person(TEO)
        at = next(self.stream(ines))["at"]
        teo.ok("POST", "/api/cars/3/readings", pads([250, 251, 262, 263]))
        self.assertEqual(next(self.stream(ines, after=at))["cars"], [3])
        # the browser that opens an ended stream again says the last it heard
        self.assertEqual(next(self.stream(ines, after=1, last=str(at)))["cars"], [3])
        for broken in ("x", "-1", "9" * 30):
            self.assertIn("cars", next(self.stream(ines, after=at, last=broken)))

    def test_another_team_hears_nothing(self) -> None:
        pell, teo = self.person(PELL), self.person(TEO)
        told = self.stream(pell)
        next(told)
        teo.ok("POST", "/api/cars/2/readings", pads([250, 251, 262, 263]))
        self.live.close()
        self.assertEqual(list(told), [])

    def test_streams_end_with_the_server_and_are_then_not_to_be_had(self) -> None:
        ines = self.person(INES)
        told = self.stream(ines)
        next(told)
        self.live.close()
        self.assertEqual(list(told), [])
        self.assertEqual(ines.call("GET", "/api/live").status_code, 204)

    def test_a_stream_ends_with_its_sign_in(self) -> None:
        teo, tablet = self.person(TEO), self.person(TEO)
        here, elsewhere = self.stream(teo), self.stream(tablet)
        next(here), next(elsewhere)
        shown = teo.ok("GET", "/api/sign-ins")["sign_ins"]
        other = next(one["id"] for one in shown if not one["this"])
        teo.ok("DELETE", f"/api/sign-ins/{other}")
        self.assertEqual(list(elsewhere), [])
        tablet.refused(401, "GET", "/api/live")
        self.person(INES).ok("POST", "/api/cars/2/readings", pads([250, 251, 262, 263]))
        self.assertEqual(next(here)["cars"], [2])  # his other one goes on

    def test_no_more_streams_than_there_is_room_for(self) -> None:
        ines = self.person(INES)
        with mock.patch("cabrio.api.live.STREAMS", 1):
            first = ines.http.get("/api/live", buffered=False)
            self.assertEqual(first.status_code, 200)
            self.assertEqual(ines.call("GET", "/api/live").status_code, 204)
            first.close()
            self.assertEqual(next(self.stream(ines))["cars"], [])

    def test_a_lost_connection_ends_the_streams_and_is_made_again(self) -> None:
        ines = self.person(INES)
        told = self.stream(ines)
        next(told)
        with self.engine.connect() as owner:
            query = (
                "SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE query LIKE 'LISTEN%'"
            )
            owner.execute(text(query))
        self.assertEqual(list(told), [])
        self.assertTrue(until(lambda: self.live.is_live))
        self.assertIn("cars", next(self.stream(ines)))

    def test_bringing_a_car_in_tells_its_steps_to_who_waits_for_it(self) -> None:
        ines, other = self.person(INES), self.person(INES)
        text = json.dumps(ines.ok("GET", "/api/cars/2/file"))
        heard, not_asked = self.stream(ines, kind=b"event: step"), self.stream(other)
        next(not_asked)
        asked = threading.Thread(target=ines.ok, args=("POST", "/api/cars/import", text))
        said = []
        asked.start()
        while not said or said[-1]["done"] < len(STEPS) - 1:
            said.append(next(heard))
        asked.join(10)
        self.assertEqual(said[-1]["words"], "Keeping it")
        self.assertEqual([one["done"] for one in said], sorted(one["done"] for one in said))
        self.assertTrue(all(one["words"] == STEPS[one["done"]] for one in said))
        self.assertEqual(len(next(not_asked)["cars"]), 1)  # the car itself, and no step before it

    def test_who_hears_only_himself_has_no_streams_to_give(self) -> None:
        with mock.patch("psycopg.connect", Pooled.connect):
            deaf = Live()
            deaf.listen(self.app_engine)
            self.addCleanup(deaf.close)
            self.assertFalse(until(lambda: deaf.is_live, 1))
            self.assertIsNone(deaf.open(1, 1))

    def test_of_several_hosts_the_one_that_writes_is_listened_to(self) -> None:
        one = self.app_engine.url
        hosts = [f"{one.host}:1", f"{one.host}:{one.port}"]
        query = {"host": hosts, "target_session_attrs": "read-write"}
        several = one.set(host=None, port=None, query=query)
        engine = open_engine(several.render_as_string(hide_password=False))
        self.addCleanup(engine.dispose)
        far = Live()
        far.listen(engine)
        self.addCleanup(far.close)
        self.assertTrue(until(lambda: far.is_live))

    def test_a_signed_out_visitor_has_no_stream(self) -> None:
        Person(self.app).refused(401, "GET", "/api/live")


class Asked(ApiTestCase):
    def test_without_a_listener_pages_are_told_to_ask(self) -> None:
        self.assertEqual(self.person(INES).call("GET", "/api/live").status_code, 204)

    def test_a_window_left_open_keeps_no_sign_in_alive(self) -> None:
        ines = self.person(INES)

        def idle() -> timedelta:
            with self.engine.begin() as owner:
                query = "SELECT now() - max(seen_at) FROM sign_in"
                return cast(timedelta, owner.execute(text(query)).scalar_one())

        hour = timedelta(hours=1)
        with self.engine.begin() as owner:
            owner.execute(update(SignIn).values(seen_at=SignIn.seen_at - hour))
        for path in ("/api/changes", "/api/live"):
            ines.call("GET", path)
            self.assertGreaterEqual(idle(), hour)
        ines.ok("GET", "/api/cars")
        self.assertLess(idle(), hour)
