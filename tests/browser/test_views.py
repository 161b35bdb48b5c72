"""Every view, at every width it is used at, day and night: axe, and nothing wider than the window."""

from typing import Any

from playwright.sync_api import Page, expect

from cabrio.core.knowledge import knowledge
from tests.support.browser import BrowserTestCase, read_now

VIEWS = (
    *(station.id for station in knowledge().stations_for("drag", "parallel_four_link")),
    "logbook",
    "compare",
    "data",
    "parts",
    "advise?symptom=spins_after_hit&phase=first 60 ft",
    "work?t=rear_bite:car:90&s=links",
    "steps",
    "steps/due",
    "steps/drag_build",
)


class Views(BrowserTestCase):
    def open(self, *named: Any, **more: Any) -> Page:
        """Without the question of every second: a view is looked at once nothing more is asked for."""
        page = super().open(*named, **more)
        nothing = {"at": 1, "cars": [], "more": False}
        page.route("**/api/changes*", lambda route: route.fulfill(json=nothing))
        return page

    def test_every_view_by_day_at_the_desk(self) -> None:
        page = self.open()
        self.assert_accessible(page)
        for view in VIEWS:
            with self.subTest(view):
                page.goto(f"{self.address}/cars/2/{view}")
                expect(page.get_by_role("heading", level=1)).to_be_visible()
                self.assert_accessible(page)

    def test_at_the_car_and_at_the_pads_by_night(self) -> None:
        for width in (820, 390):
            page = self.open(width=width, theme="night")
            for view in (
                "plan",
                "weights",
                "springs",
                "bars",
                "dampers",
                "logbook",
                "release",
                "steps/circuit_build?step=5",
                "work?t=lltd:car:50&s=bars",
            ):
                with self.subTest(f"{view} at {width}"):
                    page.goto(f"{self.address}/cars/1/{view}")
                    expect(page.get_by_role("heading", level=1)).to_be_visible()
                    self.assert_accessible(page)

    def test_forms_and_panels(self) -> None:
        page = self.open(path="/cars/1/weights")
        read_now(page, "Pads")
        self.assert_accessible(page)
        page.goto(f"{self.address}/cars/1/plan")
        page.get_by_role("spinbutton", name="Spring, left rear").press("ArrowUp")
        expect(page.get_by_text("Spring, both rear")).to_be_visible()
        self.assert_accessible(page)
        page.keyboard.press("?")
        expect(page.get_by_role("dialog")).to_contain_text("Legend")
        self.assert_accessible(page)

    def test_the_sign_in(self) -> None:
        context = self.browser.new_context()
        self.addCleanup(context.close)
        page = context.new_page()
        page.goto(self.address)
        page.get_by_label("E-mail address").fill("ines@hollinbank.example")
        page.get_by_label("Password").fill("not this")
        page.get_by_role("button", name="Sign in").click()
        expect(page.get_by_text("Wrong e-mail or password.")).to_be_visible()
        self.assert_accessible(page)
