"""Signing in, roles and teams."""

from typing import ClassVar

from sqlalchemy.orm import Session

from cabrio.operations.actor import ABILITIES
from cabrio.operations.people import add_person
from tests.support.client import INES, MARA, OKE, PELL, ApiTestCase, Person, pads
from tests.support.routes import OPEN, routes

ROLES = {"engineer": INES, "crew": OKE, "driver": MARA, "viewer": PELL}


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

    def test_no_route_without_a_sign_in(self) -> None:
        visitor = Person(self.app)
        tried = 0
        for method, path, body in routes(self.app):
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
        for method, path, body in routes(self.app):
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
        "draft": "/as-found /slip /slip/book /slip/park /slip/resume /slip/reapply /back-out /go-back /baseline",
        "give": "/api/cars /copy /given /settings /parts /remove /adjusters/<name>",
        "import": "/cars/import",
        "release": "/watched/signed",
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
        for method, path, body in routes(self.app):
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
        for method, path, _ in routes(self.app):
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
