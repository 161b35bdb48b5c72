"""The impatient user: wrong units, empty fields, the back button, two windows, a restart in the middle."""

from __future__ import annotations

import os
import subprocess
import sys
from pathlib import Path
from typing import Any

from launcher.postgres import free_port
from launcher.supervise import App
from playwright.sync_api import APIResponse, Page, Route, expect

from tests.support.browser import SECRET, BrowserTestCase
from tests.support.client import WEB
from tests.support.database import as_app


class Impatient(BrowserTestCase):
    def test_a_new_car_from_nothing_to_its_first_spring(self) -> None:
        page = self.open()
        page.get_by_role("button", name="New car").click()
        page.get_by_role("button", name="Add the car").click()
        expect(page.get_by_text("A car needs a name.")).to_be_visible()
        page.get_by_label("Name").fill("Nova")
        page.get_by_label("Units").select_option(label="Metric, kgf/mm")
        page.get_by_role("button", name="Add the car").click()
        expect(page.get_by_role("heading", name="Car in plan")).to_be_visible()
        expect(page.get_by_text("not set").first).to_be_visible()
        navigation = page.get_by_role("navigation", name="Order of work")
        navigation.get_by_role("link", name="Springs").click()
        expect(page.get_by_text("No springs in inventory for the front yet.")).to_be_visible()
        page.get_by_role("link", name="Add springs to inventory").first.click()
        form = page.get_by_role("form", name="Add spring")
        form.get_by_label("Code").fill("7K")
        form.get_by_label("Rate", exact=False).first.fill("7 kg")
        form.get_by_role("button", name="Add to inventory").click()
        expect(page.get_by_text("“kg” in “7 kg” is no unit")).to_be_visible()
        form.get_by_label("Rate", exact=False).first.fill("7k")
        form.get_by_role("button", name="Add to inventory").click()
        expect(page.get_by_role("listitem").filter(has_text="rate 7 kgf/mm")).to_be_visible()
        page.get_by_label("Command line").fill("/front spring 7")
        page.keyboard.press("Enter")
        expect(page.get_by_role("complementary").get_by_text("Spring, both front")).to_be_visible()

    def test_an_older_answer_never_lands_on_a_newer_slip(self) -> None:
        page = self.open(path="/cars/1/bars")
        expect(page.get_by_role("complementary").get_by_text("Nothing on the slip")).to_be_visible()
        page.wait_for_timeout(
            2_100
        )  # what was fetched is old now: coming back to the window asks again
        writes: list[Route] = []

        def held(route: Route) -> None:
            writes.append(route)

        page.route("**/api/cars/1/slip", held)
        page.get_by_role("spinbutton", name="Bar hole, front").focus()
        page.keyboard.press("ArrowUp")
        self._until(page, writes)
        asked: list[tuple[Route, APIResponse]] = []
        page.route("**/api/cars/1", lambda route: asked.append((route, route.fetch())))
        page.evaluate("window.dispatchEvent(new Event('visibilitychange'))")
        self._until(page, asked)
        page.unroute("**/api/cars/1")
        writes[0].continue_()
        expect(page.get_by_role("complementary").get_by_text("Bolt check")).to_be_visible()
        asked[0][0].fulfill(response=asked[0][1])
        page.wait_for_timeout(300)
        expect(page.get_by_role("complementary").get_by_text("Bolt check")).to_be_visible()
        expect(page.get_by_role("complementary").get_by_text("Bar hole, front")).to_be_visible()
        page.unroute("**/api/cars/1/slip")
        with page.expect_response("**/api/cars/1/slip"):
            page.get_by_role("button", name="Clear", exact=True).click()
        expect(page.get_by_role("complementary").get_by_text("Nothing on the slip")).to_be_visible()

    def test_a_command_on_its_way_is_booked_with_the_rest(self) -> None:
        page = self.open(path="/cars/1/bars")
        panel = page.get_by_role("complementary", name="Change slip")
        before = self._holes(page)
        with page.expect_response("**/slip"):
            page.get_by_role("spinbutton", name="Bar hole, front").press("ArrowUp")
        asked: list[Route] = []
        page.route("**/api/cars/1/command", lambda route: asked.append(route))
        line = page.get_by_label("Command line")
        line.fill("rear bar")
        line.press("Enter")
        self._until(page, asked)
        panel.get_by_role("button", name="Book revision").click()
        asked[0].continue_()
        expect(page.get_by_text("Nothing typed here yet")).to_be_visible()
        expect(
            panel.get_by_text("Bar hole, front")
        ).to_be_visible()  # nothing was booked without it
        line.fill("rear bar +1")
        line.press("Enter")
        self._until(page, asked, 2)
        panel.get_by_role("button", name="Book revision").click()
        asked[1].continue_()
        expect(panel.get_by_text("Booked as revision").first).to_be_visible()
        expect(panel.get_by_text("Nothing on the slip")).to_be_visible()
        self.assertEqual(self._holes(page), [one + 1 for one in before])

    def _holes(self, page: Page) -> list[float]:
        bench = page.request.get(f"{self.address}/api/cars/1").json()
        holes: list[float] = bench["setup"]["bar_hole"]
        return holes

    def test_leaving_at_once_loses_no_change(self) -> None:
        page = self.open(path="/cars/3/bars")
        panel = page.get_by_role("complementary", name="Change slip")
        expect(panel.get_by_text("Nothing on the slip")).to_be_visible()
        page.evaluate("""() => {
            document.querySelector("[aria-label='Bar hole, front, up']").click();
            window.location.assign('/cars/3/plan');
        }""")
        expect(page.get_by_role("heading", name="Car in plan")).to_be_visible()
        # where the new page was quicker than the write of the old one, it is there at the next look
        expect(panel.get_by_text("Bar hole, front")).to_be_visible()
        with page.expect_response("**/api/cars/3/slip"):
            panel.get_by_role("button", name="Clear", exact=True).click()

    @staticmethod
    def _until(page: Page, found: list[Any], count: int = 1) -> None:
        for _ in range(100):
            if len(found) >= count:
                return
            page.wait_for_timeout(50)
        raise AssertionError("nothing was asked for")

    def test_an_impossible_given_value_stays_in_its_field_with_the_reason(self) -> None:
        page = self.open(path="/cars/1/data")
        field = page.locator("#motion_ratio-LF input")
        for typed, words in [
            ("1.9", "it is then 0.526"),
            ("-1", "must be above 0"),
            ("a lot", "is not a number"),
            ("0.9 kg", "omit the unit"),
        ]:
            field.fill(typed)
            field.press("Tab")
            page.get_by_role("button", name="I measured again").click()
            expect(page.get_by_role("alert").filter(has_text=words)).to_be_visible()
            expect(field).to_have_value(typed)
            expect(field).to_have_attribute("aria-invalid", "true")
        field.press("Escape")
        expect(field).to_have_value("0.94")

    def test_a_field_typed_again_while_it_is_written_keeps_what_was_typed_last(self) -> None:
        page = self.open(path="/cars/2/data")
        field = page.get_by_label("Wheelbase").first
        before = field.input_value()
        held: list[Any] = []
        page.route(
            "**/api/cars/2/given",
            lambda route: route.fallback() if held else held.append(route),
        )
        field.fill("2601")
        field.press("Enter")
        page.get_by_role("button", name="I measured again").click()
        self._until(page, held)
        field.fill("2602")
        held[0].continue_()
        self.let_it_write(page)
        expect(field).to_have_value("2602")
        field.press("Enter")
        page.get_by_role("button", name="I measured again").click()
        self.let_it_write(page)
        expect(page.get_by_text("meanwhile")).to_have_count(0)
        page.reload()
        expect(page.get_by_label("Wheelbase").first).to_have_value("2602")
        self.assertNotEqual(before, "2602")

    def test_an_unusual_value_is_taken_once_confirmed(self) -> None:
        page = self.open(path="/cars/1/data")
        field = page.get_by_label("Wheelbase")
        field.fill("4.2 m")
        field.press("Enter")
        page.get_by_role("button", name="I measured again").click()
        expect(page.get_by_text("is possible but far from the usual")).to_be_visible()
        page.get_by_role("button", name="Use 4.2 m anyway").click()
        expect(field).to_have_value("4200")
        page.get_by_role("button", name="Restore 2492").click()
        expect(field).to_have_value("2492")

    def test_a_target_beyond_the_tyre_is_explained_beside_the_other_axle(self) -> None:
        page = self.open(path="/cars/2/springs")
        page.get_by_text("tyre in series", exact=True).click()
        rear = page.get_by_role("region", name="rear springs")
        rear.get_by_label("Target frequency").fill("5.5")
        rear.get_by_label("Target frequency").press("Enter")
        expect(rear.get_by_text("no spring reaches this target")).to_be_visible()
        front = page.get_by_role("region", name="front springs")
        expect(front.get_by_text("nearest")).to_be_visible()

    def test_back_and_forward_keep_the_slip(self) -> None:
        page = self.open(path="/cars/1/bars")
        panel = page.get_by_role("complementary", name="Change slip")
        page.get_by_role("button", name="Bar hole, rear, up").click()
        expect(panel.get_by_text("Bar hole, rear")).to_be_visible()
        page.get_by_role("navigation").get_by_role("link", name="Tyres").click()
        page.go_back()
        expect(page.get_by_role("heading", name="Bars", level=1)).to_be_visible()
        expect(panel.get_by_text("Bar hole, rear")).to_be_visible()
        page.go_forward()
        panel.get_by_role("button", name="Take off the slip: Bar hole, rear").click()
        expect(panel.get_by_text("Nothing on the slip")).to_be_visible()

    def test_two_windows_of_one_person_write_one_slip(self) -> None:
        first = self.open(path="/cars/3/dampers")
        second = first.context.new_page()
        for told in ("live", "changes"):  # it hears of nothing
            second.route(f"**/api/{told}*", lambda route: route.abort())
        second.goto(f"{self.address}/cars/3/dampers")
        expect(second.get_by_text("Nothing on the slip")).to_be_visible()
        first.get_by_role("button", name="Compression, left front, up").click()
        expect(first.get_by_role("complementary").get_by_text("Clicks counted")).to_be_visible()
        # another row: both are on the slip, and nothing is refused
        up = second.get_by_role("button", name="Compression, left rear, up")
        up.click()
        up.click()
        panel = second.get_by_role("complementary", name="Change slip")
        expect(panel.get_by_text("Compression, both front", exact=True)).to_be_visible()
        expect(panel.get_by_text("Compression, both rear", exact=True)).to_be_visible()
        expect(second.get_by_text("Your other window")).to_have_count(0)
        # the same row: it stands as it was put first, and what was wanted here is kept
        self.let_it_write(second)
        first.reload()
        off = "Take off the slip: Compression, both rear"
        first.get_by_role("button", name=off).click()
        expect(first.get_by_role("button", name=off)).to_have_count(0)
        self.let_it_write(first)
        second.get_by_role("button", name="Compression, left rear, down").click()
        expect(panel.locator(".other-window")).to_contain_text("as booked there")
        expect(panel.get_by_role("button", name=off)).to_have_count(0)
        panel.get_by_role("button", name="Put mine on").click()
        expect(panel.get_by_text("as booked there")).to_have_count(0)
        expect(panel.get_by_role("button", name=off)).to_be_visible()
        with second.expect_response("**/api/cars/3/slip"):
            panel.get_by_role("button", name="Clear", exact=True).click()

    def test_a_restart_of_the_server_loses_nothing(self) -> None:
        port = free_port()
        page = self.open(path="/cars/2/dampers")
        app = self.start(port)
        page.goto(f"http://127.0.0.1:{port}/cars/2/dampers")  # the same cookie: any worker knows it
        panel = page.get_by_role("complementary", name="Change slip")
        expect(panel.get_by_text("Nothing on the slip")).to_be_visible()
        up = page.get_by_role("button", name="Compression, left rear, up")
        expect(up).to_be_enabled()  # the station is there before its server is not
        app.kill()
        app.wait()
        up.click()
        expect(panel.get_by_text("Cabrio does not answer")).to_be_visible()
        expect(panel.get_by_text("Compression, both rear")).to_be_visible()
        self.start(port)
        expect(panel.get_by_text("Clicks counted")).to_be_visible()
        page.reload()
        expect(panel.get_by_text("Compression, both rear")).to_be_visible()

    def start(self, port: int) -> subprocess.Popen[bytes]:
        """The app as a process of its own, up and answering."""
        env = os.environ | {
            "CABRIO_DATABASE": as_app(self.url),
            "CABRIO_DATABASE_OWNER": self.url,
            "CABRIO_SECRET": SECRET,
            "CABRIO_DEMO": "1",
            "CABRIO_WEB": str(WEB),
        }
        command = [sys.executable, "-m", "cabrio", "serve", "--port", str(port)]
        app = App(command, env, f"http://127.0.0.1:{port}")
        self.addCleanup(app.process.wait)
        self.addCleanup(app.process.kill)
        app.wait_until_it_answers()
        # what made the database ready is not to be read in the process that serves
        kept = Path(f"/proc/{app.process.pid}/environ").read_bytes()
        self.assertNotIn(b"CABRIO_DATABASE_OWNER", kept)
        self.assertIn(b"CABRIO_DATABASE", kept)
        return app.process

    def test_the_driver_speaks_from_a_phone(self) -> None:
        page = self.open("Mara", "/cars/1/logbook", width=390)
        entry = (
            page.get_by_role("listitem").filter(has=page.get_by_role("heading", name="Race")).first
        )
        entry.get_by_role("button", name="Change the words").click()
        entry.get_by_label("exit").fill("Best so far.")
        entry.get_by_role("button", name="Save").click()
        expect(entry.get_by_text("“Best so far.”", exact=True)).to_be_visible()
        expect(page.get_by_role("button", name="Add a session")).to_have_count(0)

    def test_the_slip_opens_from_the_bottom_edge_at_the_car(self) -> None:
        page = self.open(path="/cars/3/dampers", width=820)
        page.get_by_role("button", name="Rebound, left front, up").click()
        tab = page.get_by_role("button", name="Slip 2 changes").or_(
            page.get_by_role("button", name="Slip 3 changes")
        )
        tab.click()
        panel = page.get_by_role("complementary", name="Change slip")
        expect(panel.get_by_text("Rebound, both front")).to_be_visible()
        with page.expect_response("**/slip"):
            panel.get_by_role("button", name="Clear", exact=True).click()
        expect(panel.get_by_text("Nothing on the slip")).to_be_visible()

    def test_night_is_remembered(self) -> None:
        page = self.open(path="/cars/1/plan")
        page.evaluate("document.documentElement.dataset.bsTheme")
        page.get_by_role("button", name="Ines").click()
        page.get_by_role("button", name="Night colours").click()
        self.assertEqual(page.evaluate("document.documentElement.dataset.bsTheme"), "dark")
        self.assertEqual(page.evaluate("localStorage.getItem('theme')"), "night")

    def test_an_address_that_is_nowhere_leads_home(self) -> None:
        page = self.open(path="/nowhere/at/all")
        expect(page.get_by_role("heading", name="Garage")).to_be_visible()
        page.goto(f"{self.address}/cars/99/plan")
        expect(page.get_by_text("There is no such car in your team.")).to_be_visible()
        page.get_by_role("link", name="Back to the garage").click()
        expect(page.get_by_role("heading", name="Garage")).to_be_visible()
        page.goto(f"{self.address}/cars/1/pinion")
        expect(page.get_by_text("This car has no such station.")).to_be_visible()
