"""The stations of a circuit car made on screen: pictures that are the input, questions, trials."""

from __future__ import annotations

from playwright.sync_api import expect

from tests.support.browser import OwnCarTestCase, read_now


class Stations(OwnCarTestCase):
    def test_the_order_of_work_and_what_holds_a_station(self) -> None:
        page = self.make("Siskin", Discipline="circuit", Units="n_mm")
        route = page.get_by_role("navigation", name="Order of work")
        labels = route.locator("ol a > span:last-child").all_inner_texts()
        order = [label.split("\n")[0] for label in labels]
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
        moved = panel.get_by_text("Front share of load transfer", exact=True).locator("..")
        expect(moved).to_contain_text(share)

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
        expect(live.get_by_role("status")).to_have_text("Still.")
        live.get_by_role("button", name="Take these").click()
        typed = float(page.get_by_label("Pad, LF").input_value())
        standing = self.bench(page)["figures"]["pad_mass"]["values"][0]
        self.assertLess(abs(typed - standing), 5.0)
        live.get_by_role("button", name="Take these").click()
        expect(page.get_by_text("repeat 2").first).to_be_visible()

    def test_ballast_is_dragged_and_solved_on_the_plan_and_goes_on_the_slip(self) -> None:
        page = self.make("Twite", Discipline="circuit", Units="n_mm")
        self.go(page, "weights")
        panel = page.get_by_role("region", name="Ballast on the plan")
        outcome = panel.get_by_role("status")
        expect(outcome).to_contain_text("10.0 kg there")
        plan = panel.get_by_role("group", name="The car in plan with its ballast")
        before = panel.get_by_label("Behind the front axle").input_value()
        plan.scroll_into_view_if_needed()
        box = plan.bounding_box()
        assert box is not None
        page.mouse.move(box["x"] + box["width"] * 0.4, box["y"] + box["height"] * 0.3)
        page.mouse.down()
        page.mouse.move(box["x"] + box["width"] * 0.35, box["y"] + box["height"] * 0.75, steps=4)
        page.mouse.up()
        behind = panel.get_by_label("Behind the front axle")
        expect(behind).not_to_have_value(before)
        self.assertGreater(float(behind.input_value()), float(before))
        self.assertGreater(float(panel.get_by_label("Left of the centre line").input_value()), 0)
        here = float(behind.input_value())
        tried = panel.get_by_role("slider", name="Ballast tried")
        tried.press("Shift+ArrowDown")
        expect(behind).to_have_value(f"{here + 100:g}")
        # off the car: said at the field, and what was typed stays
        behind.fill("9 m")
        expect(panel).to_contain_text("at most")
        behind.fill("4 m")
        expect(panel).to_contain_text("off the car")
        expect(behind).to_have_attribute("aria-invalid", "true")
        behind.fill("2300")
        panel.get_by_text("a front share").click()
        total = self.bench(page)["figures"]["front_share"]["values"][0]
        wanted = f"{total * 100 - 0.5:.3f}"
        with page.expect_response(lambda answer: f"target={wanted}" in answer.url):
            panel.get_by_label("Wanted").fill(wanted)
        expect(outcome).to_contain_text("kg there")
        panel.get_by_label("Code of the piece").fill("boot lead")
        panel.get_by_role("button", name="Add to inventory and to the slip").click()
        slip = page.get_by_role("complementary", name="Change slip")
        expect(slip).to_contain_text("boot lead")
        shown = self.bench(page)["slip"]["after"]["front_share"][0]
        self.assertAlmostEqual(shown, total - 0.005, 4)
        self.assert_accessible(page)

    def test_the_ledger_tells_predicted_from_weighed(self) -> None:
        page = self.open(path="/cars/1/weights")
        ledger = page.get_by_role("region", name="Mass ledger")
        expect(ledger.get_by_role("row", name="Predicted").first).to_be_visible()
        steps = page.request.get(f"{self.address}/api/cars/1/ledger").json()["steps"]
        told = [step for step in steps if step["predicted"]]
        first = ledger.locator(".ledger-step").filter(has=page.get_by_role("row", name="Apart"))
        expect(first).to_have_count(len(told))
        apart = told[0]["weighed"][0] - told[0]["predicted"][0]
        cell = first.first.get_by_role("row", name="Apart").get_by_role("cell").first
        expect(cell).to_contain_text(f"{abs(apart):.1f}")

    def test_contact_load_over_clicks_is_drawn_as_it_is_worked(self) -> None:
        page = self.open(path="/cars/1/dampers")
        panel = page.get_by_role("region", name="Contact load over clicks")
        panel.get_by_role("button", name="Run").click()
        stop = panel.get_by_role("button", name="Cancel")
        expect(stop).to_be_visible()
        expect(panel.locator(".curve").first).to_be_visible()
        stop.click()
        expect(panel.get_by_role("button", name="Run")).to_be_visible()

    def test_springs_over_travel_booked_and_drafted(self) -> None:
        page = self.open(path="/cars/1/springs")
        chart = page.get_by_role("region", name="Load at the wheel")
        expect(chart.locator(".curve").first).to_be_visible()
        command = page.get_by_label("Command line")
        command.fill("front spring 90")
        command.press("Enter")
        expect(page.get_by_role("complementary", name="Change slip")).to_contain_text("→ 90")
        expect(chart.get_by_text("after the slip", exact=True)).to_be_visible()
        page.get_by_role("button", name="Clear", exact=True).click()
        expect(chart.get_by_text("after the slip", exact=True)).to_be_hidden()

    def test_alignment_set_beside_read_and_full_lock(self) -> None:
        page = self.make("Brambling", Discipline="drift", Units="n_mm")
        self.go(page, "alignment")
        table = page.get_by_role("group", name="Set and read")
        command = page.get_by_label("Command line")
        command.fill("lf camber -4")
        command.press("Enter")
        page.get_by_role("button", name="Book revision").click()
        expect(table.get_by_role("row", name="Camber, LF")).to_contain_text("not read")
        read_now(page, "Alignment")
        for place, value in (("LF", "-4.4"), ("RF", "-4"), ("LR", "-1"), ("RR", "-1")):
            page.get_by_label(f"Camber read, {place}").fill(value)
        page.get_by_role("button", name="Take the reading").click()
        row = table.get_by_role("row", name="Camber, LF")
        expect(row).to_contain_text("−0.40")
        expect(row).to_contain_text("± 0.15")
        expect(page.get_by_role("img", name="The wheels' angles")).to_be_visible()
        read_now(page, "Full lock")
        for which in ("inner", "outer"):
            for at in ("at ride height", "at full bump", "at full droop"):
                for i, side in enumerate(("left", "right")):
                    page.get_by_label(f"Room as the {which} wheel, {at}, {side}").fill(
                        str(12 + i - (4 if at == "at full bump" else 0))
                    )
        page.get_by_role("button", name="Take the reading").click()
        expect(page.locator(".deciding")).to_contain_text("8.0")
        self.assert_accessible(page)

    def test_a_car_that_nobody_set_up_says_what_bars_each_cure(self) -> None:
        page = self.make("Wren", Discipline="circuit", Units="n_mm")
        page.get_by_role("navigation").get_by_role("link", name="What to change").click()
        expect(page.get_by_text("Nothing asked yet.")).to_be_visible()
        page.get_by_text("Pushes, will not turn").click()
        page.get_by_text("mid-corner", exact=True).click()
        expect(page.get_by_text("None of the usual cures can be sized")).to_be_visible()
        barred = page.get_by_role("region", name="Not offered here")
        expect(barred).to_contain_text("Bar hole is not written down on this car.")
        # what was asked stands in the address: back goes to the question before
        page.go_back()
        expect(page.get_by_text("and where it does it.")).to_be_visible()
        page.go_forward()
        barred.get_by_role("link", name="Bar hole, front").click()
        expect(page.get_by_role("heading", name="Bars and balance", level=1)).to_be_visible()
