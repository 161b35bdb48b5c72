"""Orders of work, rules and cautions: what the trade says is there, and misspellings are caught."""

import unittest
from dataclasses import replace

from cabrio.core.graph.registry import numbers
from cabrio.core.knowledge import DISCIPLINES, knowledge
from cabrio.core.knowledge.work import Rule, Step, Symptom, check_work

WORK = knowledge().work


class Orders(unittest.TestCase):
    def position(self, procedure: str, label: str) -> int:
        return [step.label for step in WORK.steps_of(procedure)].index(label)

    def test_what_must_come_first_comes_first(self) -> None:
        for first, then in (
            ("Pressures, fuel, driver", "Ride heights"),
            ("Ride heights", "Pads"),
            ("Pads", "Springs"),
            ("Springs", "Bars"),
            ("Dampers", "Cross on the perches"),
            ("Cross on the perches", "Alignment"),
            ("Alignment", "Bars back, no load"),
            ("Rubber pivots, loaded", "Bolt check"),
        ):
            before = self.position("circuit_build", first)
            self.assertLess(before, self.position("circuit_build", then), f"{first}, {then}")
        for first, then in (
            ("Damper length, then ride height", "Plot the links"),
            ("Pinion and square again", "Pads"),
            ("Pads", "Link preload, last"),
            ("Link preload, last", "Alignment"),
        ):
            before = self.position("drag_build", first)
            self.assertLess(before, self.position("drag_build", then), f"{first}, {then}")

    def test_every_discipline_has_an_order_that_ends_with_the_bolts_and_a_run(self) -> None:
        for discipline in DISCIPLINES:
            orders = [p for p in WORK.procedures if discipline in p.disciplines and not p.school]
            self.assertEqual(len(orders), 1, discipline)
            *_, bolts, run = WORK.steps_of(orders[0].id)
            self.assertIn("bolts", bolts.readings)
            self.assertIn("first_run", run.cautions)

    def test_every_reading_is_taken_somewhere_in_the_order(self) -> None:
        for procedure, discipline, layout in (
            ("circuit_build", "circuit", "independent"),
            ("drag_build", "drag", "parallel_four_link"),
        ):
            taken = {kind for step in WORK.steps_of(procedure) for kind in step.readings}
            wanted = {kind.id for kind in knowledge().readings_for(discipline, layout)}
            missing = wanted - taken
            missing = {kind for kind in missing if not knowledge().readings[kind].when_needed}
            self.assertLessEqual(
                missing, {"clicks", "pressures", "droop", "clearance", "loaded_torque"}, procedure
            )
        self.assertTrue(any(p.school for p in WORK.procedures), "the other school is there")

    def test_work_under_the_car_is_on_stands(self) -> None:
        for step in WORK.steps:
            if step.station in ("links", "heights"):
                self.assertTrue({"stands", "damage"} & set(step.cautions), step.label)
            if step.station == "weights":
                self.assertIn("chocks", step.cautions)

    def test_every_caution_is_said_at_some_step_and_short(self) -> None:
        said = {name for step in WORK.steps for name in step.cautions}
        said |= {name for station in knowledge().stations for name in station.cautions}
        self.assertEqual(set(WORK.cautions) - said, {"model"})  # that one stands under every figure
        for caution in WORK.cautions.values():
            self.assertLess(len(caution.text), 180, caution.id)


class Rules(unittest.TestCase):
    def test_every_symptom_can_be_answered_in_each_phase_it_is_said_of(self) -> None:
        for symptom in WORK.symptoms.values():
            rules = WORK.rules_by_symptom[symptom.id]
            self.assertTrue(rules, symptom.id)
            for rule in rules:
                self.assertTrue(rule.reason.endswith(".") and rule.costs.endswith("."), rule.change)

    def test_both_schools_answer_the_balance(self) -> None:
        for symptom in ("understeer", "oversteer"):
            schools = {rule.school for rule in WORK.rules_by_symptom[symptom]}
            self.assertEqual(schools, {"A", "B"})

    def test_left_and_right_go_together(self) -> None:
        for rule in WORK.rules:
            if "perch_turns LR" in rule.change:
                continue  # the one rule that is about one corner
            sides = {place[0] for place in rule.places if place in ("LF", "RF", "LR", "RR")}
            self.assertIn(sides, (set(), {"L", "R"}), rule.change)

    def test_quick_tools_are_quicker(self) -> None:
        effort = WORK.effort
        order = [
            "compression_clicks",
            "tyre_pressure",
            "bar_hole",
            "perch_turns",
            "camber",
            "spring",
        ]
        minutes = [effort[name] for name in order]
        self.assertEqual(minutes, sorted(minutes))
        self.assertEqual(
            set(effort), {n.name for n in numbers().values() if n.on_slip or (n.is_fact and n.step)}
        )


class Misspelt(unittest.TestCase):
    RULE = Rule("understeer", ("turn-in",), "bar_hole front softer", ("lltd",), "Why.", "Cost.")

    def refused(self, message: str, **changed: object) -> None:
        with self.assertRaisesRegex(ValueError, message):
            book = knowledge()
            check_work(
                replace(WORK, **changed),
                book.disciplines,
                set(book.stations_by_id),
                set(book.readings),
            )  # type: ignore[arg-type]

    def test_a_rule(self) -> None:
        for wrong, message in (
            ({"symptom": "pushes"}, "names pushes"),
            ({"phases": ("apex",)}, "names apex"),
            ({"change": "wing front more"}, "wing"),
            ({"change": "bar_hole front up"}, "names up"),
            ({"change": "bar_hole middle softer"}, "changes no place"),
            ({"change": "camber front softer"}, "says softer of camber"),
            ({"change": "toe middle more"}, "changes no place"),
            ({"school": "C"}, "names C"),
            ({"shows": ("grip",)}, "names grip"),
            ({"shows": ("total_mass",)}, "total_mass"),
        ):
            with self.subTest(str(wrong)):
                rule = replace(self.RULE, **wrong)  # type: ignore[arg-type]
                self.refused(message, rules=(*WORK.rules, rule))

    def test_a_step_and_a_symptom(self) -> None:
        for step in (
            Step("nowhere", "", "", "plan"),
            Step("drag_build", "", "", "pit"),
            Step("drag_build", "", "", "plan", ("pulse",)),
            Step("drag_build", "", "", "plan", (), ("danger",)),
        ):
            self.refused("which is not known", steps=(step,))
        self.refused(
            "which is not known", symptoms=WORK.symptoms | {"x": Symptom("x", "", ("rally",))}
        )
        self.refused("has no rule", symptoms=WORK.symptoms | {"x": Symptom("x", "", ("drag",))})

    def test_efforts_and_felt_amounts(self) -> None:
        self.refused("stands alone", views=WORK.views[:3])
        self.refused("no minutes", effort=WORK.effort | {"toe": 0})
        self.refused("above zero", felt=WORK.felt | {"lltd": 0.0})
        with self.assertRaisesRegex(ValueError, "no caution"):
            WORK.caution("danger")
