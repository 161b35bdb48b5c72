"""Signing in, roles and teams."""

from collections.abc import Iterator
from typing import ClassVar

from sqlalchemy.orm import Session

from cabrio.operations.actor import ABILITIES
from cabrio.operations.people import add_person
from tests.support.client import INES, MARA, OKE, PELL, ApiTestCase, Person, pads

ROLES = {"engineer": INES, "crew": OKE, "driver": MARA, "viewer": PELL}
OPEN = {
    "/api/health",
    "/api/ready",
    "/api/metrics",
    "/api/session",
    "/api/session/demo",
    "/api/join",
    "/api/demo-people",
    "/api/openapi.json",
}


class SigningIn(ApiTestCase):
    def test_in_and_out(self) -> None:
        ines = self.person(INES)
        self.assertEqual(ines.ok("GET", "/api/session")["role"], "engineer")
        ines.ok("DELETE", "/api/session")
        ines.refused(401, "GET", "/api/cars")

    def test_a_wrong_password_and_an_unknown_address_sound_alike(self) -> None:
        visitor = Person(self.app)
        said = [
            visitor.sign_in(*pair).get_json()["detail"]
            for pair in ((PELL, "wrong"), ("nobody@hollinbank.example", "wrong"))
        ]
        self.assertEqual(said, ["Wrong e-mail or password."] * 2)

    def test_a_change_without_the_token_is_refused(self) -> None:
        ines = self.person(INES)
        ines.token = "forged"
        self.assertEqual(ines.refused(400, "POST", "/api/cars/1/slip/park")["code"], "stale_page")

    def test_the_cookie_is_kept_from_scripts(self) -> None:
        answer = Person(self.app).sign_in(INES)
        cookie = answer.headers["Set-Cookie"]
        self.assertIn("HttpOnly", cookie)
        self.assertIn("SameSite=Lax", cookie)


class OutsideTheDemo(ApiTestCase):
    demo = False

    def test_no_one_press_sign_in(self) -> None:
        visitor = Person(self.app)
        self.assertEqual(visitor.ok("GET", "/api/demo-people"), {"people": []})
        visitor.refused(403, "POST", "/api/session/demo", {"person": 1})


NAMED = {"/questions/": "turns_for_cross", "/charts/": "spring_load", "/trials/": "kerb"}


class Routes(ApiTestCase):
    """Every route there is, tried by someone who must not reach it."""

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        with Session(cls.engine) as db, db.begin():
            add_person(
                db,
                team="Other Team",
                name="Rival",
                email="rival@other.example",
                password="a rival's word",
                role="engineer",
                new_team=True,
            )

    BODIES: ClassVar[dict[str, dict[str, object]]] = {
        "/api/people": {"name": "x", "email": "x@x.example", "role": "crew"},
        "/people/1": {"role": "engineer"},
        "/session/password": {"old": "x", "new": "x"},
        "/understood": {"stations": ["weights"]},
        "/time-slip": {"text": "60 ft 1.4"},
        "/given": {"values": {"wheelbase": [2.5]}},
        "/settings": {},
        "/words": {"words": []},
        "/parts": {"kind": "spring", "code": "X", "values": {"rate": 1e5}},
        "/remove": {"kind": "spring", "code": "X"},
        "/copy": {"name": "x"},
        "/baseline": {"revision": 1},
        "/turns_for_cross": {"targets": {"cross_share": "50 %"}},
        "/plot-sheet": {"left": [["17", "22"], ["1", "26"], ["23", "16"], ["1", "15"]]},
        "/table": {"kind": "bump_rubber", "field": "table", "text": "0 0"},
        "/withdraw": {"why": "x"},
        "/readings": {"kind": "bolts"},
        "/instruments/pads": {"settle": False},
        "/instruments/gauge": {"on": "floor"},
        "/slip": {"version": 0, "changes": []},
        "/book": {"version": 0},
        "/resume": {"slip": 1},
        "/command": {"text": "go plan"},
        "/runs": {},
        "/watched": {"kind": "issue", "words": "x"},
        "/done": {},
        "/close": {"words": "x"},
        "/run-table": {"text": "Driver; Best lap\nA; 60"},
        "/take": {"text": "Driver; Best lap\nA; 60", "columns": ["driver", "best_time"]},
        "/walks": {"procedure": "circuit_build"},
        "/ticks": {"procedure": "circuit_build", "step": "Pads"},
        "/plans": {
            "targets": [{"name": "lltd", "place": "car", "value": "50"}],
            "systems": ["bars"],
        },
        "/pictures/1": {"phase": ""},
        "/pictures": {"data": "iVBORw0KGgo="},
        "/verdict": {"outcome": "same", "decision": "keep"},
        "/sessions": {
            "event_id": 1,
            "name": "x",
            "kind": "test",
            "starts_at": "2026-11-01T09:00:00Z",
        },
        "/aside": {"why": "x"},
        "/sessions/1": {
            "name": "x",
            "kind": "test",
            "starts_at": "2026-11-01T09:00:00Z",
            "why": "x",
        },
        "/runs/1": {"why": "x"},
        "/events/1": {
            "name": "x",
            "starts_on": "2026-11-01",
            "ends_on": "2026-11-01",
            "why": "x",
        },
        "/events": {"name": "x", "starts_on": "2026-11-01", "ends_on": "2026-11-01"},
        "/cars/import": {"text": "{}"},
        "/api/cars": {"name": "x", "discipline": "drift"},
        "/cross_share": {"lowest": 1, "highest": 2},
    }

    def routes(self) -> Iterator[tuple[str, str, dict[str, object] | None]]:
        for rule in self.app.url_map.iter_rules():
            if not rule.rule.startswith("/api/") or rule.rule in OPEN:
                continue
            values = {
                "car_id": 1,
                "reading_id": 1,
                "number": 2,
                "session_id": 1,
                "run_id": 1,
                "picture_id": 1,
                "watched_id": 1,
                "event_id": 1,
                "person_id": 1,
                "sign_in_id": 10**6,
                "procedure": "circuit_build",
                "name": "cross_share",
            }
            for part, named in NAMED.items():
                if part in rule.rule:
                    values["name"] = named
            _, path = rule.build({a: values[a] for a in rule.arguments}) or ("", "")
            path += "?left=1&right=2" if path.endswith("/compare") else ""
            contact = "?setting=rebound_clicks&axle=front&click=5"
            path += contact if path.endswith("/contact") else ""
            path += "?x=speed&y=height_at_speed" if path.endswith("/plot") else ""
            for method in sorted((rule.methods or set()) - {"HEAD", "OPTIONS"}):
                body = next((b for end, b in self.BODIES.items() if path.endswith(end)), None)
                yield method, path, body if method != "GET" else None

    def test_no_route_without_a_sign_in(self) -> None:
        visitor = Person(self.app)
        tried = 0
        for method, path, body in self.routes():
            if path == "/api/vocabulary":
                continue  # the dictionary holds nothing of any team
            with self.subTest(f"{method} {path}"):
                visitor.refused(401, method, path, body)
                tried += 1
        self.assertGreater(tried, 25)

    def test_another_team_s_car_is_not_there_by_any_route(self) -> None:
        rival = Person(self.app)
        self.assertEqual(rival.sign_in("rival@other.example", "a rival's word").status_code, 200)
        tried = 0
        for method, path, body in self.routes():
            if "/cars/1" in path:
                with self.subTest(f"{method} {path}"):
                    rival.refused(404, method, path, body)
                    tried += 1
        self.assertGreater(tried, 20)
        self.assertEqual(rival.ok("GET", "/api/cars"), {"cars": [], "broken": []})

    NEEDS: ClassVar[dict[str, str]] = {
        "look": "/session/password /sign-ins/<int:sign_in_id> /command /table /questions/<name> "
        "/plot-sheet /time-slip /plans",
        "speak": "/runs/<int:run_id>/words",
        "judge": "/verdict",
        "read": "/session/understood /readings /withdraw /instruments/pads /instruments/gauge /done /close "
        "/walks /ticks",
        "log": "/watched /events /events/<int:event_id> /sessions /sessions/<int:session_id> /runs "
        "/runs/<int:run_id> /aside /run-table /run-table/take /pictures "
        "/pictures/<int:picture_id>",
        "draft": "/slip /slip/book /slip/park /slip/resume /slip/reapply /back-out /go-back /baseline",
        "give": "/api/cars /copy /given /settings /parts /remove /adjusters/<name>",
        "import": "/cars/import",
        "people": "/api/people /people/<int:person_id> /people/<int:person_id>/link",
    }
    """What each writing route wants of who calls it, by the end of its address. A new one has to be named."""

    def test_each_role_gets_through_just_where_it_may(self) -> None:
        wanted = {end: need for need, ends in self.NEEDS.items() for end in ends.split()}
        rules = {
            rule.rule: need
            for rule in self.app.url_map.iter_rules()
            if rule.rule.startswith("/api/") and rule.rule not in OPEN
            for end in sorted(wanted, key=len)
            if rule.rule.endswith(end)
            for need in [wanted[end]]
        }
        adapter = self.app.url_map.bind("localhost")
        people = {role: self.person(email) for role, email in ROLES.items()}
        tried = 0
        for method, path, body in self.routes():
            if method == "GET":
                continue
            rule = adapter.match(path.split("?")[0], method=method, return_rule=True)[0].rule
            self.assertIn(rule, rules, "say in NEEDS what it wants")
            for role, person in people.items():
                may = rules[rule] in ABILITIES[role] or (
                    rules[rule] == "people" and role == "engineer"
                )
                with self.subTest(f"{role}: {method} {path}"):
                    answer = person.call(method, path, body)
                    self.assertEqual(answer.status_code != 403, may, answer.get_data(as_text=True))
                    if not may:
                        self.assertIn(f"As {role} you cannot", answer.get_json()["detail"])
                    tried += 1
        self.assertGreater(tried, 160)

    def test_every_role_sees_all_of_its_team_s_cars(self) -> None:
        people = [self.person(email) for email in ROLES.values()]
        for method, path, _ in self.routes():
            if method != "GET" or "/cars/1" not in path:
                continue
            said = {person.call(method, path).status_code for person in people}
            with self.subTest(path):
                self.assertEqual(len(said), 1)
                self.assertNotIn(403, said)

    def test_no_reading_before_the_caution_of_its_station_is_understood(self) -> None:
        oke = Person(self.app)
        oke.sign_in(OKE)
        told = oke.refused(409, "POST", "/api/cars/1/readings", pads([250, 251, 262, 263]))
        self.assertEqual(told["code"], "caution_first")
        self.assertIn("Chock", told["detail"])
        before = len(oke.ok("GET", "/api/cars/1/readings")["readings"])
        said = oke.ok("POST", "/api/session/understood", {"stations": ["weights", "no such"]})
        self.assertEqual(said["understood"], ["weights"])
        oke.ok("POST", "/api/cars/1/readings", pads([250, 251, 262, 263]))
        self.assertEqual(len(oke.ok("GET", "/api/cars/1/readings")["readings"]), before + 1)
        # another station asks for its own, and the next sign-in for all of them anew
        oke.refused(409, "POST", "/api/cars/1/readings", {"kind": "bolts"})
        oke.sign_in(OKE)
        self.assertEqual(oke.ok("GET", "/api/session")["understood"], [])

    def test_each_role_does_its_own(self) -> None:
        self.assertEqual(ABILITIES["driver"], {"look", "speak", "judge"})
        self.person(OKE).ok("POST", "/api/cars/1/readings", {"kind": "bolts"})
        self.person(OKE).refused(403, "PUT", "/api/cars/1/slip", {"version": 0, "changes": []})
        mara = self.person(MARA)
        mara.ok("PUT", "/api/cars/1/runs/1/words", {"words": [{"phase": "exit", "text": "Good."}]})
        mara.refused(403, "POST", "/api/cars/1/readings", {"kind": "bolts"})
