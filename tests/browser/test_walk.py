"""The order of work on a phone: one step a page, left and taken up again; what is due, read in turn."""

from __future__ import annotations

from playwright.sync_api import expect

from tests.support.browser import BrowserTestCase, OwnCarTestCase


class Walk(BrowserTestCase):
    def test_left_and_taken_up_again_by_another(self) -> None:
        page = self.open("Oke", "/cars/2/steps", width=390)
        page.get_by_role("region", name="Orders of work").get_by_role("link").first.click()
        head = page.get_by_role("heading", level=1)
        expect(head).to_have_text("Rough square")
        expect(page.get_by_text("Axle centred in the openings")).to_be_visible()
        page.get_by_role("button", name="Understood").click()
        page.get_by_role("button", name="Done, next").click()
        expect(head).not_to_have_text("Rough square")
        second = head.inner_text()
        page.get_by_role("button", name="Done, next").click()
        expect(head).not_to_have_text(second)
        third = head.inner_text()
        page.go_back()
        expect(head).to_have_text(second)
        expect(page.locator(".walk-done")).to_be_visible()
        # somebody else takes it up where it was left
        other = self.open("Ines", "/cars/2/steps/drag_build", width=820)
        expect(other.get_by_role("heading", level=1)).to_have_text(third)
        expect(other.get_by_role("button", name="Step 1: Rough square, done")).to_be_visible()
        other.get_by_role("button", name="Step 1: Rough square, done").click()
        expect(other.get_by_text("Oke Sandiford").first).to_be_visible()
        other.get_by_role("button", name="Take the tick back").click()
        expect(other.get_by_role("button", name="Done, next")).to_be_visible()
        other.get_by_role("button", name="Begin afresh").click()
        expect(other.get_by_role("heading", level=1)).to_have_text("Rough square")
        expect(other.locator(".walk-done")).to_be_hidden()


class Due(OwnCarTestCase):
    def test_what_a_slip_makes_stale_is_read_in_turn(self) -> None:
        page = self.make("Bunting", Discipline="circuit", Units="n_mm")
        self.go(page, "steps")
        expect(page.get_by_role("heading", name="Due now")).to_be_visible()
        page.get_by_role("link", name="Start").click()
        strip = page.get_by_role("list", name="Steps")
        expect(strip.get_by_role("button").first).to_be_visible()
        count = strip.get_by_role("button").count()
        self.assertGreater(count, 3)
        head = page.get_by_role("heading", level=1)
        first = head.inner_text()
        self.assertEqual(first, "Cold pressures")
        strip.get_by_role("button", name="Bolt check").click()
        expect(head).to_have_text("Bolt check")
        page.get_by_role("button", name="Check now").click()
        if page.get_by_role("button", name="Understood").count():
            page.get_by_role("button", name="Understood").first.click()
        page.get_by_role("button", name="Mark as checked").click()
        expect(head).not_to_have_text("Bolt check")
        expect(strip.get_by_role("button")).to_have_count(count - 1)
