"""One's own car, made on screen alone: every number has its field, every figure gets its value."""

from __future__ import annotations

from typing import Any

from playwright.sync_api import Page, expect

from tests.support.browser import OwnCarTestCase, read_now


class OwnCar(OwnCarTestCase):
    def assert_whole(self, page: Page) -> None:
        """Every figure that applies has a value or says what to read, and every applying number its field."""
        bench, words = self.bench(page), self.words(page)
        worked = {n["name"] for n in words["numbers"] if n["kind"] == "worked"} & set(
            bench["figures"]
        )
        blank = {one for one in worked if bench["figures"][one]["values"] is None}
        self.assertGreater(len(worked - blank), 90)
        # what only this car can tell waits for its reading or setting, and says which
        self.assertEqual([one for one in blank if not bench["figures"][one]["missing"]], [])
        doors: dict[str, list[Any]] = {}
        for number in words["numbers"]:
            if number["kind"] != "worked" and (
                number["name"] in bench["figures"] or number["is_part"]
            ):
                if number["layouts"] and bench["rear_layout"] not in number["layouts"]:
                    continue
                door = number["doors"][bench["discipline"]]
                if number["on_slip"] and number["name"] not in bench["setup"]:
                    door = {"view": "data", "anchor": "new-adjuster"}  # it can be added there
                doors.setdefault(door["view"], []).append((number, door["anchor"]))
        self.assertGreater(sum(map(len, doors.values())), 80)
        for view, numbers in doors.items():
            self.go(page, view)
            self.assert_fields(page, view, numbers, words)

    def assert_fields(self, page: Page, view: str, numbers: list[Any], words: Any) -> None:
        for kind in {anchor for number, anchor in numbers if number["kind"] == "read"}:
            label = next(word["label"] for word in words["readings"] if word["id"] == kind)
            read_now(page, f"{label}")
        if view == "parts":
            for kind in {anchor for _, anchor in numbers}:
                label = next(word["label"] for word in words["parts"] if word["name"] == kind)
                page.get_by_role("button", name=f"Add {label.lower()}", exact=True).click()
        for number, anchor in numbers:
            place = words["places"][number["shape"]][0]
            with self.subTest(f"{view}: {number['name']}"):
                if anchor == "new-adjuster":
                    found = page.locator(f"#new-adjuster option[value='{number['name']}']")
                elif view == "data":
                    found = page.locator(f"[id='{number['name']}-{place}']")
                elif view == "parts":
                    found = page.locator(f"form[aria-label^='Add'] >> [id^='{anchor}-']")
                elif number["kind"] == "read":
                    found = page.locator(f"[id='{anchor}-{number['name']}-0-{place}']")
                else:
                    found = page.locator(f"[aria-label^='{number['label']}']").or_(
                        page.locator(f"a:has-text('{number['label']}')")
                    )
                self.assertGreater(found.count(), 0, "no field on screen")

    def test_a_four_link_drag_car(self) -> None:
        page = self.make(
            "Kestrel", Discipline="drag", Rear_suspension="parallel_four_link", Units="imperial"
        )
        self.assert_whole(page)

    def test_a_ladder_bar_drag_car(self) -> None:
        page = self.make(
            "Merlin", Discipline="drag", Rear_suspension="ladder_bar", Units="imperial"
        )
        self.assert_whole(page)
        self.go(page, "links")
        side = page.get_by_role("region", name="Side view", exact=True)
        squat = self.bench(page)["figures"]["anti_squat"]["values"][0]
        expect(side.get_by_role("listitem").filter(has_text="Anti-squat")).to_contain_text(
            f"{squat * 100:.0f}"
        )
        # another hole of the front bracket: the figure is drafted on the drawing
        fields = page.get_by_role("region", name="Measured on the car")
        fields.get_by_label("Ladder bar's front pivot above the ground").fill("14 in")
        fields.get_by_label("Ladder bar's front pivot above the ground").press("Enter")
        expect(side.get_by_role("listitem").filter(has_text="IC above")).to_contain_text("14")

    def test_a_torque_arm_and_leaves_are_drawn(self) -> None:
        page = self.make("Snipe", Discipline="drag", Rear_suspension="torque_arm", Units="n_mm")
        self.go(page, "links")
        side = page.get_by_role("region", name="Side view", exact=True)
        squat = self.bench(page)["figures"]["anti_squat"]["values"][0]
        expect(side.get_by_role("listitem").filter(has_text="Anti-squat")).to_contain_text(
            f"{squat * 100:.0f}"
        )
        expect(side.locator(".side-bars .bar-line")).to_have_count(2)
        self.go(page, "data")
        page.get_by_label("Rear suspension").select_option("leaf")
        self.go(page, "links")
        expect(side.get_by_text("how the leaves bend")).to_be_visible()
        expect(side.get_by_role("listitem").filter(has_text="Anti-squat")).to_contain_text(
            "not known"
        )
        self.go(page, "data")
        page.get_by_label("Rear suspension").select_option("independent")
        expect(
            page.get_by_role("navigation", name="Order of work").get_by_role(
                "link", name="Side view"
            )
        ).to_be_visible()

    def test_a_circuit_car(self) -> None:
        page = self.make("Petrel", Discipline="circuit", Units="imperial")
        self.assert_whole(page)
        self.go(page, "springs")
        route = page.get_by_role("navigation", name="Order of work")
        # nothing is read there, so it is not said to be fresh
        expect(route.get_by_role("link", name="Springs", exact=True)).to_be_visible()
        front = page.get_by_role("region", name="front springs")
        expect(front.get_by_text("Required rate")).to_be_visible()
        expect(front.locator(".asked b").first).to_be_visible()

    def test_a_circuit_car_on_leaf_springs(self) -> None:
        page = self.make("Dunlin", Discipline="circuit", Rear_suspension="leaf", Units="n_mm")
        self.assert_whole(page)
        self.go(page, "pinion")
        read_now(page, "Pinion angle")
        page.get_by_label("Pinion angle", exact=True).fill("-2.5")
        page.get_by_role("button", name="Take the reading").click()
        expect(page.get_by_text("−2.5").first).to_be_visible()
        route = page.get_by_role("navigation", name="Order of work")
        expect(route.get_by_role("link", name="Link preload")).to_be_hidden()

    def test_a_damper_from_a_pasted_sheet_fitted_and_its_dead_knob(self) -> None:
        page = self.make("Siskin", Discipline="circuit", Units="n_mm")
        self.go(page, "parts#damper")
        form = page.get_by_role("form", name="Add damper")
        form.get_by_label("Code").fill("B6")
        form.get_by_label("Clicks").nth(1).fill("12")
        form.get_by_label("Dead at click").nth(1).fill("5")
        rebound = form.get_by_role("group", name="Dyno sheet").nth(1)
        rebound.get_by_text("Paste it").click()
        sheet = "click;speed (mm/s);force (N)\n0;0;10\n0;50;480\n0;250;x\n12;0;10\n12;50;120\n12;250;400"
        rebound.get_by_label("Dyno sheet, pasted").fill(sheet)
        rebound.get_by_role("button", name="Preview").click()
        expect(rebound.get_by_text("Row 3")).to_be_visible()
        rebound.get_by_label("Dyno sheet, pasted").fill(sheet.replace(";x", ";1300"))
        rebound.get_by_role("button", name="Preview").click()
        rebound.get_by_role("button", name="Take these 6 rows").click()
        form.get_by_role("button", name="Add to inventory").click()
        expect(page.get_by_role("listitem").filter(has_text="B6")).to_contain_text(
            "dead at click 5"
        )
        self.go(page, "dampers")
        for place in ("left front", "right front", "left rear", "right rear"):
            page.get_by_label(f"Damper, {place}").select_option("B6")
        panel = page.get_by_role("complementary", name="Change slip")
        panel.get_by_role("button", name="Book revision 2").click()
        expect(panel.get_by_text("Booked as revision 2.", exact=False).first).to_be_visible()
        expect(page.get_by_text("the knob no longer turns, at click 5").first).to_be_visible()
        ratio = self.bench(page)["figures"]["rebound_ratio_low"]
        self.assertNotIn("rebound_low", ratio["estimated"])

    def test_a_fact_altered_on_the_car_and_a_job_go_by_the_slip(self) -> None:
        page = self.open(path="/cars/2/data")
        field = page.get_by_label("Bolt above the ground, upper axle")
        page.get_by_text("Links, pinion and what locates the axle").click()
        field.fill("18 1/4 in")
        field.press("Enter")
        page.get_by_role("button", name="I changed the part").click()
        panel = page.get_by_role("complementary", name="Change slip")
        expect(panel.get_by_text("Bolt above the ground, upper bar, axle bolt")).to_be_visible()
        panel.get_by_label("Other work done").select_option(
            label="Anti-roll bar fitted or its drop link changed"
        )
        expect(panel.get_by_text("Bars neutral")).to_be_visible()
        expect(panel.get_by_text("Pinion angle").first).to_be_visible()
        panel.get_by_role("button", name="Undo").click()
        expect(panel.get_by_text("Bars neutral")).to_be_hidden()
        panel.get_by_role("button", name="Book revision 5").click()
        expect(panel.get_by_text("Booked as revision 5.", exact=False).first).to_be_visible()
        page.reload()
        page.get_by_text("Links, pinion and what locates the axle").click()
        expect(field).to_have_value("18.25")
        expect(page.get_by_text("altered for revision 5").first).to_be_visible()

    def test_preload_that_vanished_is_never_fresh(self) -> None:
        page = self.open(path="/cars/2/preload")
        read_now(page, "Preload from neutral")
        page.get_by_label("Preload found").fill("0")
        page.get_by_role("button", name="Take the reading").click()
        said = page.get_by_role("alert").filter(has_text="Preload found")
        expect(said).to_contain_text("booked −1.0 flats")
        expect(page.get_by_text("a sign of damage").last).to_be_visible()
        expect(page.get_by_role("link", name="void Link preload")).to_be_visible()

    def test_a_perch_shows_what_the_pads_would_read(self) -> None:
        page = self.open(path="/cars/1/weights")
        page.get_by_label("Command line").fill("lf perch +1")
        page.keyboard.press("Enter")
        panel = page.get_by_role("complementary", name="Change slip")
        expect(panel.get_by_label("Pad, predicted")).to_be_visible()
        expect(panel.get_by_role("button", name="Cross")).to_be_visible()
        with page.expect_response("**/slip"):
            panel.get_by_role("button", name="Clear", exact=True).click()

    def test_what_was_refused_comes_back_in_hand_and_a_reload_keeps_it(self) -> None:
        page = self.make("Tern", Discipline="circuit", Units="imperial")
        self.go(page, "weights")
        page.get_by_role("button", name="Read now Pads").click()
        page.get_by_role("button", name="Understood").click()
        page.get_by_label("Pad, RF").fill("250 mm")
        page.get_by_label("Note").fill("On the flat patch")
        page.get_by_role("button", name="Take the reading").click()
        expect(page.get_by_label("Pad, LF")).to_be_focused()
        expect(page.get_by_label("Pad, LF")).to_be_in_viewport()
        expect(page.get_by_role("alert").filter(has_text="is no unit")).to_be_visible()
        page.reload()
        page.get_by_role("button", name="Read now Pads").click()
        expect(page.get_by_label("Pad, RF")).to_have_value("250 mm")
        expect(page.get_by_label("Note")).to_have_value("On the flat patch")

    def test_a_new_car_s_units_follow_its_discipline_until_they_are_chosen(self) -> None:
        page = self.open()
        page.get_by_role("button", name="New car").click()
        form = page.get_by_role("form", name="New car")
        discipline, units = form.get_by_label("Discipline"), form.get_by_label("Units")
        for chosen, begins in (("drag", "imperial"), ("circuit", "n_mm"), ("drag", "imperial")):
            discipline.select_option(chosen)
            expect(units).to_have_value(begins)
        units.select_option("kgf_mm")
        for chosen in ("circuit", "drag", "drift"):
            discipline.select_option(chosen)
            expect(units).to_have_value("kgf_mm")

    def test_a_bar_with_blades_and_the_position_they_stand_in(self) -> None:
        page = self.make("Pipit", Discipline="circuit", Units="n_mm")
        self.go(page, "parts#bar")
        form = page.get_by_role("form", name="Add anti-roll bar")
        for label, typed in {
            "Code": "B25",
            "Bar diameter": "25",
            "Bar length in torsion": "900",
            "Bar motion ratio": "0.6",
            "Blade width": "30",
            "Blade thickness": "6",
            "Blade length": "150",
        }.items():
            form.get_by_label(label).fill(typed)
        for table, values in {
            "Bar arm at each bar hole": ["200"],
            "Blade angle at each blade position": ["0", "45", "90"],
        }.items():
            group = form.get_by_role("group", name=table)
            for row, value in enumerate(values):
                group.get_by_role("textbox").nth(row).fill(value)
        form.get_by_role("button", name="Add to inventory").click()
        expect(page.get_by_role("listitem").filter(has_text="B25")).to_be_visible()
        self.go(page, "data")
        page.get_by_label("Add an adjuster").select_option(label="Blade position")
        ranged = page.locator("form").filter(has_text="Blade position")
        ranged.get_by_label("Lower end").fill("1")
        ranged.get_by_label("Upper end").fill("3")
        ranged.get_by_role("button", name="Save").click()
        expect(page.get_by_role("button", name="Remove Blade position")).to_be_visible()
        self.go(page, "bars")
        page.get_by_role("spinbutton", name="Anti-roll bar, front").press("ArrowUp")
        blade = page.get_by_role("spinbutton", name="Blade position, front")
        rate = (
            page.get_by_role("complementary", name="Change slip")
            .get_by_role("listitem")
            .filter(has_text="Bar wheel rate in roll, front")
        )
        blade.press("ArrowUp")
        expect(rate).to_be_visible()
        soft = rate.inner_text()
        blade.press("ArrowUp")
        expect(rate).not_to_have_text(soft)
        expect(rate).not_to_contain_text("missing")

    def test_left_and_right_are_split_and_joined(self) -> None:
        page = self.make("Dunlin", Discipline="circuit", Units="n_mm")
        self.go(page, "data")
        page.get_by_role("button", name="Left and right apart Unsprung mass").click()
        field = page.get_by_label("Unsprung mass, LF")
        field.fill("31")
        with page.expect_response("**/given"):
            field.press("Enter")
        expect(field).to_have_value("31")
        expect(page.get_by_label("Unsprung mass, RF")).not_to_have_value("31")
        self.assertEqual(
            self.bench(page)["given"]["unsprung_mass"]["estimated"], [False, True, True, True]
        )

    def test_an_adjuster_is_added_and_ranged_at_one_corner(self) -> None:
        page = self.open(path="/cars/3/data")
        page.get_by_label("Add an adjuster").select_option(label="Bump rubber gap")
        form = page.locator("form").filter(has_text="Bump rubber gap")
        form.get_by_label("Lower end").fill("0")
        form.get_by_label("Upper end").fill("30")
        form.get_by_role("button", name="Save").click()
        expect(page.get_by_role("button", name="Remove Bump rubber gap")).to_be_visible()
        page.get_by_role("button", name="Remove Bump rubber gap").click()
        expect(page.get_by_role("button", name="Remove Bump rubber gap")).to_be_hidden()

    def test_a_photo_is_kept_with_a_run(self) -> None:
        page = self.open("Oke", "/cars/2/logbook")
        run = page.locator("li.run").first
        photo = page.screenshot(type="jpeg")
        with page.expect_response(lambda one: one.url.endswith("/pictures")):
            run.get_by_label("Photo or clip").set_input_files(
                {"name": "bracket.jpg", "mimeType": "image/jpeg", "buffer": photo}
            )
        shown = run.get_by_role("img", name="bracket.jpg")
        expect(shown).to_be_visible()
        shown.scroll_into_view_if_needed()
        page.wait_for_function(
            "() => document.querySelector('.run-pictures img')?.naturalWidth > 0"
        )
        run.get_by_label("Photo or clip").set_input_files(
            {"name": "notes.pdf", "mimeType": "application/pdf", "buffer": b"%PDF-1.4"}
        )
        expect(run.get_by_text("This is no photo or clip")).to_be_visible()
        run.get_by_role("button", name="Remove bracket.jpg").click()
        expect(shown).to_be_hidden()

    def test_back_to_an_earlier_revision_with_every_move(self) -> None:
        page = self.open("Teo", "/cars/1/logbook")
        first = page.get_by_role("listitem").filter(
            has=page.get_by_role("heading", name="Revision 1")
        )
        first.get_by_role("button", name="Restore this setup").click()
        panel = page.get_by_role("complementary", name="Change slip")
        expect(panel.get_by_text("Bar hole, front")).to_be_visible()
        second = page.get_by_role("listitem").filter(
            has=page.get_by_role("heading", name="Revision 2")
        )
        second.get_by_role("button", name="Make it the baseline").click()
        expect(second.get_by_role("heading")).to_contain_text("baseline")
