"""The standing car: what must be kept whatever is changed, and a slow second way to the same rest."""

import unittest
from dataclasses import replace
from typing import Any

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.optimize import minimize

from cabrio.core.errors import Impossible, OutOfRange
from cabrio.core.solve.ballast import Place, mass_for
from cabrio.core.solve.turns import cross_of, turns_for_cross, turns_restoring_heights
from cabrio.core.statics import Change, StandingCar, predict
from cabrio.core.statics.equilibrium import energy, solve

G = 9.80665
CAR = StandingCar(
    wheelbase=2.5,
    tracks=np.array([1.5, 1.6]),
    pads=np.array([290.0, 260.0, 240.0, 230.0]),
    unsprung=np.array([32.0, 34.0, 40.0, 38.0]),
    spring_rates=np.array([60e3, 66e3, 58e3, 50e3]),
    motion_ratios=np.array([0.8, 0.75, 0.9, 0.85]),
    tyre_rates=np.array([210e3, 220e3, 240e3, 230e3]),
    spring_bases=np.array([1.5, 1.1]),
    bar_rates=np.array([20e3, 12e3]),
)


def between(low: float, high: float, count: int = 4) -> Any:
    return st.lists(st.floats(low, high), min_size=count, max_size=count).map(np.array)


CHANGES = st.builds(
    Change,
    perch_shifts=between(-0.004, 0.004),
    spring_rates=between(45e3, 75e3),
    spring_free_length_changes=between(-0.003, 0.003),
    tyre_rates=between(190e3, 250e3),
    tyre_radius_changes=between(-0.003, 0.003),
    bar_wheel_shifts=between(-0.004, 0.004, 2),
    ballast=st.lists(
        st.tuples(st.floats(0, 30), st.floats(0, 3), st.floats(-0.7, 0.7)), max_size=2
    ).map(tuple),
)
BIG = settings(max_examples=60)


class Kept(unittest.TestCase):
    @BIG
    @given(CHANGES, st.booleans())
    def test_weight_and_both_moments(self, change: Change, connected: bool) -> None:
        connected = connected or bool(np.any(change.bar_wheel_shifts))  # else it is refused
        stood = solve(replace(CAR, bars_connected=connected), change)
        before = np.append(CAR.pads, [mass for mass, _, _ in change.ballast])
        spots = np.array([*CAR.places, *((1.0, x, y) for _, x, y in change.ballast)])
        np.testing.assert_allclose(stood.pads @ CAR.places, before @ spots, rtol=1e-9, atol=1e-9)

    @BIG
    @given(between(-0.005, 0.005))
    def test_a_turn_and_its_way_back(self, shifts: Any) -> None:
        there = solve(CAR, Change(perch_shifts=shifts))
        back = solve(replace(CAR, pads=there.pads), Change(perch_shifts=-shifts))
        np.testing.assert_allclose(back.pads, CAR.pads, atol=1e-9)
        np.testing.assert_allclose(back.ride_height_changes, -there.ride_height_changes, atol=1e-12)

    @BIG
    @given(between(-0.004, 0.004), between(-0.004, 0.004), st.floats(-2, 2))
    def test_changes_add_up(self, one: Any, other: Any, scale: float) -> None:
        def gain(shifts: Any) -> Any:
            return solve(CAR, Change(perch_shifts=shifts)).pads - CAR.pads

        np.testing.assert_allclose(
            gain(one + scale * other), gain(one) + scale * gain(other), atol=1e-8
        )

    @BIG
    @given(st.floats(-0.004, 0.004), st.floats(-0.004, 0.004), st.booleans())
    def test_a_symmetric_car_stays_symmetric(self, front: float, rear: float, bars: bool) -> None:
        even = replace(
            CAR,
            pads=np.array([270.0, 270.0, 230.0, 230.0]),
            unsprung=np.array([30.0] * 4),
            spring_rates=np.array([60e3, 60e3, 50e3, 50e3]),
            motion_ratios=np.array([0.8] * 4),
            tyre_rates=np.array([2e5] * 4),
            bars_connected=bars,
        )
        stood = solve(even, Change(perch_shifts=np.array([front, front, rear, rear])))
        np.testing.assert_allclose(stood.pads[0::2], stood.pads[1::2])
        # turned on one diagonal and its mirror image: the pads mirror too
        one = solve(even, Change(perch_shifts=np.array([front, 0, 0, rear]))).pads
        other = solve(even, Change(perch_shifts=np.array([0, front, rear, 0]))).pads
        np.testing.assert_allclose(one, other[[1, 0, 3, 2]])

    def test_many_at_once_are_the_same_as_one_by_one(self) -> None:
        shifts = np.random.default_rng(1).uniform(-0.004, 0.004, (20, 4))
        together = solve(CAR, Change(perch_shifts=shifts))
        for i, row in enumerate(shifts):
            alone = solve(CAR, Change(perch_shifts=row))
            np.testing.assert_allclose(together.pads[i], alone.pads)
            np.testing.assert_allclose(together.ride_height_changes[i], alone.ride_height_changes)


class SecondWay(unittest.TestCase):
    """The least potential energy, found by a general minimiser that knows nothing of the matrix."""

    def least(self, car: StandingCar, change: Change) -> Any:
        size = np.array([1e-2, 1e-2, 1e-2, *[1e-2] * 4])
        found = minimize(
            lambda u: energy(car, change, u * size),
            np.zeros(7),
            method="BFGS",
            options={"gtol": 1e-6},
        )
        return found.x * size

    def test_the_minimum_is_where_the_matrix_says(self) -> None:
        changes = (
            Change(),
            Change(perch_shifts=np.array([0.004, -0.002, 0.0, 0.003])),
            Change(ballast=((25.0, 2.2, 0.4),)),
            Change(
                spring_rates=np.array([70e3, 60e3, 50e3, 55e3]),
                spring_free_length_changes=np.array([0.0, 0.004, 0.0, -0.002]),
            ),
            Change(bar_wheel_shifts=np.array([0.003, -0.002])),
            Change(
                tyre_radius_changes=np.array([0.003, 0.0, -0.002, 0.0]),
                tyre_rates=np.array([200e3, 220e3, 250e3, 230e3]),
            ),
        )
        for connected in (True, False):
            for change in changes:
                if not connected and np.any(change.bar_wheel_shifts):
                    continue  # refused
                with self.subTest(f"{connected} {change}"):
                    car = replace(CAR, bars_connected=connected)
                    rest, stood = self.least(car, change), solve(car, change)
                    np.testing.assert_allclose(
                        CAR.places @ rest[:3], stood.ride_height_changes, atol=2e-6
                    )
                    np.testing.assert_allclose(rest[3:], stood.wheel_height_changes, atol=2e-6)


class Refused(unittest.TestCase):
    def test_a_wheel_that_lifts(self) -> None:
        with self.assertRaisesRegex(Impossible, "lift the wheel off its pad"):
            predict(CAR, Change(perch_shifts=np.array([0.2, 0, 0, 0.2])))

    def test_a_coil_that_would_pull_on_a_beam_axle(self) -> None:
        """Pads that stand, on springs so near together that one of them would have to pull."""
        near = replace(CAR, spring_bases=np.array([CAR.spring_bases[0], 0.3]))
        lean = np.array([0.0, 0.0, 0.03, -0.03])
        with self.assertRaisesRegex(Impossible, "pull on the axle"):
            predict(replace(near, pads=near.pads + np.array([0.0, 0.0, 90.0, -90.0])), Change())
        wide = replace(near, spring_bases=CAR.spring_bases)
        self.assertTrue((predict(wide, Change(perch_shifts=lean * 0.1)).pads > 0).all())

    def test_what_cannot_be(self) -> None:
        for name, value in (
            ("tyre_rates", [0.0] * 4),
            ("motion_ratios", [-1.0] * 4),
            ("tracks", [0.0, 1.5]),
            ("pads", [-1.0, 1, 1, 1]),
            ("spring_rates", [np.nan] * 4),
            ("unsprung", [400.0] * 4),
        ):
            with self.subTest(name), self.assertRaises(OutOfRange) as caught:
                replace(CAR, **{name: np.array(value)})
            self.assertTrue(caught.exception.number and caught.exception.allowed)
        with self.assertRaisesRegex(OutOfRange, "spring rate"):
            solve(CAR, Change(spring_rates=np.zeros(4)))
        with self.assertRaisesRegex(OutOfRange, "tyre rate"):
            solve(CAR, Change(tyre_rates=np.zeros(4)))


class TurnsForCross(unittest.TestCase):
    PITCH = np.full(4, 0.002)

    @settings(max_examples=30)
    @given(st.floats(0.47, 0.53), st.sampled_from([0.25, 1 / 6, 0.5]))
    def test_the_exact_turns_reach_it_and_move_the_body_nowhere(
        self, target: float, step: float
    ) -> None:
        found = turns_for_cross(CAR, target, self.PITCH, step)
        self.assertAlmostEqual(found.exact.cross, target, places=12)
        np.testing.assert_allclose(found.exact.standing.ride_height_changes, 0, atol=1e-15)
        self.assertAlmostEqual(float(found.exact.standing.pads.sum()), float(CAR.pads.sum()))
        off = abs(found.best.cross - target)
        self.assertLessEqual(off, abs(found.nearest.cross - target) + 1e-12)
        steps = found.best.turns / step
        np.testing.assert_allclose(steps, np.round(steps), atol=1e-9)
        self.assertLessEqual(np.abs(found.best.turns - found.exact.turns).max(), step + 1e-9)

    def test_heights_come_back_after_ballast_and_the_load_stays(self) -> None:
        ballast = ((30.0, 2.3, 0.3),)
        bare = predict(replace(CAR, bars_connected=False), Change(ballast=ballast))
        self.assertLess(bare.ride_height_changes.min(), -1e-3)
        found = turns_restoring_heights(CAR, ballast, self.PITCH)
        np.testing.assert_allclose(found.standing.ride_height_changes, 0, atol=1e-12)
        np.testing.assert_allclose(found.standing.pads, bare.pads)
        self.assertGreater(found.turns[2], found.turns[1])
        with self.assertRaises(OutOfRange):
            turns_restoring_heights(CAR, ballast, np.zeros(4))

    def test_nothing_to_do(self) -> None:
        found = turns_for_cross(CAR, cross_of(CAR.pads), self.PITCH, 0.25)
        np.testing.assert_allclose(found.best.turns, 0, atol=1e-9)

    def test_thread_that_is_used_up_is_said(self) -> None:
        left = (np.full(4, -0.25), np.full(4, 0.25))
        found = turns_for_cross(CAR, 0.53, self.PITCH, 0.25, left)
        self.assertTrue(found.notes and "thread" in found.notes[0])
        self.assertEqual(turns_for_cross(CAR, 0.53, self.PITCH, 0.25).notes, ())

    def test_refusals(self) -> None:
        for target, step in ((1.2, 0.25), (0.5, 0.0)):
            with self.assertRaises(OutOfRange):
                turns_for_cross(CAR, target, self.PITCH, step)
        with self.assertRaisesRegex(Impossible, "off its pad"):
            turns_for_cross(CAR, 0.99, self.PITCH, 0.25)


class Ballast(unittest.TestCase):
    NOSE = Place("nose", -0.3, 0.2, most=60)
    TAIL = Place("boot", 2.8, 0.3, most=60)

    def test_the_mass_found_gives_the_share(self) -> None:
        for share, target, place in (
            ("front", 0.55, self.NOSE),
            ("left", 0.525, self.TAIL),
            ("front", 0.52, self.TAIL),
        ):
            found = mass_for(CAR, place, share, target)  # type: ignore[arg-type]
            part = {"front": [0, 1], "left": [0, 2]}[share]
            pads = found.standing.pads
            self.assertAlmostEqual(float(pads[part].sum() / pads.sum()), target, places=10)
            self.assertAlmostEqual(float(pads.sum()), float(CAR.pads.sum()) + found.mass)

    def test_the_wrong_way_and_too_much(self) -> None:
        with self.assertRaisesRegex(Impossible, "other way"):
            mass_for(CAR, self.TAIL, "front", 0.6)
        with self.assertRaisesRegex(Impossible, "takes 60.0 kg at most"):
            mass_for(CAR, self.NOSE, "front", 0.7)
        with self.assertRaises(OutOfRange):
            mass_for(CAR, self.NOSE, "front", 1.5)


class RisingMotionRatio(unittest.TestCase):
    """A perch moves k_s·MR·s: what a changing motion ratio adds to the wheel rate it does not move."""

    SLOPE, RATIO, RATE = 0.9, 0.9, 60e3

    def car(self) -> StandingCar:
        sprung = (CAR.pads - CAR.unsprung) * G
        ratio = np.full(4, self.RATIO)
        rising = sprung / ratio * self.SLOPE
        return replace(
            CAR,
            spring_bases=CAR.tracks,
            motion_ratios=ratio,
            spring_rates=np.full(4, self.RATE),
            wheel_rates=self.RATE * ratio**2 + rising,
            bars_connected=False,
        )

    def exact(self, shift: np.ndarray) -> np.ndarray:  # type: ignore[type-arg]
        """Pads by the least energy of the coils themselves, compressed along a rising motion ratio."""
        car = self.car()
        sprung = (car.pads - car.unsprung) * G
        squeezed = sprung / car.motion_ratios / car.spring_rates

        def held(at: Any) -> float:
            body, wheels = at[:3] / 100, at[3:] / 100
            travel = wheels - car.places @ body
            coil = squeezed + self.RATIO * travel + 0.5 * self.SLOPE * travel**2 + shift
            tyre = car.pads * G / car.tyre_rates - wheels
            return float(
                np.sum(0.5 * car.spring_rates * coil**2)
                + np.sum(0.5 * car.tyre_rates * tyre**2)
                + np.sum(car.unsprung * G * wheels)
                + np.sum(sprung * (car.places @ body))
            )

        rest = minimize(held, np.zeros(7), method="BFGS", options={"gtol": 1e-7}).x[3:] / 100
        return car.pads - car.tyre_rates * rest / G

    def test_pads_after_a_perch_turn(self) -> None:
        shift = np.array([0.0004, 0.0, 0.0, 0.0])
        found = predict(self.car(), Change(perch_shifts=shift)).pads - CAR.pads
        true = self.exact(shift) - CAR.pads
        self.assertGreater(abs(true[0]), 0.4)
        np.testing.assert_allclose(found, true, rtol=0.005)

    def test_turns_for_a_cross_reach_it(self) -> None:
        car = self.car()
        found = turns_for_cross(car, cross_of(car.pads) + 0.002, np.full(4, 0.001), 0.25)
        got = cross_of(self.exact(found.exact.turns * 0.001))
        self.assertAlmostEqual(got, cross_of(car.pads) + 0.002, 5)

    def test_a_tender_in_series_is_in_the_rate_the_perch_moves(self) -> None:
        soft = replace(self.car(), ride_rates=np.full(4, 20e3), wheel_rates=np.full(4, 20e3 * 0.81))
        stiff = replace(self.car(), wheel_rates=np.full(4, 60e3 * 0.81))
        turn = Change(perch_shifts=np.array([0.001, 0.0, 0.0, 0.0]))
        moved = [abs(float((predict(one, turn).pads - CAR.pads)[0])) for one in (soft, stiff)]
        self.assertLess(moved[0], 0.45 * moved[1])
