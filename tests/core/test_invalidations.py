"""The recheck table, row by row, as the trade holds it: change → (doubtful, void)."""

import unittest

from cabrio.core.car import Car, Line
from cabrio.core.errors import UnknownName
from cabrio.core.graph.registry import numbers
from cabrio.core.knowledge import knowledge
from cabrio.core.record.recheck import rechecks
from cabrio.core.record.standing import invalidated_by

CARS = {
    "circuit": Car("", "", "circuit", ""),
    "drift": Car("", "", "drift", ""),
    "drag": Car("", "", "drag", "", rear_layout="parallel_four_link"),
}
STANDS = {"droop", "alignment", "bar_neutral"}
SLIPS = (
    ("spring", "circuit", {"pads", *STANDS}, {"heights", "bolts"}),
    ("perch_turns", "circuit", STANDS, {"heights", "pads", "bolts"}),
    ("bar_hole", "drift", set(), {"bar_neutral", "bolts"}),
    ("rebound_clicks", "drift", {"clicks"}, set()),
    ("compression_clicks", "drag", {"clicks"}, set()),
    ("tyre_pressure", "circuit", {"heights", "pads"}, {"pressures"}),
    ("camber", "circuit", set(), {"alignment", "bolts"}),
    ("caster", "drift", set(), {"alignment", "full_lock", "bolts"}),
    ("toe", "drift", set(), {"alignment", "full_lock", "bolts"}),
    ("rubber_gap", "circuit", set(), {"clearance", "bolts"}),
    ("spring", "drag", {"pads", "pinion", *STANDS}, {"heights", "bolts"}),
    ("front_limiter", "drag", set(), {"droop", "bolts"}),
    ("link_preload", "drag", {"bar_neutral"}, {"pads", "preload", "bolts"}),
    ("upper_link_hole", "drag", {"square"}, {"pads", "pinion", "preload", "bolts"}),
    ("lower_axle_hole", "drag", {"square"}, {"pads", "pinion", "preload", "bolts"}),
)
JOBS = (
    ("damper_length", "drag", {"pads", "pinion"}, {"heights", "droop", "alignment", "bolts"}),
    ("tyre_changed", "circuit", {"pads"}, {"heights", "alignment", "clearance", "pressures"}),
    ("mass_moved", "drift", {"heights"}, {"pads"}),
    ("bar_length", "drag", set(), {"square", "pinion", "preload", "bolts"}),
    ("axle_moved", "drag", set(), {"square", "clearance", "bolts"}),
    ("drop_link", "circuit", {"pads"}, {"bar_neutral", "bolts"}),
    ("front_end_loosened", "circuit", set(), {"alignment", "bolts"}),
    ("upright_height", "circuit", set(), {"droop", "bolts"}),
    ("pivot_loosened", "circuit", set(), {"loaded_torque", "bolts"}),
    ("damper_changed", "drift", set(), {"clicks", "bolts"}),
    ("rubber_changed", "circuit", set(), {"clearance", "bolts"}),
    ("bolted", "drag", set(), {"bolts"}),
)


class UpsetTable(unittest.TestCase):
    def test_every_number_on_a_slip(self) -> None:
        for name, discipline, doubtful, void in SLIPS:
            with self.subTest(f"{name}, {discipline}"):
                found = rechecks([Line(name, "x", 0, 1)], CARS[discipline])
                self.assertEqual({r.kind for r in found if r.verdict == "doubtful"}, doubtful)
                self.assertEqual({r.kind for r in found if r.verdict == "void"}, void)
                self.assertTrue(all(r.why and r.how and r.minutes > 0 for r in found))

    def test_every_job_that_is_no_number(self) -> None:
        for job, discipline, doubtful, void in JOBS:
            with self.subTest(f"{job}, {discipline}"):
                found = rechecks([], CARS[discipline], [job])
                self.assertEqual({r.kind for r in found if r.verdict == "doubtful"}, doubtful)
                self.assertEqual({r.kind for r in found if r.verdict == "void"}, void)
        self.assertEqual({job for job, *_ in JOBS}, set(knowledge().work.jobs))

    def test_a_live_axle_is_rechecked_whatever_the_car_is_for(self) -> None:
        leaves = Car("", "", "circuit", "", rear_layout="leaf")
        found = {recheck.kind for recheck in rechecks([], leaves, ["axle_moved"])}
        self.assertEqual(found, {"square", "clearance", "bolts"})
        found = {recheck.kind for recheck in rechecks([], CARS["circuit"], ["axle_moved"])}
        self.assertEqual(found, {"clearance", "bolts"})

    def test_the_worst_of_several_reasons_is_told(self) -> None:
        lines = [Line(name, "x", 0, 1) for name in ("tyre_pressure", "perch_turns", "spring")]
        tried = 0
        for kind, rules in invalidated_by(lines, []).items():
            told = [one for one in rechecks(lines, CARS["circuit"]) if one.kind == kind]
            if told and len({rule.why for rule in rules}) > 1:
                tried += 1
                verdicts = {rule.verdict for rule in rules}
                worst = "void" if "void" in verdicts else "doubtful"
                self.assertEqual((told[0].verdict, told[0].why), (worst, rules[0].why))
        self.assertGreater(tried, 1)

    def test_a_job_nobody_knows_is_refused(self) -> None:
        with self.assertRaisesRegex(UnknownName, "no job called “repaint”"):
            rechecks([], CARS["circuit"], ["repaint"])

    def test_no_change_on_the_slip_goes_without_a_recheck(self) -> None:
        upset = {name for rule in knowledge().upsets for name in rule.changed}
        upset |= {name for name in knowledge().work_of if numbers()[name].on_slip}
        on_slip = {n.name for n in numbers().values() if n.on_slip}
        self.assertEqual(upset, on_slip | set(knowledge().work.jobs))
        facts = {n.name for n in numbers().values() if n.is_fact}
        self.assertLessEqual(
            facts, set(knowledge().work_of), "a fact altered upsets what its job does"
        )
