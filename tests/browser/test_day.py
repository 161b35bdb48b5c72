"""An engineer's way, end to end: from the pads to a booked change, compared and explained."""

import json
import tempfile
from pathlib import Path

from playwright.sync_api import Page, expect

from tests.support.browser import BrowserTestCase, read_now


class Day(BrowserTestCase):
    def test_from_the_pads_to_a_booked_change(self) -> None:
        page = self.open()
        page.get_by_role("link", name="Wagtail").first.click()
        expect(page.get_by_role("heading", name="Car in plan")).to_be_visible()

        # a pad reading, with a slip of the finger first
        page.get_by_role("link", name="Weights").click()
        read_now(page, "Pads")
        for place, typed in {"LF": "255 kg", "RF": "252,5", "LR": "heavy", "RR": "236"}.items():
            page.get_by_label(f"Pad, {place}").fill(typed)
        for label in (
            "Driver aboard",
            "Bars free",
            "Pressures set",
            "Pads levelled",
            "Rolled and settled",
        ):
            page.get_by_label(label).check()
        page.get_by_role("button", name="Take the reading").click()
        expect(page.get_by_text("“heavy” is not a number")).to_be_visible()
        expect(page.get_by_label("Pad, LF")).to_have_value("255 kg")
        page.reload()
        read_now(page, "Pads")
        expect(page.get_by_label("Pad, RF")).to_have_value("252,5")
        page.get_by_label("Pad, LR").fill("238")
        page.get_by_role("button", name="Take the reading").click()
        expect(page.get_by_role("button", name="Total: 981.5 kg")).to_be_visible()
        expect(page.get_by_role("img", name="cross 50.0 %")).to_be_visible()

        # the springs that the targets ask for
        page.get_by_role("navigation").get_by_role("link", name="Springs").click()
        front = page.get_by_role("region", name="front springs")
        front.get_by_label("Target frequency").fill("2.6")
        front.get_by_label("Target frequency").press("Enter")
        expect(front.get_by_role("row").nth(1)).to_contain_text("65/180")
        front.get_by_role("button", name="fit 65/180 front").click()
        panel = page.get_by_role("complementary", name="Change slip")
        expect(panel.get_by_text("Spring, both front")).to_be_visible()
        expect(panel.get_by_text("Axle frequency, front")).to_be_visible()
        expect(panel.get_by_text("Ride heights")).to_be_visible()
        panel.get_by_label("Why").fill("Lazy on turn-in.")
        panel.get_by_label("What we expect").fill("Quicker nose.")
        panel.get_by_label("For session").select_option(index=1)
        panel.get_by_role("button", name="Book revision 7").click()
        expect(panel.get_by_text("Booked as revision 7.", exact=False).first).to_be_visible()
        expect(page.get_by_role("link", name="void Heights")).to_be_visible()

        # compared with the one before, and in the logbook with its verdict
        page.get_by_role("navigation").get_by_role("link", name="Logbook").click()
        entry = page.get_by_role("listitem").filter(
            has=page.get_by_role("heading", name="Revision 7")
        )
        expect(entry).to_contain_text("Lazy on turn-in.")
        entry.get_by_role("button", name="Verdict").click()
        entry.get_by_text("worse", exact=True).click()
        entry.get_by_label("In words").fill("Nervous.")
        entry.get_by_role("button", name="Give the verdict").click()
        # nobody has run it: what was typed stays, and the only verdict there is says so
        expect(entry).to_contain_text("No run was logged on revision 7")
        entry.get_by_text("not tested", exact=True).click()
        entry.get_by_role("button", name="Give the verdict").click()
        expect(entry).to_contain_text("Nervous.")
        entry.get_by_role("link", name="Compare with 6").click()
        expect(page.get_by_role("row", name="Spring, left front 55 65")).to_be_visible()
        expect(page.get_by_role("row", name="Axle frequency, front")).to_be_visible()

        # backed out
        page.go_back()
        page.get_by_role("button", name="Undo this revision").first.click()
        panel.get_by_role("button", name="Book revision 8").click()
        expect(panel.get_by_text("Booked as revision 8.", exact=False).first).to_be_visible()

    def test_a_number_opens_to_its_working_and_what_it_lacks(self) -> None:
        page = self.open(path="/cars/3/plan")
        page.get_by_role("button", name="Rear over front: ").click()
        dialog = page.get_by_role("dialog")
        expect(dialog.get_by_label("f_rear / f_front")).to_be_visible()
        dialog.get_by_role("button", name="Axle frequency").click()
        dialog.get_by_role("button", name="Sprung mass").click()
        expect(dialog).to_contain_text("Rests on an estimate: unsprung mass")
        dialog.get_by_role("button", name="Pad", exact=True).click()
        expect(dialog).to_contain_text("Oke Sandiford")
        page.keyboard.press("Escape")
        expect(dialog).to_be_hidden()
        command = page.get_by_label("Command line")
        page.keyboard.press("/")
        expect(command).to_be_focused()
        command.fill("why coil bind")
        command.press("Enter")
        dialog.get_by_role("link", name="bump travel").click()
        field = page.get_by_label("Bump travel, front")
        expect(field).to_be_focused()
        field.fill("2 1/4 in")
        field.press("Enter")
        expect(field).to_have_value("57.15")
        page.get_by_role("button", name="Clear it again").click()
        expect(field).to_have_value("")

    def test_the_car_under_load_and_one_step_from_it(self) -> None:
        page = self.open(path="/cars/1/bars")
        panel = page.get_by_role("complementary", name="Change slip")
        expect(page.get_by_role("img", name="Wheel loads at this load")).to_be_visible()
        cornering = page.get_by_label("Cornering, + left turn")
        cornering.fill("wide")
        cornering.press("Enter")
        expect(page.get_by_text("“wide” is not a number")).to_be_visible()
        cornering.fill("3,5")
        cornering.press("Enter")
        expect(page.get_by_text("The car would roll over")).to_be_visible()
        cornering.fill("-1.2")
        cornering.press("Enter")
        expect(page.get_by_text("RF first lifts at")).to_be_visible()
        page.get_by_role("button", name="Try Bar hole, rear").click()
        expect(panel.get_by_text("Bar hole, rear")).to_be_visible()
        row = page.get_by_role("listitem").filter(has_text="Grip balance")
        expect(row.locator(".drafted")).to_be_visible()
        self.assert_accessible(page)
        with page.expect_response("**/api/cars/1/slip"):
            panel.get_by_role("button", name="Clear", exact=True).click()

    def test_the_keyboard_alone_changes_undoes_and_redoes(self) -> None:
        page = self.open(path="/cars/1/bars")
        panel = page.get_by_role("complementary", name="Change slip")
        front = page.get_by_role("spinbutton", name="Bar hole, front")
        front.focus()
        page.keyboard.press("ArrowUp")
        expect(front).to_have_attribute("aria-valuetext", "4 , was 3")
        expect(panel.get_by_text("Bolt check")).to_be_visible()
        page.keyboard.press("Control+z")
        expect(panel.get_by_text("Nothing on the slip")).to_be_visible()
        page.keyboard.press("Control+Shift+z")
        expect(panel.get_by_text("Bar hole, front")).to_be_visible()
        page.keyboard.press("/")
        page.keyboard.type("rear rebound -2")
        page.keyboard.press("Enter")
        expect(panel.get_by_text("Rebound, both rear")).to_be_visible()
        expect(panel.get_by_text("Two systems on one slip")).to_be_visible()
        page.keyboard.type("")
        page.get_by_label("Command line").fill("front bar 9")
        page.keyboard.press("Enter")
        expect(page.get_by_text("goes from 1 to 5, the usual range")).to_be_visible()
        page.reload()
        expect(panel.get_by_text("Rebound, both rear")).to_be_visible()
        panel.get_by_role("button", name="Save for later").click()
        expect(panel.get_by_text("2 lines").or_(panel.get_by_text("3 lines"))).to_be_visible()
        panel.get_by_role("button", name="Resume").click()
        expect(panel.get_by_text("Bar hole, front")).to_be_visible()
        panel.get_by_role("button", name="Clear", exact=True).click()
        expect(panel.get_by_text("Nothing on the slip")).to_be_visible()

    def test_two_people_book_on_one_car(self) -> None:
        ines, teo = self.open("Ines", "/cars/2/dampers"), self.open("Teo", "/cars/2/dampers")
        for page in (ines, teo):
            page.get_by_role("spinbutton", name="Rebound, left front").focus()
            page.keyboard.press("ArrowUp")
            expect(
                page.get_by_role("complementary").get_by_text("Rebound, both front")
            ).to_be_visible()
        ines.get_by_role("button", name="Book revision 5").click()
        expect(ines.get_by_text("Booked as revision 5", exact=False).first).to_be_visible()
        # he is told by himself, before he presses
        expect(teo.get_by_text("Ines Halloran booked revision 5 meanwhile.").first).to_be_visible()
        teo.get_by_role("button", name="Reapply to revision").click()
        expect(teo.get_by_text("Nothing on the slip")).to_be_visible()  # both wanted the same click

    def test_what_another_booked_is_there_within_seconds(self) -> None:
        teo, ines = self.open("Teo", "/cars/2/plan"), self.open("Ines", "/cars/2/dampers")
        revision = self.revision(teo)
        ines.get_by_role("spinbutton", name="Compression, left rear").focus()
        ines.keyboard.press("ArrowUp")
        ines.get_by_role("button", name=f"Book revision {revision + 1}").click()
        expect(ines.get_by_text(f"Booked as revision {revision + 1}").first).to_be_visible()
        # long before the page would ask for the whole bench again
        expect(teo.locator(".about-car")).to_contain_text(f"on revision {revision + 1}")

    def revision(self, page: Page) -> int:
        about = page.locator(".about-car")
        expect(about).to_contain_text("on revision")
        return int(about.inner_text().split("on revision ")[1].split()[0])

    def test_a_session_with_the_driver_s_words(self) -> None:
        page = self.open(path="/cars/3/logbook")
        page.get_by_role("button", name="Add an event").click()
        page.get_by_label("Name").fill("Winter Shake")
        page.get_by_label("Place").fill("Quarry Dock")
        page.get_by_role("button", name="Add the event").click()
        page.get_by_role("button", name="Add a session").click()
        page.get_by_role("button", name="Add the session").click()
        expect(page.get_by_text("A session needs a name.").first).to_be_visible()
        page.get_by_label("Event").select_option(label="Winter Shake, Quarry Dock")
        page.get_by_label("Name").fill("Night one")
        page.get_by_label("Air").fill("4")
        page.get_by_role("button", name="Add the session").click()
        entry = page.get_by_role("listitem").filter(
            has=page.get_by_role("heading", name="Night one")
        )
        entry.get_by_role("button", name="Log a run").click()
        entry.get_by_label("Laps").fill("3")
        # its heights were never read again after the springs: it wants signing for
        gate = entry.get_by_role("group", name="Not ready to run")
        expect(gate).to_contain_text("Ride heights: void since revision 3")
        entry.get_by_role("button", name="Log the run").click()
        expect(entry.get_by_text("An engineer may let it out").first).to_be_visible()
        gate.get_by_label("Let it out all the same").fill("Slow laps only, to bed the pads in.")
        entry.get_by_role("button", name="Log the run").click()
        expect(entry).to_contain_text("though not ready: “Slow laps only, to bed the pads in.”")
        entry.get_by_role("button", name="Driver’s words").click()
        entry.get_by_label("transition").fill("Waits for me now.")
        entry.get_by_text("4", exact=True).click()
        entry.get_by_role("button", name="Save").click()
        expect(entry).to_contain_text("“Waits for me now.”")
        expect(entry).to_contain_text("confidence 4 of 5")

    def test_a_car_file_out_and_in(self) -> None:
        page = self.open()
        with page.expect_download() as download:
            page.get_by_role("link", name="Export car file").last.click()
        file = Path(download.value.path())
        self.assertEqual(json.loads(file.read_text())["car"]["name"], "Sidewind")
        with tempfile.TemporaryDirectory() as folder:
            half = Path(folder) / "half.json"
            half.write_text(file.read_text()[:900])
            page.get_by_label("Car file").set_input_files(half)
            expect(page.get_by_text("may have been cut short")).to_be_visible()
            whole = Path(folder) / "whole.json"
            whole.write_text(file.read_text())
            page.get_by_label("Car file").set_input_files(whole)
            expect(page.get_by_role("heading", name="Car in plan")).to_be_visible()
        page.get_by_role("link", name="Cabrio, to the garage").click()
        expect(page.get_by_role("heading", name="Sidewind")).to_have_count(2)

    def test_a_viewer_is_shown_no_way_to_change(self) -> None:
        page = self.open("Pell", "/cars/1/plan")
        expect(page.get_by_text("An engineer of the team drafts and books")).to_be_visible()
        expect(page.get_by_role("spinbutton")).to_have_count(0)
