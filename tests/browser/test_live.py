"""What is written elsewhere appears on an open page at once, over its stream or, without one, by asking."""

from playwright.sync_api import Page, Request, expect

from cabrio.api.app import Settings, create_app
from tests.support.browser import BrowserTestCase
from tests.support.client import TEO, WEB, Person


class Elsewhere(BrowserTestCase):
    def book(self, hole: int, reason: str) -> None:
        """In another process, on another machine: a slip of Teo's."""
        teo = Person(create_app(Settings("other", WEB), self.app_engine))
        teo.sign_in(TEO)
        teo.draft(("bar_hole", "front", hole), car=3, why=reason)
        teo.book(3)

    def watch(self, page: Page) -> list[Request]:
        asked: list[Request] = []
        page.on("request", lambda sent: asked.append(sent) if "/api/changes" in sent.url else None)
        return asked

    def test_a_booking_appears_where_others_look_and_where_one_looks_oneself(self) -> None:
        ines, tablet = self.open("Ines"), self.open("Teo", width=820)
        for page in (ines, tablet):
            with page.expect_response("**/api/live*"):
                page.goto(f"{self.address}/cars/3/logbook")
            expect(page.get_by_role("heading", level=1)).to_be_visible()
        asked = self.watch(ines)
        self.book(1, "from the other side")
        for page in (ines, tablet):
            expect(page.get_by_text("from the other side")).to_be_visible()
        ines.wait_for_timeout(1500)
        self.assertEqual(asked, [], "asked although it is told")

    def test_without_a_stream_the_page_asks(self) -> None:
        ines = self.open("Ines")
        ines.route("**/api/live*", lambda route: route.fulfill(status=204))
        ines.goto(f"{self.address}/cars/3/logbook")
        expect(ines.get_by_role("heading", level=1)).to_be_visible()
        with ines.expect_response("**/api/changes*"):
            pass
        self.book(3, "asked for")
        expect(ines.get_by_text("asked for")).to_be_visible()

    def test_a_sign_in_ended_elsewhere_leaves_its_windows_at_the_door(self) -> None:
        tablet, teo = self.open("Teo", width=820), self.open("Teo", path="/team")
        with tablet.expect_response("**/api/live*"):
            tablet.goto(f"{self.address}/cars/3/logbook")
        expect(tablet.get_by_role("heading", level=1)).to_have_text("Logbook")
        others = teo.get_by_role("button", name="End it")
        others.first.click()
        expect(tablet.get_by_role("button", name="Sign in")).to_be_visible()
        expect(tablet.get_by_text("Sidewind")).to_have_count(0)
        tablet.get_by_role("button", name="Ines").first.click()
        expect(tablet.get_by_role("heading", level=1)).to_have_text("Logbook")
