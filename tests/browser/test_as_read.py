"""Readings of one wheel, limits that are signed for, facts told better: on a car made on screen."""

from __future__ import annotations

from playwright.sync_api import Page, expect

from tests.support.browser import BrowserTestCase, read_now


class AsRead(BrowserTestCase):
    def new_car(self) -> tuple[Page, str]:
        page = self.open()
        page.get_by_role("button", name="New car").click()
        page.get_by_label("Name").fill("Rook")
        page.get_by_role("button", name="Add the car").click()
        expect(page.get_by_role("heading", name="Car in plan")).to_be_visible()
        return page, page.url.rsplit("/", 1)[0]

    def confirm(self, page: Page) -> None:
        """Say yes where a value is asked about; the form is then gone."""
        anyway = page.get_by_role("button", name="Take it anyway")
        now = page.get_by_role("button", name="Read now")
        expect(anyway.or_(now.first).first).to_be_visible()
        self.let_it_write(page)
        if anyway.count():
            anyway.click()
        expect(page.get_by_role("button", name="Take the reading")).to_have_count(0)

    def test_one_wheel_read_a_limit_signed_for_and_a_height_told_better(self) -> None:
        page, at = self.new_car()
        page.goto(f"{at}/tyres")
        read_now(page, "Cold pressures")
        page.get_by_label("Cold pressure read, RF").fill("1.7")
        page.get_by_role("button", name="Take the reading").click()
        panel = page.locator("#pressures")
        expect(panel.get_by_text("– · 1.70 · – · –").first).to_be_visible()
        expect(page.get_by_text("Not read: cold pressure read LF and LR and RR.")).to_be_visible()
        read_now(page, "Cold pressures")
        for place in ("LF", "LR", "RR"):
            page.get_by_label(f"Cold pressure read, {place}").fill("1.6")
        page.get_by_role("button", name="Take the reading").click()
        expect(panel.locator(".kept-values")).to_contain_text("– · 1.70 · – · –")
        expect(panel.locator(".kept-values")).to_contain_text("kept from")
        expect(page.get_by_text("Not read:")).to_have_count(0)
        # an axle raised tells the height of the centre of gravity
        page.goto(f"{at}/plan")
        read_now(page, "CG height, rear raised")
        page.get_by_label("Front pads, rear raised", exact=True).fill("600")
        page.get_by_label("Rear lift", exact=True).fill("400 mm")
        page.get_by_role("button", name="Take the reading").click()
        self.confirm(page)
        panel = page.locator("#cg_tilt")
        # on a wheelbase, tyres and a mass that nobody measured it is no measurement
        expect(panel.get_by_text("CG height from this:")).to_be_visible()
        expect(panel.get_by_text("It is no measurement yet:")).to_be_visible()
        offer = panel.get_by_role("button", name="Take it as measured better")
        expect(offer).to_have_count(0)
        page.goto(f"{at}/data")
        for name, value in (
            ("wheelbase-car", "2500"),
            ("loaded_radius-front", "317"),
            ("loaded_radius-rear", "317"),
        ):
            field = page.locator(f"#{name} input")
            field.fill(value)
            field.press("Enter")
            expect(page.locator(f"#{name} .estimate")).to_have_count(0)  # it is kept
        page.goto(f"{at}/weights")
        read_now(page, "Pads")
        for place in ("LF", "RF", "LR", "RR"):
            page.locator(f"#pads-pad_mass-0-{place}").fill("290")
        page.get_by_role("button", name="Take the reading").click()
        self.confirm(page)
        page.goto(f"{at}/plan")
        offer.click()
        expect(panel.get_by_text("CG height from this:")).to_have_count(0)
        self.assert_accessible(page)

    def test_a_setting_is_asked_for_where_a_cure_needs_it(self) -> None:
        page, at = self.new_car()
        page.goto(f"{at}/advise?symptom=understeer&phase=mid-corner")
        asked = page.get_by_role("region", name="Write down first")
        expect(asked).to_be_visible()
        for place in ("LF", "RF"):
            asked.get_by_role("group", name="Camber").get_by_label(place).fill("-2.5")
        asked.get_by_role("button", name="This is on the car now").click()
        cures = page.get_by_role("list", name="Changes, best first")
        expect(cures.get_by_text("Camber, front").first).to_be_visible()

    def test_a_changed_fact_waits_for_its_answer_over_a_reload(self) -> None:
        page = self.open(path="/cars/1/data")
        field = page.get_by_label("Wheelbase").first
        before = field.input_value()
        field.fill("2601")
        field.press("Enter")
        expect(page.get_by_role("button", name="I measured again")).to_be_visible()
        page.reload()
        expect(page.get_by_role("button", name="I measured again")).to_be_visible()
        expect(page.get_by_label("Wheelbase").first).to_have_value("2601")
        page.get_by_label("Wheelbase").first.press("Escape")
        expect(page.get_by_label("Wheelbase").first).to_have_value(before)
        page.reload()
        expect(page.get_by_label("Wheelbase").first).to_have_value(before)
        expect(page.get_by_role("button", name="I measured again")).to_have_count(0)
