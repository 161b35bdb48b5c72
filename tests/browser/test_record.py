"""The record on screen: what keeps the car in, what came of a change, runs from a table, sheets on paper."""

from __future__ import annotations

from playwright.sync_api import Page, expect

from tests.support.browser import BrowserTestCase, OwnCarTestCase
from tests.support.client import WEB


class Gate(BrowserTestCase):
    def test_what_is_watched_keeps_the_car_in_until_it_is_settled(self) -> None:
        page = self.open("Oke", "/cars/3/release", width=820)
        watched = page.get_by_role("region", name="Watched on this car")
        off = watched.get_by_role("region", name="Off the car")
        off.get_by_role("button", name="Note a part taken off").click()
        off.get_by_label("Part", exact=True).fill("Front undertray")
        off.get_by_role("button", name="Add", exact=True).click()
        ready = page.get_by_role("region", name="Ready to run")
        expect(ready.get_by_text("Off the car: Front undertray")).to_be_visible()
        expect(ready.get_by_text("Not ready to run")).to_be_visible()
        off.get_by_role("button", name="Refitted Front undertray").click()
        expect(ready.get_by_text("Front undertray")).to_be_hidden()
        # a torque needs its figure and where that is from
        joints = watched.get_by_role("region", name="Torques")
        joints.get_by_role("button", name="Add a joint").click()
        joints.get_by_label("Joint", exact=True).fill("Rear hub nuts")
        joints.get_by_label("Torque", exact=True).fill("tight")
        joints.get_by_role("button", name="Add", exact=True).click()
        expect(joints.get_by_text("“tight” is not a number")).to_be_visible()
        joints.get_by_label("Torque", exact=True).fill("210 lb·ft")
        joints.get_by_label("Figure from").fill("the hub's maker")
        joints.get_by_role("button", name="Add", exact=True).click()
        expect(ready.get_by_text("Torque not pulled yet: Rear hub nuts")).to_be_visible()
        joints.get_by_role("button", name="Torqued Rear hub nuts").click()
        expect(ready.get_by_text("Rear hub nuts")).to_be_hidden()
        joints.get_by_role("button", name="Remove Rear hub nuts").click()
        expect(joints.get_by_role("listitem")).to_have_count(0)


class Logbook(BrowserTestCase):
    def revision(self, page: Page, number: int) -> object:
        return page.locator("li.entry-revision").filter(has_text=f"Revision {number}")

    def test_what_came_of_a_change(self) -> None:
        page = self.open(path="/cars/2/logbook")
        entry = page.locator("li.entry-revision").filter(has_text="Revision 2")
        entry.get_by_role("button", name="Result").click()
        expect(entry.get_by_text("no difference can be claimed")).to_be_visible()
        row = entry.get_by_role("row").filter(has_text="hanging")
        # no figure says what a hole does to the hanging pinion: nothing was expected of it
        expect(row).to_contain_text("not worked")
        with page.expect_download() as saved:
            entry.get_by_role("button", name="CSV").click()
        text = saved.value.path().read_text("utf-8-sig")
        self.assertTrue(text.startswith("Read;Before;Expected;Found"))
        entry.get_by_role("button", name="Put revision 1 on the slip").click()
        slip = page.get_by_role("complementary", name="Change slip")
        expect(slip.get_by_text("link hole").first).to_be_visible()
        slip.get_by_role("button", name="Clear").click()

    def test_runs_from_a_table(self) -> None:
        page = self.open(path="/cars/1/logbook")
        session = page.locator("li.entry-session").first
        expect(session.locator("li.run").first).to_be_visible()
        before = session.locator("li.run").count()
        session.get_by_role("button", name="Runs from a table").click()
        form = session.get_by_role("form", name="Runs from a table")
        form.get_by_role("textbox").first.fill("Driver;Best lap\nMara;1:20,4;9")
        form.get_by_role("button", name="Preview").click()
        expect(form.get_by_text("a column is missing or one too many")).to_be_visible()
        form.get_by_role("textbox").first.fill("Who;Best lap;Laps\nMara;1:20,4;9\nTeo;1:20,9;7")
        form.get_by_role("button", name="Preview").click()
        form.get_by_label("What “Who” is").select_option("driver")
        form.get_by_label("Let out all the same").fill("Numbers of yesterday.")
        form.get_by_role("button", name="Log 2 runs").click()
        expect(session.locator("li.run")).to_have_count(before + 2)
        expect(session.get_by_text("1:20.40")).to_be_visible()


class Amending(OwnCarTestCase):
    def test_a_logbook_of_ones_own_is_corrected_and_keeps_what_it_said(self) -> None:
        page = self.make("Stonechat", Discipline="circuit", Units="n_mm")
        self.go(page, "logbook")
        page.get_by_role("button", name="Add an event").click()
        form = page.locator("form").filter(has_text="Add an event")
        form.get_by_label("Name").fill("Open day")
        form.get_by_label("Place").fill("Gannet Sands")
        form.get_by_label("Length of a lap").fill("3 moons")
        form.get_by_role("button", name="Add the event").click()
        expect(form.get_by_text("moons")).to_be_visible()
        form.get_by_label("Length of a lap").fill("3.62")
        form.get_by_role("button", name="Add the event").click()
        page.get_by_role("button", name="Add a session").click()
        form = page.locator("form").filter(has_text="Add a session")
        form.get_by_label("Name").fill("Morning")
        form.get_by_label("Event").select_option(label="Open day, Gannet Sands")
        form.get_by_label("Surface").fill("dry")
        form.get_by_label("Air").fill("11")
        form.get_by_role("button", name="Add the session").click()
        entry = page.locator("li.entry-session").filter(has_text="Morning")
        entry.get_by_role("button", name="Log a run on revision 1").click()
        entry.get_by_label("Laps").fill("6")
        entry.get_by_label("Best lap").fill("1:53.2")
        entry.get_by_label("Floor, front").select_option("touched")
        entry.get_by_label("Let it out all the same").fill("First shakedown.")
        entry.get_by_role("button", name="Log the run").click()
        run = entry.locator("li.run")
        expect(run.get_by_text("1:53.20")).to_be_visible()
        expect(run.get_by_text("floor front touched")).to_be_visible()
        # the wrong minute: corrected with its reason, the old time stays on record
        run.get_by_role("button", name="Correct run 1").click()
        expect(run.get_by_label("Best lap")).to_have_value("1:53.2")
        run.get_by_label("Best lap").fill("1:43.2")
        run.get_by_role("button", name="Correct it").click()
        expect(run.get_by_text("Say why")).to_be_visible()
        run.get_by_label("Why it is corrected").fill("Read off the board again.")
        run.get_by_role("button", name="Correct it").click()
        expect(run.get_by_text("1:43.20", exact=True)).to_be_visible()
        run.get_by_text("Corrected once").click()
        expect(run.get_by_text("time 1:53.20 → 1:43.20")).to_be_visible()
        # a photo of it says when in the lap it is, and from there what could be changed
        photo = WEB.parents[1] / "docs" / "screenshots" / "phone.png"
        entry.get_by_label("Photo or clip of run 1").set_input_files(photo)
        entry.get_by_label("Phase of phone.png").select_option("mid-corner")
        entry.get_by_label("What phone.png shows").fill("Turn 3: inner front lifts")
        entry.get_by_label("What phone.png shows").blur()
        self.let_it_write(page)
        page.reload()
        expect(entry.get_by_label("What phone.png shows")).to_have_value(
            "Turn 3: inner front lifts"
        )
        link = entry.get_by_role("link", name="What to change")
        self.assertIn("phase=mid-corner", link.get_attribute("href") or "")
        self.go(page, "clearance")
        floor = page.get_by_role("region", name="Where the floor has touched")
        expect(floor.get_by_role("heading", name="Gannet Sands")).to_be_visible()
        expect(floor).to_contain_text("No ride height was read before")
        self.go(page, "logbook")
        entry.get_by_role("button", name="Correct Morning").click()
        expect(entry.get_by_label("Air")).to_have_value("11")
        entry.get_by_label("Surface").fill("damp")
        entry.get_by_label("Why it is corrected").fill("It had rained.")
        entry.get_by_role("button", name="Correct it").click()
        expect(entry.locator(".conditions-line")).to_contain_text("damp")
        self.assert_accessible(page)
        entry.get_by_role("button", name="Remove Morning from results").click()
        entry.get_by_label("Why it is removed").fill("It was another car's.")
        entry.get_by_role("button", name="Remove from results").click()
        expect(page.get_by_text("Morning")).to_have_count(0)


class Paper(BrowserTestCase):
    def test_every_sheet_has_its_link_and_opens(self) -> None:
        page = self.open(path="/cars/2/steps")
        paper = page.get_by_role("region", name="On paper")
        expect(paper.get_by_role("link", name="Set-up sheet, A4")).to_be_visible()
        links = [str(one.get_attribute("href")) for one in paper.get_by_role("link").all()]
        self.assertGreaterEqual(len(links), 6)
        for link in [*links, "/api/sheets/setup"]:
            answer = page.request.get(page.url.split("/cars")[0] + link)
            self.assertEqual((answer.status, answer.body()[:5]), (200, b"%PDF-"), link)


class Talk(BrowserTestCase):
    def test_what_is_often_said_stands_beside_this_car_s_numbers(self) -> None:
        page = self.open(path="/cars/2/links")
        page.get_by_text("Often said, and what holds").click()
        said = page.locator(".often-said")
        expect(said.get_by_text("Put the instant centre in the usual band")).to_be_visible()
        expect(said.get_by_role("listitem").filter(has_text="Anti-squat").first).to_contain_text(
            "147"
        )


class Advice(BrowserTestCase):
    def test_how_bad_it_is_takes_another_step_and_says_so_on_the_slip(self) -> None:
        page = self.open(path="/cars/1/advise?symptom=understeer&phase=mid-corner")
        change = page.get_by_role("listitem").filter(has_text="Bar hole, front").first
        expect(change.get_by_text("Confidence")).to_be_visible()
        page.get_by_role("group", name="How bad").get_by_text("badly").click()
        page.get_by_role("group", name="Corners").get_by_text("fast only").click()
        expect(change.get_by_text("no aero map is fitted")).to_be_visible()
        change.get_by_role("button", name="Put on the slip").click()
        slip = page.get_by_role("complementary", name="Change slip")
        expect(slip.get_by_label("Why", exact=True)).to_have_value(
            "Pushes, will not turn, mid-corner, badly, in fast corners."
        )
        slip.get_by_role("button", name="Clear").click()
