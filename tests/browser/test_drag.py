"""The drag stations: holes picked on the drawing, searched and booked; square, pinion, preload, stroke."""

from __future__ import annotations

import math
from typing import Any

from playwright.sync_api import Page, expect

from tests.support.browser import OwnCarTestCase, read_now

GOOD = ("Driver aboard", "Bars free", "Pressures set", "Pads zeroed", "Settled")


class FourLink(OwnCarTestCase):
    def four_link(self, name: str) -> Page:
        return self.make(
            name, Discipline="drag", Rear_suspension="parallel_four_link", Units="imperial"
        )

    def slip(self, page: Page) -> Any:
        return page.get_by_role("complementary", name="Change slip")

    def with_bracket(
        self, page: Page, code: str, place: str, *, of: str = "", higher: float = 0.0
    ) -> None:
        """A bracket of three holes about the bolt as it was given, fitted by the slip unless it is of a
        set that is higher by some millimetres."""
        bench = self.bench(page)
        at = {"upper chassis": 0, "upper axle": 1, "lower chassis": 2, "lower axle": 3}[place]
        x, z = (bench["figures"][f"bolt_{axis}"]["values"][at] * 1000 for axis in "xz")
        self.go(page, "parts#bracket")
        form = page.get_by_role("form", name="Add link bracket")
        if not form.count():
            page.get_by_role("button", name="Add link bracket").click()
        form.get_by_label("Code").fill(code)
        if of:
            form.get_by_label("Set", exact=True).fill(of)
            form.get_by_label("Goes on").select_option(place)
        z += higher
        form.get_by_text("Paste it").click()
        rows = "\n".join(f"{x:.1f} mm;{z + up:.1f} mm" for up in (-20, 0, 20))
        form.get_by_label("Holes, pasted").fill(f"ahead;above\n{rows}")
        form.get_by_role("button", name="Preview").click()
        form.get_by_role("button", name="Take these 3 rows").click()
        form.get_by_role("button", name="Add to inventory").click()
        expect(page.get_by_role("listitem").filter(has_text=code).first).to_be_visible()
        self.go(page, "links")
        if higher:
            return
        bar, end = place.split()
        page.get_by_label(f"Link bracket, {bar} bar, {end} bolt").select_option(code)

    def test_a_bolt_is_moved_on_the_drawing_and_holes_are_searched(self) -> None:
        page = self.four_link("Merlin")
        self.go(page, "links")
        expect(page.get_by_role("img", name="The car from its side")).to_be_visible()
        expect(page.get_by_text("add its bracket, with all its holes")).to_be_visible()
        self.with_bracket(page, "UC", "upper chassis")
        command = page.get_by_label("Command line")
        command.fill("upper 2")
        command.press("Enter")
        self.slip(page).get_by_role("button", name="Book revision").click()
        expect(self.slip(page).get_by_text("Booked as revision").first).to_be_visible()
        bolt = page.get_by_role("slider", name="upper chassis hole")
        expect(bolt).to_have_attribute("aria-valuetext", "hole 2 of 3")
        bolt.press("ArrowUp")
        expect(bolt).to_have_attribute("aria-valuetext", "hole 3 of 3")
        expect(self.slip(page)).to_contain_text("Upper link hole")
        figures = page.locator(".side-figures")
        squat = figures.get_by_role("listitem").filter(has_text="Anti-squat")
        expect(squat).to_contain_text("→")
        after = self.bench(page)["slip"]["after"]["anti_squat"][0]
        expect(squat.locator(".drafted")).to_have_text(f"{after * 100:.0f}")
        # the top hole is the last
        bolt.press("ArrowUp")
        expect(bolt).to_have_attribute("aria-valuetext", "hole 3 of 3")
        self.slip(page).get_by_role("button", name="Clear", exact=True).click()
        search = page.get_by_role("region", name="Hole search")
        search.get_by_label("Anti-squat wanted").fill("lots")
        search.get_by_role("button", name="Search").click()
        expect(search).to_contain_text("is not a number")
        search.get_by_label("Anti-squat wanted").fill(f"{after * 100:.1f}")
        search.get_by_role("button", name="Search").click()
        expect(search).to_contain_text("3 combinations")
        search.get_by_role("button", name="Put on the slip").first.click()
        expect(bolt).to_have_attribute("aria-valuetext", "hole 3 of 3")
        expect(self.slip(page)).to_contain_text("Pads")  # a hole voids them
        self.assert_accessible(page)

    def test_two_sets_on_ones_own_car_and_a_plan_over_its_holes(self) -> None:
        page = self.make(
            "Whinchat", Discipline="drag", Rear_suspension="parallel_four_link", Units="n_mm"
        )
        self.with_bracket(page, "UC", "upper chassis", of="low")
        # no hole was set yet: the first press takes the lowest
        bolt = page.get_by_role("slider", name="upper chassis hole")
        expect(bolt).to_have_attribute("aria-valuetext", "not set")
        bolt.press("ArrowUp")
        expect(bolt).to_have_attribute("aria-valuetext", "hole 1 of 3")
        self.slip(page).get_by_role("button", name="Book revision").click()
        expect(self.slip(page).get_by_text("Booked as revision").first).to_be_visible()
        self.with_bracket(page, "UC high", "upper chassis", of="high", higher=25.0)
        side = page.get_by_role("region", name="Side view", exact=True)
        expect(side.get_by_text("low on the car")).to_be_visible()
        side.get_by_role("button", name="Fit high").click()
        squat = side.get_by_role("listitem").filter(has_text="Anti-squat")
        expect(squat).to_contain_text("→")
        self.slip(page).get_by_role("button", name="Clear").click()
        expect(squat).not_to_contain_text("→")
        # a plan goes through the holes, once the pinion hangs low enough for them
        page.evaluate(
            """async ([path, body]) => {
                const token = (await (await fetch('/api/session')).json()).token;
                const headers = {'Content-Type': 'application/json', 'X-CSRF-Token': token};
                const send = async (to, what) => (await fetch(to,
                    {method: 'POST', headers, body: JSON.stringify(what)})).text();
                await send('/api/session/understood', {stations: ['pinion']});
                return send(path, body);
            }""",
            [
                f"/api/cars/{self.bench(page)['id']}/readings",
                {
                    "kind": "pinion",
                    "repeats": {"pinion_angle": [["-7"]], "pinion_angle_hanging": [["-9"]]},
                    "conditions": {},
                    "confirmed": True,
                },
            ],
        )
        now = self.bench(page)["figures"]["anti_squat"]["values"][0]
        self.go(page, f"work?t=anti_squat:car:{100 * now - 12:.0f}&s=links")
        plan = page.get_by_role("listitem", name="Plan 1")
        expect(plan.get_by_text("upper link hole")).to_be_visible()
        self.go(page, "steps")
        paper = page.get_by_role("link", name="Links from the side, A4")
        answer = page.request.get(page.url.split("/cars")[0] + str(paper.get_attribute("href")))
        self.assertEqual(answer.body()[:5], b"%PDF-")

    def test_the_other_set_of_brackets_goes_on_in_one_press(self) -> None:
        page = self.open(path="/cars/2/links")
        side = page.get_by_role("region", name="Side view", exact=True)
        expect(side.get_by_text("short bars on the car")).to_be_visible()
        before = side.get_by_role("listitem").filter(has_text="IC ahead").inner_text()
        side.get_by_role("button", name="Fit long bars").click()
        slip = self.slip(page)
        expect(slip).to_contain_text("upper chassis long")
        expect(slip).to_contain_text("lower chassis long")
        expect(slip).to_contain_text("Pinion")
        ahead = side.get_by_role("listitem").filter(has_text="IC ahead")
        expect(ahead).to_contain_text("→")
        self.assertIn(before.split()[-2], ahead.inner_text())
        slip.get_by_role("button", name="Clear").click()
        expect(ahead).not_to_contain_text("→")

    def test_the_travel_moves_the_bars(self) -> None:
        page = self.open(path="/cars/2/links")
        figures = page.locator(".side-figures")
        squat = figures.get_by_role("listitem").filter(has_text="Anti-squat")
        standing = squat.inner_text()
        page.locator(".side-sheet .sweep input").press("End")
        expect(squat).not_to_have_text(standing)
        expect(page.get_by_role("slider", name="upper chassis hole")).to_be_hidden()

    def test_bolts_plotted_on_blocks_are_compared_and_saved(self) -> None:
        page = self.four_link("Hobby")
        self.go(page, "links")
        page.get_by_text("Plot the bolts on blocks").click()
        sheet = page.locator(".plot-sheet")
        sheet.get_by_label("The car stands on blocks of").fill("8")
        bolts = (("17 1/4", "22"), ("1.5", "26.5"), ("23.5", "16 1/2"), ("1.25", "15"))
        names = ("upper bar, chassis", "upper bar, axle", "lower bar, chassis", "lower bar, axle")
        for name, (ahead, above) in zip(names, bolts, strict=True):
            for side in ("left", "right"):
                sheet.get_by_label(f"{name} bolt, {side}, ahead").fill(ahead)
                sheet.get_by_label(f"{name} bolt, {side}, above the floor").fill(above)
        compare = sheet.get_by_role("button", name="Check the bolts")
        wrong = sheet.get_by_label("lower bar, chassis bolt, right, above the floor")
        wrong.fill("high")
        compare.click()
        expect(sheet).to_contain_text("is not a number")
        expect(wrong).to_have_attribute("aria-invalid", "true")
        wrong.fill("16 3/4")
        compare.click()
        expect(sheet).to_contain_text("higher on the right")
        wrong.fill("16 1/2")
        compare.click()
        expect(sheet.get_by_role("status")).to_contain_text("17.25")
        expect(sheet).not_to_contain_text("higher on the right")
        sheet.get_by_role("button", name="Save as measured").click()
        expect(sheet.get_by_role("status")).to_be_hidden()
        bench = self.bench(page)
        z = [round(one / 0.0254, 3) for one in bench["figures"]["bolt_z"]["values"]]
        self.assertEqual(z, [14.0, 18.5, 8.5, 7.0])
        self.assertNotIn("bolt_x", bench["figures"]["anti_squat"]["estimated"])

    def test_an_axle_out_of_square_says_what_to_move(self) -> None:
        page = self.four_link("Osprey")
        self.go(page, "square")
        expect(page.get_by_text("once both diagonals were read")).to_be_visible()
        read_now(page, "Axle square")
        for label, typed in {
            "Diagonal, left": "95 3/8",
            "Diagonal, right": "95 1/4",
            "Plumb point to axle": "92",
            "Between the axle points": "50",
        }.items():
            page.get_by_label(label).first.fill(typed)
        page.get_by_role("button", name="Take the reading").click()
        panel = page.get_by_role("region", name="Square")
        expect(panel).to_contain_text("The left end stands")
        bench = self.bench(page)
        behind = bench["figures"]["left_end_behind"]["values"][0] / 0.0254
        expect(panel).to_contain_text(f"{behind:.2f}"[:4])
        expect(panel).to_contain_text("Shorten the left links by")
        self.assert_accessible(page)

    def test_a_pinion_from_two_gauge_readings(self) -> None:
        page = self.four_link("Harrier")
        self.go(page, "pinion")
        read_now(page, "Pinion angle")
        page.get_by_label("Pinion", exact=True).fill("1.0")
        page.get_by_label("Shaft", exact=True).fill("-2")
        expect(page.get_by_text("Type the degrees without a sign")).to_be_visible()
        page.get_by_label("Shaft", exact=True).fill("1.5")
        expect(page.get_by_text("nose down against the shaft")).to_be_visible()
        page.get_by_role("button", name="Take this").click()
        expect(page.get_by_label("Pinion angle", exact=True)).to_have_value("-2.5°")
        page.get_by_role("button", name="Take the reading").click()
        expect(page.locator(".read-values").first).to_contain_text("−2.5")
        self.assertAlmostEqual(
            self.bench(page)["figures"]["pinion_angle"]["values"][0], -0.0436332, 5
        )
        # with a gauge connected: zeroed on the floor, it reads what is there, without a sign
        read_now(page, "Pinion angle")
        page.get_by_role("button", name="Zero on the floor").click()
        expect(page.get_by_role("button", name="Zeroed on the floor")).to_be_visible()
        figures = self.bench(page)["figures"]
        for name, figure in (("Pinion", "pinion_slope"), ("Shaft", "shaft_slope")):
            page.get_by_role("button", name=f"Read {name} from the gauge").click()
            field = page.get_by_label(name, exact=True)
            expect(field).not_to_have_value("")
            degrees = abs(math.degrees(figures[figure]["values"][0]))
            self.assertAlmostEqual(float(field.input_value()), degrees, delta=0.25)

    def test_the_dampers_stroke_is_drawn(self) -> None:
        page = self.open(path="/cars/2/heights")
        rear = page.get_by_role("img", name="rear: full bump")
        expect(rear).to_be_visible()
        self.assertIn("launch", rear.get_attribute("aria-label") or "")

    def test_both_schools_of_preload_say_how_it_is_done(self) -> None:
        page = self.open(path="/cars/2/preload")
        page.get_by_text("How it is done").click()
        scales = page.get_by_role("region", name="Live axle on four links")
        expect(scales).to_contain_text("From neutral in flats")
        hanging = page.get_by_role("region", name="Preload by flats alone, rear hanging")
        expect(hanging).to_contain_text("neutral and flats decide")
        expect(hanging.get_by_role("listitem")).to_have_count(2)
        self.assert_accessible(page)

    def read_pads(self, page: Page, left: str, right: str) -> None:
        self.go(page, "weights")
        read_now(page, "Pads")
        for place, typed in (("LF", "700"), ("RF", "690"), ("LR", left), ("RR", right)):
            page.get_by_label(f"Pad, {place}").fill(typed)
        for label in page.locator(".conditions input[type=checkbox]").all():
            label.check()
        page.get_by_role("button", name="Take the reading").click()
        expect(page.get_by_role("button", name="Take the reading")).to_be_hidden()

    def test_bite_per_flat_is_learned_and_flats_are_booked_for_a_bite(self) -> None:
        page = self.four_link("Goshawk")
        for flats, left, right in (("0", "650", "640"), ("-1", "661", "629")):
            command = page.get_by_label("Command line")
            command.fill(f"preload {flats}")
            command.press("Enter")
            self.slip(page).get_by_role("button", name="Book revision").click()
            expect(self.slip(page).get_by_text("Booked as revision").first).to_be_visible()
            self.read_pads(page, left, right)
        self.go(page, "preload")
        expect(page.get_by_text("−22 lb per flat, from 2 readings.")).to_be_visible()
        question = page.get_by_role("region", name="Flats for a rear bite")
        question.get_by_label("Rear bite, wanted").fill("200")
        question.get_by_role("button", name="Propose").click()
        expect(question).to_contain_text("beyond two flats move mass")
        question.get_by_label("Rear bite, wanted").fill("43")
        question.get_by_role("button", name="Propose").click()
        expect(question).to_contain_text("−1.5 flats")
        question.get_by_role("button", name="Put on the slip").click()
        expect(self.slip(page).get_by_label("Pad, predicted")).to_be_visible()
        self.slip(page).get_by_role("button", name="Book revision").click()
        expect(self.slip(page).get_by_text("Booked as revision").first).to_be_visible()
        self.assertEqual(self.bench(page)["setup"]["link_preload"], [-1.5])

    def test_a_time_slip_is_pasted_and_the_launch_worked_at_what_it_says(self) -> None:
        page = self.four_link("Osprey")
        self.go(page, "launch")
        passes = page.get_by_role("region", name="What the passes say")
        expect(passes).to_contain_text("No pass with a 60 ft time yet")
        passes.get_by_role("link", name="Log one").click()
        page.get_by_role("button", name="Add an event").click()
        page.get_by_label("Name").fill("Grudge night")
        page.get_by_role("button", name="Add the event").click()
        page.get_by_role("button", name="Add a session").click()
        page.get_by_label("Name").fill("First hits")
        page.get_by_role("button", name="Add the session").click()
        # the form closes and what is below moves up
        expect(page.get_by_role("button", name="Add the session")).to_have_count(0)
        page.get_by_role("button", name="Log a run").click()
        page.get_by_role("button", name="Paste a time slip").click()
        page.get_by_label("Time slip, a name").fill("lane left")
        page.get_by_role("button", name="Read it").click()
        expect(page.get_by_text("No line of it has a name that is known here")).to_be_visible()
        page.get_by_label("Time slip, a name").fill("60 ft 1,50\n330; 4.2\n1/8 6.4\nMPH 109.5")
        page.get_by_role("button", name="Read it").click()
        expect(page.get_by_label("60 ft", exact=True)).to_have_value("1,50")
        # read again by hand: a mark reached too soon is told at its field, and nothing is logged
        page.get_by_label("330 ft").fill("1.2")
        page.get_by_label("Let it out all the same").fill("First rolls of a new car.")
        page.get_by_role("button", name="Log the run").click()
        expect(page.get_by_text("330 ft cannot be reached in 1.2 s")).to_be_visible()
        page.get_by_label("330 ft").fill("4.2")
        page.get_by_label("Let it out all the same").fill("First rolls of a new car.")
        page.get_by_role("button", name="Log the run").click()
        run = page.get_by_role("listitem").filter(has_text="Run 1").last
        expect(run).to_contain_text("Mean 1.30 g over the first 60 ft")
        expect(run).to_contain_text("109.5 mph")
        self.go(page, "launch")
        passes.get_by_role("button", name="Work it at 1.30 g").click()
        expect(passes.get_by_role("button", name="Work it at")).to_be_hidden()
        given = self.bench(page)["figures"]["launch_acceleration"]["values"][0]
        self.assertAlmostEqual(given, 2 * ((18.568**0.5 - 0.28**0.5) / 1.5) ** 2)
