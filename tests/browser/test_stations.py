"""The stations of a circuit car made on screen: pictures that are the input, questions, trials."""

from __future__ import annotations

from playwright.sync_api import expect

from tests.support.browser import OwnCarTestCase, read_now


class Stations(OwnCarTestCase):
    def test_the_order_of_work_and_what_holds_a_station(self) -> None:
        page = self.make("Siskin", Discipline="circuit", Units="n_mm")
        route = page.get_by_role("navigation", name="Order of work")
        labels = route.locator("ol a > span:last-child").all_inner_texts()
        order = [one.split("\n")[0] for one in labels]
        self.assertEqual(order[1:4], ["Tyres", "Heights", "Weights"])
        self.assertEqual(order[-1], "Final check")
        self.go(page, "bars")
        expect(page.locator(".held-by")).to_contain_text("Heights")
        self.go(page, "weights")
        page.get_by_role("button", name="Read now Pads").click()
        # the caution comes first, once
        expect(page.get_by_role("group", name="Before you start")).to_contain_text("Chock")
        page.get_by_role("button", name="Understood").click()
        page.get_by_role("button", name="Cancel").click()
        page.get_by_role("button", name="Read now Pads").click()
        expect(page.get_by_role("button", name="Understood")).to_be_hidden()

    def test_a_tread_is_drawn_and_says_what_it_means(self) -> None:
        page = self.make("Linnet", Discipline="circuit", Units="n_mm")
        self.go(page, "tyres")
        expect(page.get_by_text("The treads are drawn here once")).to_be_visible()
        read_now(page, "Hot tyres")
        for part, degrees in (("inner", "92"), ("middle", "96"), ("outer", "82")):
            for place in ("LF", "RF", "LR", "RR"):
                page.get_by_label(f"Tread, {part}, {place}").fill(degrees)
        page.get_by_role("button", name="Take the reading").click()
        expect(
            page.get_by_role("img", name="LF: outer 82.0, middle 96.0, inner 92.0")
        ).to_be_visible()
        expect(page.get_by_label("Treads")).to_contain_text("less pressure")
        self.assert_accessible(page)

    def test_charts_are_read_by_keys_and_saved_as_csv(self) -> None:
        page = self.make("Wheatear", Discipline="circuit", Units="n_mm")
        self.go(page, "clearance")
        chart = page.get_by_role("region", name="Clearance over speed")
        expect(chart.get_by_text("Least:")).to_be_visible()
        reader = chart.get_by_role("slider")
        reader.press("End")
        expect(chart.locator(".plot-readout")).to_contain_text("km/h")
        chart.get_by_text("Figures").click()
        expect(chart.get_by_role("table")).to_contain_text("Front")
        with page.expect_download() as saved:
            chart.get_by_role("link", name="Save it as CSV").click()
        self.assertEqual(saved.value.suggested_filename, "clearance-over-speed.csv")
        self.assert_accessible(page)

    def test_a_rubber_closer_is_drafted_on_the_same_chart(self) -> None:
        page = self.open(path="/cars/1/clearance")
        chart = page.get_by_role("region", name="Clearance over speed")
        expect(chart.get_by_text("Least:")).to_be_visible()
        gap = page.get_by_role("spinbutton", name="Bump rubber gap, front")
        for _ in range(3):
            gap.press("ArrowDown")
        expect(chart.get_by_text("After the slip: Least")).to_be_visible()
        expect(chart.get_by_text("after the slip", exact=True)).to_be_visible()

    def test_the_ladder_puts_a_combination_on_the_slip(self) -> None:
        page = self.open(path="/cars/1/bars")
        rung = page.get_by_role("button", name="Front 4, rear 2")
        rung.click()
        panel = page.get_by_role("complementary", name="Change slip")
        expect(panel.get_by_text("Bar hole, front")).to_be_visible()
        expect(panel.get_by_text("Bar hole, rear")).to_be_visible()
        expect(rung).to_have_attribute("aria-pressed", "true")
        # the figure on the rung is the one that the slip works
        share = rung.locator("b").inner_text()
        expect(panel.get_by_text("Front share of load transfer").locator("..")).to_contain_text(
            share
        )

    def test_what_if_in_time_against_the_slip_and_a_size_that_cannot_be(self) -> None:
        page = self.open(path="/cars/1/dampers")
        page.get_by_role("spinbutton", name="Rebound, left front").press("ArrowDown")
        section = page.get_by_role("region", name="What if, in time")
        section.get_by_label("Kerb height").fill("3 m")
        section.get_by_role("button", name="Run").click()
        expect(section.get_by_role("status").or_(section.get_by_role("alert"))).to_contain_text(
            "Kerb"
        )
        section.get_by_label("Kerb height").fill("30")
        section.get_by_role("button", name="Run").click()
        expect(section.get_by_role("row", name="Greatest load")).to_contain_text("→")
        self.assert_accessible(page)

    def test_turns_for_heights_and_pressures_from_their_questions(self) -> None:
        page = self.open(path="/cars/1/heights")
        question = page.get_by_role("region", name="Turns for ride heights")
        question.get_by_label("front wanted").fill("92")
        question.get_by_label("rear wanted").fill("tall")
        question.get_by_role("button", name="Propose").click()
        expect(question).to_contain_text("is not a number")
        expect(question.get_by_label("rear wanted")).to_have_attribute("aria-invalid", "true")
        question.get_by_label("rear wanted").fill("99")
        question.get_by_role("button", name="Propose").click()
        question.get_by_role("button", name="Put on the slip").first.click()
        panel = page.get_by_role("complementary", name="Change slip")
        expect(panel.get_by_text("Perch").first).to_be_visible()

    def test_pads_are_read_live_and_taken_into_the_reading(self) -> None:
        page = self.make("Fieldfare", Discipline="circuit", Units="n_mm")
        self.go(page, "weights")
        read_now(page, "Pads")
        page.get_by_role("button", name="Connect the pads").click()
        live = page.get_by_role("group", name="The pads now")
        expect(live.get_by_role("status")).to_have_text("Moving …")
        expect(live.get_by_role("button", name="Take these")).to_be_disabled()
        live.get_by_role("button", name="Rolled and bounced").click()
        expect(live.get_by_role("status")).to_have_text("Still.", timeout=20_000)
        live.get_by_role("button", name="Take these").click()
        typed = float(page.get_by_label("Pad, LF").input_value())
        standing = self.bench(page)["figures"]["pad_mass"]["values"][0]
        self.assertLess(abs(typed - standing), 5.0)
        live.get_by_role("button", name="Take these").click()
        expect(page.get_by_text("repeat 2").first).to_be_visible()
