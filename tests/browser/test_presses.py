"""How few presses the commonest jobs take: counted as a person makes them, on the demo's own car."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from tests.support.browser import CountedTestCase


class Presses(CountedTestCase):
    def test_a_cross_of_fifty_by_the_perches_booked(self) -> None:
        page = self.start("/cars/1/plan")
        page.get_by_role("navigation").get_by_role("link", name="Weights").click()
        question = page.get_by_role("region", name="Turns for a cross")
        question.get_by_label("Cross, wanted").click()
        page.keyboard.type("50.4")
        page.keyboard.press("Enter")
        question.get_by_role("button", name="Put on the slip").first.click()
        panel = page.get_by_role("complementary", name="Change slip")
        expect(panel.get_by_text("Perch").first).to_be_visible()
        panel.get_by_role("button", name="Book revision").click()
        expect(panel.get_by_text("Booked as revision").first).to_be_visible()
        self.assertLessEqual(self.taken(page), 12)
        self.assertGreater(self.taken(page), 3)

    def test_a_stiffer_rear_bar_with_its_expectation_booked_and_its_verdict(self) -> None:
        page = self.start("/cars/3/plan")
        page.goto(page.url.replace("/cars/3/", "/cars/1/"))
        page.get_by_role("navigation").get_by_role("link", name="Bars").click()
        page.get_by_role("button", name="Front 3, rear 2").click()
        panel = page.get_by_role("complementary", name="Change slip")
        expect(panel.get_by_text("Bar hole, rear")).to_be_visible()
        panel.get_by_label("Why", exact=True).click()
        page.keyboard.type("Mid-corner understeer in the long right.")
        panel.get_by_label("What we expect").click()
        page.keyboard.type("Grip balance up 0.008 g, the nose follows.")
        panel.get_by_role("button", name="Book revision").click()
        expect(panel.get_by_text("Booked as revision").first).to_be_visible()
        page.get_by_role("navigation").get_by_role("link", name="Logbook").click()
        entry = page.get_by_role("listitem").filter(has_text="Mid-corner understeer in the long")
        entry.get_by_role("button", name="Verdict").click()
        entry.get_by_text("not tested", exact=True).click()
        entry.get_by_role("button", name="Give the verdict").click()
        expect(entry.get_by_role("button", name="New verdict")).to_be_visible()
        self.assertLessEqual(self.taken(page), 15)
        self.assertGreater(self.taken(page), 5)

    def test_holes_for_an_anti_squat_booked(self) -> None:
        page = self.start("/cars/2/plan")
        page.get_by_role("navigation").get_by_role("link", name="Side view").click()
        search = page.get_by_role("region", name="Hole search")
        search.get_by_label("Anti-squat wanted").click()
        page.keyboard.type("120")
        page.keyboard.press("Enter")
        search.get_by_role("button", name="Put on the slip").first.click()
        panel = page.get_by_role("complementary", name="Change slip")
        expect(panel.get_by_text("hole").first).to_be_visible()
        panel.get_by_role("button", name="Book revision").click()
        expect(panel.get_by_text("Booked as revision").first).to_be_visible()
        self.assertLessEqual(self.taken(page), 8)
        self.assertGreater(self.taken(page), 3)

    def test_flats_for_a_bite_booked(self) -> None:
        page = self.start("/cars/2/plan")
        page.get_by_role("navigation").get_by_role("link", name="Link preload").click()
        expect(page.get_by_text("per flat, from")).to_be_visible()
        question = page.get_by_role("region", name="Flats for a rear bite")
        question.get_by_label("Rear bite, wanted").click()
        page.keyboard.type("60")
        page.keyboard.press("Enter")
        question.get_by_role("button", name="Put on the slip").first.click()
        panel = page.get_by_role("complementary", name="Change slip")
        expect(panel.get_by_text("Link preload").first).to_be_visible()
        panel.get_by_role("button", name="Book revision").click()
        expect(panel.get_by_text("Booked as revision").first).to_be_visible()
        self.assertLessEqual(self.taken(page), 12)
        self.assertGreater(self.taken(page), 3)

    def test_a_complaint_answered_and_booked(self) -> None:
        page = self.start("/cars/1/plan")
        page.get_by_role("navigation").get_by_role("link", name="What to change").click()
        page.get_by_text("Pushes, will not turn").click()
        page.get_by_text("mid-corner", exact=True).click()
        best = page.get_by_role("list", name="Changes, best first").get_by_role("listitem").first
        best.get_by_role("button", name="Put on the slip").click()
        panel = page.get_by_role("complementary", name="Change slip")
        expect(panel.get_by_label("Why", exact=True)).to_have_value(
            "Pushes, will not turn, mid-corner."
        )
        expect(panel.get_by_label("What we expect")).to_have_value(re.compile(r"\d to \d"))
        panel.get_by_role("button", name="Book revision").click()
        expect(panel.get_by_text("Booked as revision").first).to_be_visible()
        self.assertLessEqual(self.taken(page), 10)
        self.assertGreater(self.taken(page), 3)


class OfAPlan(CountedTestCase):
    def test_a_plan_for_two_figures_booked(self) -> None:
        page = self.start("/cars/2/plan")
        command = page.get_by_role("combobox", name="Command").or_(page.locator(".command input"))
        command.first.click()
        page.keyboard.type("plan bite 90 and anti-squat 120")
        page.keyboard.press("Enter")
        expect(page.get_by_role("heading", name="Plan of work")).to_be_visible()
        plan = page.get_by_role("listitem", name="Plan 1")
        expect(plan.get_by_text("all reached")).to_be_visible()
        said = plan.get_by_role("listitem").filter(has_text="Rear bite").inner_text()
        self.assertAlmostEqual(float(re.findall(r"→ (\d+)", said)[0]), 90, delta=4.5)
        plan.get_by_role("button", name="Put on the slip").click()
        panel = page.get_by_role("complementary", name="Change slip")
        expect(panel.get_by_text("Link preload").first).to_be_visible()
        panel.get_by_role("button", name="Book revision").click()
        expect(panel.get_by_text("Booked as revision").first).to_be_visible()
        self.assertLessEqual(self.taken(page), 6)


class Steady(CountedTestCase):
    def scrolled(self, page: Page, to: float) -> None:
        """Wait until the page has scrolled so far."""
        for _ in range(200):
            if abs(page.evaluate("window.scrollY") - to) < 20:
                return
            page.wait_for_timeout(50)
        self.fail(f"scrolled to {page.evaluate('window.scrollY')}, not {to}")

    def test_a_second_press_lands_on_nothing_else_and_pages_open_at_their_top(self) -> None:
        page = self.start("/cars/1/logbook")
        entry = page.get_by_role("listitem").filter(
            has=page.get_by_role("heading", name="Revision 3")
        )
        button = entry.get_by_role("button", name=re.compile("erdict"))
        button.scroll_into_view_if_needed()
        box = button.bounding_box()
        assert box is not None
        # two presses where the first makes another button slide under the pointer
        at = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        page.mouse.click(*at)
        page.mouse.click(*at)
        expect(entry.get_by_role("button", name="Give the verdict")).to_be_visible()
        panel = page.get_by_role("complementary", name="Change slip")
        expect(panel.get_by_text("Nothing on the slip")).to_be_visible()
        # down a long station, then another one, then back
        page.goto(page.url.replace("/logbook", "/bars"))
        expect(page.get_by_role("heading", name="Bars", level=1)).to_be_visible()
        page.wait_for_load_state("networkidle")
        page.evaluate("window.scrollTo(0, 900)")
        self.scrolled(page, 900)
        page.get_by_role("navigation").get_by_role("link", name="Dampers").click()
        expect(page.get_by_role("heading", name="Dampers", level=1)).to_be_visible()
        self.scrolled(page, 0)
        page.go_back()
        expect(page.get_by_role("heading", name="Bars", level=1)).to_be_visible()
        self.scrolled(page, 900)
