"""Advice that is right in kind: each cure at the end and on the stroke it speaks of, tried on the car in time."""

import unittest
from dataclasses import replace

import numpy as np

from cabrio.core.advise.advise import FAST, NO_MAP, advice_note, advise
from cabrio.core.advise.candidate import AdviceContext, Candidate, Question
from cabrio.core.advise.loaded import balances
from cabrio.core.arrays import Array
from cabrio.core.car import Car, Given, Line
from cabrio.core.catalog.parts import AeroMap
from cabrio.core.catalog.quantities import axle_of
from cabrio.core.graph.registry import number_named
from cabrio.core.knowledge import check, knowledge
from cabrio.core.knowledge.rules import Card, Cure
from cabrio.core.record.line_error import LineError
from cabrio.core.record.readings import Reading
from cabrio.core.sheet.build import Sheet
from cabrio.core.sheet.what_if import try_lines
from cabrio.core.simulate.trials import run_trial

from .whole_car import CIRCUIT_SETUP, DRAG_SETUP, circuit_car, drag_car, sheet


def knowing(car: Car, **facts: tuple[float, ...]) -> Car:
    return replace(car, given=car.given | {name: Given(row) for name, row in facts.items()})


MOVING = {"unsprung_cg_height": (0.31, 0.33), "roll_centre_height": (0.06, 0.25)}
GRIP = {"tyre_grip": (1.5, 1.5), "tyre_grip_loss": (0.15, 0.15), "tyre_grip_load": (3e3, 3e3)}
CIRCUIT = sheet(circuit_car(), CIRCUIT_SETUP)
DRAG = sheet(knowing(drag_car(), **MOVING), DRAG_SETUP)
GRID = tuple(
    (front, rear, 0.9 - 4 * front, 1.2 - 2 * rear, 0.8)
    for rear in (0.03, 0.09, 0.15)
    for front in (0.02, 0.08, 0.14)
)
WINGED = circuit_car().parts.with_part("aero_map", AeroMap(GRID, code="wing 2"))
MAPPED = sheet(
    knowing(circuit_car(parts=WINGED), **GRIP),
    CIRCUIT_SETUP | {"aero_map": ["wing 2"]},
)
FRONT, REAR = slice(0, 2), slice(2, 4)
EARLY = (0.3, 0.4)
"""The first tenth of a second of what is done to the car [s], while the stroke begins."""


def change_of(found: list[Candidate], number: str, end: str) -> Candidate:
    return next(
        one
        for one in found
        if one.number == number and {axle_of(line.place) for line in one.lines} == {end}
    )


def refusal_of(found: list[Candidate], number: str, words: str) -> str:
    return next(one.refused or "" for one in found if one.number == number and words in one.label)


class InTime(unittest.TestCase):
    """What a rule says of a damper, against the car driven in time with and without the change."""

    def loads(self, of: Sheet, lines: tuple[Line, ...], trial: str) -> tuple[Array, Array, Array]:
        """Load of both axles [N] and the pitch, in time."""
        after = try_lines(of, lines).as_sheet if lines else of
        drive = run_trial(after, trial, 20.0, 8.0).drive
        early = (drive.times >= EARLY[0]) & (drive.times < EARLY[1])
        loads = drive.loads[early]
        return loads[:, FRONT].sum(1), loads[:, REAR].sum(1), drive.pitch

    def both(self, of: Sheet, one: Candidate, trial: str) -> tuple[Array, Array, float, float]:
        """How much more load each axle carries early with the change [N], and the greatest pitch of both."""
        front, rear, pitch = self.loads(of, (), trial)
        front_now, rear_now, pitch_now = self.loads(of, one.lines, trial)
        return (
            (front_now - front).mean(),
            (rear_now - rear).mean(),
            float(np.abs(pitch).max()),
            float(np.abs(pitch_now).max()),
        )

    def test_less_front_rebound_keeps_the_front_loaded_and_leaves_the_rear_alone(self) -> None:
        """One text in every rule: front loaded for longer, nose higher, the rear's load hardly moved."""
        for of, asked, trial in (
            (CIRCUIT, Question("understeer", "exit"), "launch"),
            (DRAG, Question("spins_poor_surface", "hit", surface="poor"), "launch"),
        ):
            one = change_of(advise(of, asked), "rebound_clicks", "front")
            front, rear, before, after = self.both(of, one, trial)
            self.assertGreater(front, 1.0)
            self.assertLess(abs(rear), 0.05 * front)
            self.assertGreater(after, before)
        reasons = {
            rule.reason.split(".")[0]
            for rule in knowledge().work.rules
            if rule.change == "rebound_clicks front softer" and rule.symptom != "inner_front_lifts"
        }
        self.assertEqual(len(reasons), 1)

    def test_more_front_rebound_takes_its_load_off_sooner(self) -> None:
        one = change_of(advise(DRAG, Question("wheelstand", "hit")), "rebound_clicks", "front")
        front, rear, before, after = self.both(DRAG, one, "launch")
        self.assertLess(front, -1.0)
        self.assertLess(abs(rear), 0.05 * abs(front))
        self.assertLess(after, before)

    def test_more_rear_compression_brings_the_load_sooner(self) -> None:
        found = advise(CIRCUIT, Question("understeer", "exit"))
        _, rear, *_ = self.both(CIRCUIT, change_of(found, "compression_clicks", "rear"), "launch")
        self.assertGreater(rear, 0)

    def test_less_rear_rebound_keeps_the_rear_loaded_under_the_brakes(self) -> None:
        found = advise(CIRCUIT, Question("oversteer", "braking"))
        _, rear, *_ = self.both(CIRCUIT, change_of(found, "rebound_clicks", "rear"), "brake")
        self.assertGreater(rear, 0)

    def test_a_softer_front_takes_its_load_more_gently_under_the_brakes(self) -> None:
        found = advise(CIRCUIT, Question("understeer", "braking"))
        front, *_ = self.both(CIRCUIT, change_of(found, "compression_clicks", "front"), "brake")
        self.assertLess(front, 0)


class UnderLoad(unittest.TestCase):
    def test_no_cure_of_a_balance_goes_against_the_loaded_car(self) -> None:
        told = 0
        for symptom, wants in (("understeer", 1), ("oversteer", -1)):
            for phase in knowledge().disciplines["circuit"].phase_ids:
                found = [
                    one
                    for one in advise(MAPPED, Question(symptom, phase))
                    if one.refused is None
                    and number_named(one.number).system in ("bars", "springs")
                ]
                for one, moved in zip(found, balances(MAPPED, found), strict=True):
                    if moved is not None:
                        told += 1
                        self.assertGreater(wants * moved, 0, f"{symptom}, {phase}: {one.label}")
        self.assertGreater(told, 6)


class InKind(unittest.TestCase):
    def test_each_end_that_bottoms_has_its_own_cures(self) -> None:
        for symptom, end in (("bottoms", "front"), ("bottoms_rear", "rear")):
            found = advise(CIRCUIT, Question(symptom, "straight"))
            places = {axle_of(line.place) for one in found for line in one.lines}
            self.assertEqual(places, {end})

    def test_a_looser_front_is_for_a_poor_surface_alone(self) -> None:
        for surface, offered in (("poor", True), ("good", False), ("", False)):
            asked = Question("spins_poor_surface", "hit", surface=surface)  # type: ignore[arg-type]
            found = advise(DRAG, asked)
            one = next(c for c in found if c.number == "rebound_clicks" and "front" in c.label)
            self.assertEqual(one.refused is None, offered, surface)
            self.assertTrue(any(c.refused is None for c in found), surface)

    def test_its_own_passes_say_when_no_flat_is_a_cure_and_a_perch_never_is(self) -> None:
        hit = Question("drives_left", "hit")
        now = float(DRAG.setup["link_preload"][0])
        straight = AdviceContext(line_error=LineError(0.25, 0.02, now, 6))
        found = advise(DRAG, hit, straight)
        self.assertEqual([one.number for one in found], ["link_preload"])
        self.assertIn("runs straight", refusal_of(found, "link_preload", ""))
        self.assertIn("Check first: tyres as a pair", advice_note(DRAG, hit, found))

    def test_the_treads_speak_against_more_negative_camber(self) -> None:
        def hot(inner: float) -> Sheet:
            rows = {
                f"tread_{part}": [[350.0 + more] * 4]
                for part, more in (("inner", inner), ("middle", 5.0), ("outer", 0.0))
            }
            reading = Reading(9, "hot_tyres", 1, "Ada", "2026-05-02T09:00", rows)
            return sheet(circuit_car(), CIRCUIT_SETUP, also=[reading])

        asked = Question("understeer", "mid-corner")
        for of, against in ((hot(30.0), True), (hot(4.0), False), (CIRCUIT, False)):
            found = [one for one in advise(of, asked) if one.number == "camber"]
            ways = {
                np.sign(float(line.new) - float(line.old)) for one in found for line in one.lines
            }
            self.assertEqual(ways, {1.0} if against else {-1.0})
            self.assertEqual(any("past its band" in (one.refused or "") for one in found), against)
            self.assertFalse(any("hottest" in one.reason for one in found if not against))

    def test_without_a_map_nothing_is_claimed_of_rake(self) -> None:
        asked = Question("understeer", "mid-corner", corner="fast")
        bare, mapped = advise(CIRCUIT, asked), advise(MAPPED, asked)
        self.assertIn("No map of the aero is fitted", refusal_of(bare, "perch_turns", "rear"))
        self.assertTrue(all(FAST not in one.warnings for one in bare))
        self.assertTrue(any(NO_MAP in one.warnings for one in bare))
        rake = change_of(mapped, "perch_turns", "rear")
        self.assertIsNone(rake.refused)
        self.assertGreaterEqual(max(effect.felt for effect in rake.effects), 1.0)
        self.assertEqual(mapped.index(rake), 0)
        self.assertTrue(any(FAST in one.warnings for one in mapped))

    def test_a_cure_that_moves_nothing_here_is_not_offered(self) -> None:
        for of in (CIRCUIT, MAPPED, DRAG):
            phases = knowledge().disciplines[of.car.discipline].phase_ids
            for symptom in knowledge().work.symptoms_for(of.car.discipline):
                for phase in phases:
                    for one in advise(of, Question(symptom.id, phase)):
                        rule = next(r for r in knowledge().work.rules if r.reason == one.reason)
                        told = any(name in of.worked.values for name in rule.figures)
                        if one.refused is None and told:
                            self.assertTrue(one.effects, f"{symptom.id}, {phase}: {one.label}")

    def test_what_the_car_data_cannot_tell_is_not_said_to_move_nothing(self) -> None:
        given = {name: one for name, one in CIRCUIT.car.given.items() if name != "perch_pitch"}
        of = sheet(replace(CIRCUIT.car, given=given), CIRCUIT_SETUP)
        found = advise(of, Question("bottoms", "braking"))
        perch = next(one for one in found if one.number == "perch_turns")
        self.assertEqual(
            perch.refused, "Pads and heights after this: not known, it needs perch pitch."
        )

    def test_every_row_of_holes_is_searched(self) -> None:
        found = advise(DRAG, Question("squats_and_spins", "hit"))
        one = next(c for c in found if "anti-squat" in c.reason and c.refused is None)
        after = next(effect for effect in one.effects if effect.name == "anti_squat")
        self.assertGreater(after.after, after.before)
        (line,) = one.lines  # whichever row it is in: the label names that hole and no other
        self.assertTrue(one.label.startswith(number_named(line.name).label), one.label)
        last = sheet(drag_car(), DRAG_SETUP | {"upper_link_hole": [3.0]})
        held = next(
            c for c in advise(last, Question("squats_and_spins", "hit")) if "anti-squat" in c.reason
        )
        self.assertIsNone(held.refused)


class Strokes(unittest.TestCase):
    def test_a_damper_on_a_stroke_that_does_not_happen_is_no_rule(self) -> None:
        book = knowledge()
        cure = Cure("rebound_clicks", "front", "softer", "Why.", "Cost.")
        still = Card("snaps", ("deceleration zone",), (cure,))
        with self.assertRaisesRegex(ValueError, "does not happen in deceleration zone"):
            check(replace(book, work=replace(book.work, cards=(*book.work.cards, still))))
        moving = Card("skips", ("mid-drift",), (cure,))
        check(replace(book, work=replace(book.work, cards=(*book.work.cards, moving))))

    def test_every_phase_says_what_its_dampers_do(self) -> None:
        book = knowledge()
        for discipline in book.disciplines.values():
            self.assertTrue(discipline.phases, discipline.id)
            for phase in discipline.phases:
                self.assertLessEqual({*phase.front, *phase.rear}, {"c", "e"}, phase)
                if phase.steady:
                    self.assertEqual((phase.front, phase.rear), ("", ""), phase)
