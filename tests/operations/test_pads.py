"""Weighing pads: what they may say, and the simulated set with all that real ones add."""

from __future__ import annotations

import socket
import unittest
from statistics import mean

from cabrio.instruments.line import NoAnswer
from cabrio.instruments.pads import ask, parsed
from cabrio.instruments.simulated_pads import EVERY, SWINGS, SimulatedPads

LOADS = (264.5, 262.0, 247.0, 245.0)


class Clock:
    def __init__(self) -> None:
        self.now = 100.0

    def __call__(self) -> float:
        return self.now


class Lines(unittest.TestCase):
    def test_a_frame_is_four_loads_and_whether_they_stand(self) -> None:
        frame = parsed("LF=264.3 RF=262.0 LR=-- RR=245.1 still=1\n")
        self.assertEqual(frame.loads, (264.3, 262.0, None, 245.1))
        self.assertTrue(frame.still)

    def test_what_is_no_reading_is_refused(self) -> None:
        for line, words in (
            ("", "not a reading"),
            ("HTTP/1.1 400 Bad Request", "not a reading"),
            ("LF=1 RF=2 LR=3 RR=nan still=1", "RR pad sent “nan”"),
            ("LF=-5 RF=2 LR=3 RR=4 still=1", "LF pad sent “-5”"),
            ("LF=1 RF=2 LR=9e9 RR=4 still=1", "no load"),
            ("LF=1 RF=2 LR=3 RR=4 still=1 LF=9", "not a reading"),
        ):
            with self.subTest(line=line), self.assertRaisesRegex(NoAnswer, words):
                parsed(line)

    def test_nobody_there(self) -> None:
        with socket.socket() as free:
            free.bind(("127.0.0.1", 0))
            port = free.getsockname()[1]
        with self.assertRaisesRegex(NoAnswer, "does not answer"):
            ask(f"127.0.0.1:{port}", 1, LOADS)
        for address in ("", "pads", "pads:0", ":5", "pads:99999"):
            with self.subTest(address=address), self.assertRaisesRegex(NoAnswer, "no address"):
                ask(address, 1, LOADS)

    def test_pads_that_never_answer_are_given_up(self) -> None:
        dumb = socket.create_server(("127.0.0.1", 0))
        self.addCleanup(dumb.close)
        with self.assertRaisesRegex(NoAnswer, "does not answer"):
            ask(f"127.0.0.1:{dumb.getsockname()[1]}", 1, LOADS)


class Simulated(unittest.TestCase):
    def setUp(self) -> None:
        self.clock = Clock()
        self.pads = SimulatedPads(clock=self.clock)
        self.address = self.pads.start()
        self.addCleanup(self.pads.server_close)
        self.addCleanup(self.pads.shutdown)

    def means(self, car: int, count: int = 20) -> list[float]:
        frames = [ask(self.address, car, LOADS) for _ in range(count)]
        return [
            mean(one for frame in frames if (one := frame.loads[i]) is not None) for i in range(4)
        ]

    def test_they_swing_first_and_then_stand(self) -> None:
        self.assertFalse(ask(self.address, 4, LOADS).still)
        self.clock.now += SWINGS + 0.1
        self.assertTrue(ask(self.address, 4, LOADS).still)

    def test_tyres_hold_the_cross_until_the_car_is_rolled(self) -> None:
        ask(self.address, 4, LOADS)
        self.clock.now += SWINGS + 0.1

        def off(loads: list[float]) -> float:
            return max(abs(load - true) for load, true in zip(loads, LOADS, strict=True))

        stuck = off(self.means(4))
        for _ in range(2):
            ask(self.address, 4, LOADS, settle=True)
            self.clock.now += SWINGS + 0.1
        self.assertGreater(stuck, 0.6)
        self.assertLess(off(self.means(4)), 0.5)

    def test_a_changed_car_sticks_again(self) -> None:
        ask(self.address, 4, LOADS, settle=True)
        self.clock.now += SWINGS + 0.1
        self.assertTrue(ask(self.address, 4, LOADS).still)
        self.assertFalse(ask(self.address, 4, (265.0, *LOADS[1:])).still)

    def test_one_pad_loses_its_cable_now_and_then(self) -> None:
        ask(self.address, 2, LOADS)
        self.clock.now += EVERY - 1.0
        self.assertIsNone(ask(self.address, 2, LOADS).loads[2])
        self.clock.now += 2.0
        self.assertIsNotNone(ask(self.address, 2, LOADS).loads[2])

    def test_a_line_it_does_not_know_is_answered_not_broken(self) -> None:
        host, port = self.address.split(":")
        with socket.create_connection((host, int(port)), timeout=2) as line:
            line.sendall(b"tare\ncar 1 a b c d\nread\n\n")
            told = line.makefile().read()
        self.assertEqual(told, "not understood\n" * 3)
