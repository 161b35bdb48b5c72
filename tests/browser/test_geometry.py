"""Suspension points on a car made on screen: typed, pasted, refused, fitted, moved through and drafted."""

from __future__ import annotations

from playwright.sync_api import Locator, Page, expect

from tests.support.browser import OwnCarTestCase

CLUBMAN = """Point;Ahead of the axle (mm);Out from the centre (mm);Above the ground (mm)
Wheel centre;0;740,6;276,2
Upper arm, front pivot;129.1;412.3;375.9
Upper arm, rear pivot;-188.2;418.1;377.8
Upper ball joint;-6.7;615.9;416.8
lower_front;157.6;277.2;121.1
lower_rear;-163.1;279.3;130.3
lower_ball;9.4;664.3;116.0
tie_rod_inner;-73.9;301.4;172.0
tie_rod_outer;-90.3;650.2;175.9
spring_moving;6.0;557.5;138.7
spring_chassis;-15.4;422.4;536.7
"""

WATT = """Point;Ahead of the axle (in);Left of the centre (in);Above the ground (in)
Wheel centre;0;28 15/16;12 5/8
upper_chassis;17.6;-2.2;20.3
upper_axle;1.4;-2.2;19.7
lower_chassis;21.3;16.4;8.5
lower_axle;0.4;19.6;7.9
watt_pivot;-5.1;0.2;12.2
watt_crank_upper;-5.1;0.2;14.9
watt_crank_lower;-5.1;0.2;9.5
watt_end_upper;-5.1;17.8;14.9
watt_end_lower;-5.1;-17.4;9.5
spring_chassis;2.9;15.8;26.2
spring_axle;2.4;18.2;11.3
"""
RIGHT = """right_wheel_centre;0;-28 15/16;12 5/8
right_lower_chassis;21.3;-16.4;9.3
right_lower_axle;0.4;-19.6;7.9
right_spring_chassis;2.9;-15.8;26.2
right_spring_axle;2.4;-17.4;11.3
"""


class Geometry(OwnCarTestCase):
    def begin(self, page: Page, kind: str, words: str, code: str, sheet: str) -> Locator:
        """The form of a new sheet of points, its table pasted."""
        self.go(page, f"parts#{kind}")
        if not page.get_by_role("form", name=words).count():
            page.get_by_role("button", name=words).click()
        form = page.get_by_role("form", name=words)
        form.get_by_label("Code").fill(code)
        form.get_by_text("Paste it").click()
        form.get_by_label("Points, pasted").fill(sheet)
        form.get_by_role("button", name="Preview").click()
        rows = len(sheet.splitlines()) - 1
        form.get_by_role("button", name=f"Take these {rows} rows").click()
        return form

    def add_points(self, page: Page, code: str, sheet: str) -> None:
        form = self.begin(page, "points", "Add suspension points", code, sheet)
        form.get_by_label("Camber when measured").fill("-2.9")
        form.get_by_label("Spring", exact=True).select_option("lower_arm")
        form.get_by_label("Thread of a link per turn").fill("1.25")
        form.get_by_role("button", name="Add to inventory").click()

    def test_points_pasted_fitted_moved_through_and_drafted(self) -> None:
        page = self.make("Avocet", Discipline="circuit", Units="n_mm")
        self.add_points(page, "front A", CLUBMAN)
        expect(page.get_by_role("listitem").filter(has_text="front A")).to_contain_text("shelf")
        self.go(page, "alignment")
        for place in ("left front", "right front"):
            page.get_by_label(f"Suspension points, {place}").select_option("front A")
        panel = page.get_by_role("complementary", name="Change slip")
        # measured, not moved: nothing has to be read again for it
        expect(panel.get_by_text("Suspension points, both front")).to_be_visible()
        expect(panel.locator(".rechecks")).to_be_hidden()
        panel.get_by_role("button", name="Book revision").click()
        expect(page.get_by_role("img", name="The front axle from behind")).to_be_visible()
        figures = page.locator(".geometry-here")
        expect(figures.get_by_role("row", name="Roll centre height")).to_contain_text("77.3")
        expect(figures.get_by_role("row", name="Spring ratio")).to_contain_text("0.652")
        slider = page.locator(".sweep input")
        slider.press("End")
        expect(figures.get_by_role("row", name="Camber")).not_to_contain_text("−2.90")
        turn = page.get_by_role("row", name="Tie rod or toe link longer by one turn")
        expect(turn).to_contain_text("−")
        page.get_by_text("Steering", exact=True).click()
        expect(figures.get_by_role("row", name="Ackermann")).to_be_visible()
        # the worked ratio stands in the place of the typical one, and says so
        self.go(page, "data")
        expect(page.locator("[id='motion_ratio-LF']")).to_contain_text(
            "worked from the suspension points: 0.652"
        )
        expect(page.locator("[id='roll_centre_height-front']")).to_contain_text("77.5")
        # another sheet of points on the slip: both are drawn, and the alignment has to be read again
        self.add_points(page, "front B", CLUBMAN.replace("412.3;375.9", "412.3;385.9"))
        self.go(page, "alignment")
        page.get_by_label("Suspension points, left front").select_option("front B")
        expect(page.locator(".axle-view .is-drafted").first).to_be_visible()
        expect(panel.locator(".rechecks")).to_contain_text("Alignment")
        self.assert_accessible(page)

    def test_what_cannot_be_is_said_at_its_point(self) -> None:
        page = self.make("Redshank", Discipline="circuit", Units="n_mm")
        self.add_points(page, "bad", CLUBMAN.replace("9.4;664.3;116.0", "157.6;277.2;121.1"))
        form = page.get_by_role("form", name="Add suspension points")
        expect(form.get_by_role("alert").first).to_contain_text("in one place")
        expect(
            form.get_by_label("Ahead of the axle, Lower arm, front pivot", exact=True)
        ).to_have_attribute("aria-invalid", "true")
        form.get_by_label("Ahead of the axle, Wheel centre", exact=True).fill("")
        form.get_by_role("button", name="Add to inventory").click()
        expect(form.get_by_role("alert").first).to_contain_text("Wheel centre")

    def test_a_live_axle_on_its_bars_is_moved_too(self) -> None:
        page = self.make(
            "Curlew", Discipline="drag", Rear_suspension="triangulated_four_link", Units="imperial"
        )
        self.go(page, "links")
        expect(page.get_by_role("img", name="The rear axle from the left")).to_be_visible()
        figures = page.locator(".geometry-here")
        squat = figures.get_by_role("row", name="Anti-squat")
        standing = squat.inner_text()
        page.locator(".geometry-moved .sweep input").press("End")
        expect(squat).not_to_have_text(standing)
        page.locator("label").filter(has_text="From behind").click()
        page.locator("label").filter(has_text="Roll").click()
        expect(figures.get_by_role("row", name="Axle steers")).to_be_visible()
        expect(page.get_by_role("img", name="The rear axle from behind")).to_be_visible()
        self.assert_accessible(page)

    def test_a_watts_link_and_splayed_links_from_their_points(self) -> None:
        page = self.make(
            "Dunlin", Discipline="circuit", Rear_suspension="three_link", Units="imperial"
        )
        self.go(page, "links")
        page.get_by_role("link", name="type or paste its points").click()
        form = self.begin(page, "live_axle_points", "Add live axle points", "rear A", WATT)
        form.get_by_label("Held sideways by").select_option("watt_on_axle")
        form.get_by_label("Springs", exact=True).select_option("measured")
        form.get_by_role("button", name="Add to inventory").click()
        self.go(page, "links")
        choice = page.get_by_label("Live axle points")
        choice.select_option("rear A")
        panel = page.get_by_role("complementary", name="Change slip")
        # four links are not what this car has: said at the slip, and the sheet stays to be mended
        expect(panel).to_contain_text("the points are of four links")
        self.go(page, "parts#live_axle_points")
        page.get_by_role("button", name="Edit rear A").click()
        form = page.get_by_role("form", name="Edit rear A")
        form.get_by_label("Links", exact=True).select_option("three_link")
        form.get_by_role("button", name="Save").click()
        self.go(page, "links")
        page.get_by_label("Live axle points").select_option("rear A")
        panel.get_by_role("button", name="Book revision").click()
        figures = page.locator(".geometry-here")
        expect(figures.get_by_role("row", name="Spring ratio")).to_contain_text("0.9")
        self.the_right_side_is_measured_too(page)
        panel.get_by_role("button", name="Book revision").click()
        page.locator("label").filter(has_text="From behind").click()
        page.locator("label").filter(has_text="Roll").click()
        expect(figures.get_by_role("row", name="Spring ratio in roll")).to_be_visible()
        expect(page.locator(".stick-watt_crank").first).to_be_visible()
        self.assert_accessible(page)
        self.go(page, "data")
        expect(page.locator("[id='spring_base-rear']")).to_contain_text(
            "worked from the suspension points: 3"
        )

    def the_right_side_is_measured_too(self, page: Page) -> None:
        """Its own sheet, with a bracket 0.8 in higher than on the left, on the slip."""
        form = self.begin(page, "live_axle_points", "Add live axle points", "rear B", WATT + RIGHT)
        form.get_by_label("Held sideways by").select_option("watt_on_axle")
        form.get_by_label("Springs", exact=True).select_option("measured")
        form.get_by_label("Links", exact=True).select_option("three_link")
        expect(form.get_by_role("row", name="Right wheel centre")).to_have_count(0)
        form.get_by_label("Right side", exact=True).select_option("measured")
        # the single upper link of a three-link has no right one
        expect(form.get_by_role("row", name="Right upper link, axle end")).to_have_count(0)
        end = form.get_by_label("Left of the centre, Right wheel centre")
        end.fill("28 15/16")
        form.get_by_role("button", name="Add to inventory").click()
        expect(form).to_contain_text("enter it with −")
        end.fill("-28 15/16")
        form.get_by_role("button", name="Add to inventory").click()
        self.go(page, "links")
        page.get_by_label("Live axle points").select_option("rear B")
        cells = page.locator(".geometry-here").get_by_role("row", name="Spring ratio").locator("td")
        expect(cells.last).to_contain_text("→")
        expect(cells.first).not_to_contain_text("→")
