"""What a check found is what stands on the car: figures are worked from it, not from what was once set."""

from tests.support.client import INES, ApiTestCase

ANGLE = 0.0174533


class AsRead(ApiTestCase):
    def test_the_thrust_angle_is_that_of_the_toe_as_read(self) -> None:
        ines = self.person(INES)
        more = {"name": "Sorrel", "use": "race_no_downforce", "rear_layout": "independent"}
        car = ines.add_car(discipline="circuit", **more)
        ines.draft(*[("toe", place, 0.1 * ANGLE) for place in ("LF", "RF", "LR", "RR")], car=car)
        ines.book(car)
        self.assertAlmostEqual(ines.bench(car)["figures"]["thrust_angle"]["values"][0], 0.0)
        toe = [0.1 * ANGLE, 0.1 * ANGLE, 0.0, 0.3 * ANGLE]
        body = {"kind": "alignment", "repeats": {"toe_found": [toe]}, "conditions": {}}
        ines.ok("POST", f"/api/cars/{car}/readings", body)
        angle = ines.bench(car)["figures"]["thrust_angle"]["values"][0]
        self.assertAlmostEqual(angle, 0.15 * ANGLE, 6)
        # a new toe at one wheel moves that wheel alone
        ines.draft(("toe", "RR", 0.2 * ANGLE), car=car)
        slip = ines.bench(car)["slip"]
        moved = next(one for one in slip["moved"] if one["name"] == "thrust_angle")
        self.assertAlmostEqual(moved["before"], 0.15 * ANGLE, 6)
        self.assertAlmostEqual(moved["after"], 0.1 * ANGLE, 6)
