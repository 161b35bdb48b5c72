"""The demo's story: what its instruments say is what the core has the car standing at, within their noise."""

from __future__ import annotations

from itertools import pairwise

import numpy as np

from cabrio.core.car import Line
from cabrio.core.graph.registry import number_named
from cabrio.core.sheet.what_if import try_lines
from cabrio.demo.drag import BITE
from cabrio.demo.instruments import IMPERIAL, METRIC
from cabrio.operations import bench
from tests.operations.test_operations import INES, OperationTestCase

NAMES = {"pads": "pad_mass", "heights": "ride_height"}


class Story(OperationTestCase):
    def test_every_reading_after_a_change_is_the_prediction_within_the_noise(self) -> None:
        checked = 0
        with self.session() as db:
            for car in (1, 2, 3):
                found = bench.load(db, INES, car)
                told = IMPERIAL if found.car.profile == "imperial" else METRIC
                for kind, name in NAMES.items():
                    kept = [
                        reading
                        for reading in found.readings
                        if reading.kind == kind and reading.withdrawn_by is None
                    ]
                    for before, after in pairwise(kept):
                        sheet = found.sheet_at(before.revision)
                        here, there = (
                            found.at(before.revision).setup,
                            found.at(after.revision).setup,
                        )
                        lines = [
                            Line(setting, place, old, new)
                            for setting in there
                            for place, old, new in zip(
                                number_named(setting).shape.places,
                                here[setting],
                                there[setting],
                                strict=True,
                            )
                            if old != new
                        ]
                        predicted = try_lines(sheet, lines, bite=BITE).value(name)
                        assert predicted is not None
                        off = np.abs(np.array(after.values[name]) - predicted)
                        # two readings' noise at four sigma, and half a step of each
                        allowed = 4 * np.sqrt(2) * told[kind].noise + told[kind].step
                        with self.subTest(f"{found.car.name}: {kind} on {after.revision}"):
                            self.assertLess(float(off.max()), allowed)
                        checked += 1
        self.assertGreaterEqual(checked, 5)

    def test_the_perches_carry_the_car_on_its_shorter_spring(self) -> None:
        with self.session() as db:
            found = bench.load(db, INES, 1)
            heights = {
                reading.revision: reading for reading in found.readings if reading.kind == "heights"
            }
            for rear in (2, 3):
                before, after = (heights[n].values["ride_height"][rear] for n in (1, 3))
                self.assertAlmostEqual(before, after, delta=0.001)
            pads = [reading for reading in found.readings if reading.kind == "pads"]
            wrong = next(pad for pad in pads if pad.withdrawn_by).values["pad_mass"]
            self.assertAlmostEqual((wrong[1] + wrong[2]) / sum(wrong), 0.48, delta=0.005)
