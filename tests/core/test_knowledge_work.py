"""Orders of work, rules and cautions: what the trade says is there, and misspellings are caught."""

import unittest
from dataclasses import replace

from cabrio.core.catalog.places import GROUPS, places_of
from cabrio.core.catalog.quantities import Shape
from cabrio.core.graph.registry import numbers
from cabrio.core.knowledge import DISCIPLINES, check, knowledge
from cabrio.core.knowledge.rules import Card, Cure, Only, Shows
from cabrio.core.knowledge.work import Effort, Felt, Step, Symptom

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


class Places(unittest.TestCase):
    def test_what_stands_where(self) -> None:
        self.assertEqual(places_of("rear", Shape.CORNER), ("LR", "RR"))
        self.assertEqual(places_of("rear", Shape.AXLE), ("rear",))
        self.assertEqual(places_of("left", Shape.CORNER), ("LF", "LR"))
        self.assertEqual(places_of("cross", Shape.CORNER), ("RF", "LR"))
        self.assertEqual(places_of("all", Shape.AXLE), ("front", "rear"))
        self.assertEqual(places_of("LF", Shape.AXLE), ())
        self.assertEqual(GROUPS["front"] + GROUPS["rear"], GROUPS["all"])

    def test_an_axle_s_range_of_a_corner_s_number_is_for_both_its_corners(self) -> None:
        book = knowledge()
        rear = next(band for band in book.bands if band.number == "camber" and band.place == "rear")
        self.assertEqual(rear.places, ("LR", "RR"))
        self.assertIs(book.band("camber", rear.uses[0], "RR"), rear)
        self.assertIsNot(book.band("camber", rear.uses[0], "RF"), rear)
        nowhere = replace(rear, place="chassis end")
        with self.assertRaisesRegex(ValueError, "or no place"):
            check(replace(book, bands=(*book.bands, nowhere)))


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
            if (rule.number, rule.place) == ("perch_turns", "LR"):
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
    CURE = Cure("bar_hole", "front", "softer", "Why.", "Cost.", (Shows("lltd"),))
    CARD = Card("understeer", ("turn-in",), (CURE,))

    def refused(self, message: str, **changed: object) -> None:
        """The tables with these in the place of theirs are refused, with the row named."""
        with self.assertRaisesRegex(ValueError, message):
            check(replace(knowledge(), work=replace(WORK, **changed)))  # type: ignore[arg-type]

    def test_a_card(self) -> None:
        for wrong, message in (
            ({"symptom": "pushes"}, "card pushes: symptom names “pushes”, which is no symptom"),
            ({"phases": ("apex",)}, "card understeer: phases names “apex”"),
            ({"phases": ("hit",)}, "names hit, no phase of circuit"),
            ({"driven": ("left",)}, "driven says “left”"),
            ({"surface": "wet"}, "surface says “wet”: '' or 'poor' or 'good'"),
        ):
            with self.subTest(str(wrong)):
                card = replace(self.CARD, **wrong)  # type: ignore[arg-type]
                self.refused(message, cards=(*WORK.cards, card))

    def test_a_cure(self) -> None:
        for wrong, message in (
            (
                {"number": "wing"},
                "card understeer: cure wing, front, softer: number names “wing”, which is no setting",
            ),
            ({"number": "lltd"}, "which is no setting"),
            ({"direction": "up"}, "direction says “up”"),
            ({"place": "middle"}, "changes no place"),
            ({"number": "camber"}, "says softer of camber"),
            ({"number": "toe", "direction": "more", "place": "middle"}, "changes no place"),
            ({"school": "C"}, "school names “C”, which is no school"),
            ({"mechanism": "XX"}, "mechanism says “XX”"),
            ({"shows": (Shows("grip"),)}, "figure names “grip”, which is no felt amount"),
            ({"shows": (Shows("total_mass"),)}, "total_mass"),
            ({"only": Only("grip", above=0.0)}, "figure names “grip”, which is no number"),
            ({"needs": "wing"}, "needs names “wing”"),
            ({"because": "treads"}, "because names “treads”"),
            ({"against": "treads"}, "against names “treads”"),
        ):
            with self.subTest(str(wrong)):
                cure = replace(self.CURE, **wrong)  # type: ignore[arg-type]
                card = replace(self.CARD, cure=(cure,))
                self.refused(message, cards=(*WORK.cards, card))

    def test_only_holds_on_one_side_of_its_value(self) -> None:
        above, below = Only("lltd", above=0.5), Only("lltd", below=0.5)
        self.assertEqual([above.holds(at) for at in (0.4, 0.5, 0.6)], [False, False, True])
        self.assertEqual([below.holds(at) for at in (0.4, 0.5, 0.6)], [True, False, False])

    def test_a_step_and_a_symptom(self) -> None:
        for step, message in (
            (Step("nowhere", "Jack up", "", "plan"), "step nowhere, Jack up, .*no procedure"),
            (Step("drag_build", "", "", "pit"), "“pit”, which is no station"),
            (Step("drag_build", "", "", "plan", ("pulse",)), "which is no reading"),
            (Step("drag_build", "", "", "plan", (), ("danger",)), "which is no caution"),
        ):
            self.refused(message, steps=(step,))
        rally, none = Symptom("x", "", ("rally",)), Symptom("x", "", ("drag",))
        self.refused("symptom x: .*no discipline", symptoms=WORK.symptoms | {"x": rally})
        self.refused("has no rule", symptoms=WORK.symptoms | {"x": none})
        odd = replace(none, balance="sideways")  # type: ignore[arg-type]
        self.refused("balance says “sideways”", symptoms=WORK.symptoms | {"x": odd})

    def test_efforts_and_felt_amounts(self) -> None:
        self.refused("stands alone", views=WORK.views[:3])
        self.refused("no minutes", efforts=(*WORK.efforts, Effort("toe", 0)))
        self.refused("above zero", felts=(*WORK.felts, Felt("lltd", 0.0)))
        with self.assertRaisesRegex(ValueError, "no caution"):
            WORK.caution("danger")
