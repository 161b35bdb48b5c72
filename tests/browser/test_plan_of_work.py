"""The plan of work on screen: figures wanted together, bad input at its field, what cannot be said so."""

from __future__ import annotations

from playwright.sync_api import expect

from tests.support.browser import BrowserTestCase, OwnCarTestCase


class PlanOfWork(BrowserTestCase):
    def test_what_is_asked_is_answered_and_stands_in_the_address(self) -> None:
        page = self.open(path="/cars/1/work")
        expect(page.get_by_text("Nothing asked yet.")).to_be_visible()
        form = page.get_by_role("form", name="What is wanted")
        form.get_by_label("Figure 1", exact=True).select_option("lltd")
        form.get_by_label("Front share of load transfer wanted").fill("soft")
        form.get_by_role("button", name="Find plans").click()
        expect(form.get_by_role("alert")).to_contain_text("“soft” is not a number")
        form.get_by_label("Front share of load transfer wanted").fill("50")
        form.get_by_role("button", name="Add a figure").click()
        form.get_by_label("Figure 2", exact=True).select_option("cross_share")
        form.get_by_label("Cross wanted").fill("50 %")
        form.get_by_text("Readings that must not be upset").click()
        form.get_by_label("Alignment").last.check()
        form.get_by_role("button", name="Find plans").click()
        plan = page.get_by_role("listitem", name="Plan 1")
        expect(plan.get_by_text("bar hole")).to_be_visible()
        expect(plan.get_by_text("Alignment")).to_be_hidden()
        page.go_back()
        expect(form.get_by_role("alert")).to_be_visible()
        page.go_forward()
        expect(plan.get_by_text("bar hole")).to_be_visible()
        # what cannot be reached is told with the nearest
        form.get_by_label("Front share of load transfer wanted").fill("80 %")
        form.get_by_role("button", name="Find plans").click()
        expect(page.get_by_text("the nearest that was found is")).to_be_visible()

    def test_a_grip_balance_is_aimed_at_and_the_loaded_car_tells_it(self) -> None:
        page = self.open(path="/cars/1/work")
        form = page.get_by_role("form", name="What is wanted")
        form.get_by_label("Figure 1", exact=True).select_option("grip_balance")
        asked = page.request.get(f"{self.address}/api/cars/1/under-load").json()
        here = asked["booked"]["balance"]
        form.get_by_label("Grip balance wanted").fill(f"{here + 0.012:.3f}")
        form.get_by_role("button", name="Find plans").click()
        plan = page.get_by_role("listitem", name="Plan 1")
        expect(plan).to_contain_text(f"{here:.3f} →".replace("-", "−"))
        expect(plan).to_contain_text("all reached")


class OnOnesOwnCar(OwnCarTestCase):
    def test_a_car_without_parts_says_what_to_add(self) -> None:
        page = self.make("Fieldfare", Discipline="circuit", Units="n_mm")
        self.go(page, "work?t=lltd:car:50&s=bars")
        expect(page.get_by_text("add parts to the inventory")).to_be_visible()
