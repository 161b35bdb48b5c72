"""What-if in time: a kerb, a rough road, a steering step, a braking ramp, and the numbers that matter of each."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from ..arrays import Array
from ..car.lines import Line, value_now
from ..car.settings import check_free, check_setting
from ..catalog.checks import check_value
from ..catalog.fields import Own, number_of
from ..catalog.quantities import PLACES, Shape
from ..constants import STANDARD_GRAVITY
from ..errors import CoreError, UnknownName
from ..sheet.build import Sheet
from ..sheet.what_if import try_lines
from .full_car import Drive, drive
from .of_car import full_car
from .roads import Action, Road, flat, kerb, ramp, rough, steady
from .run import Progress

CORNERS = PLACES[Shape.CORNER]
SETTLED = 0.05
"""Within this part of where the body ends it has settled."""
CLASSES = "ABCDE"


@dataclass(frozen=True)
class Trial:
    """Something that is done to the car: what its size means, how long it is looked at [s]."""

    id: str
    label: str
    help: str
    size: Own
    usual: float
    lasts: float
    road: Callable[[float, float], Road]
    """From the size and the speed [m/s]."""
    action: Callable[[float], Action]


def _level(size: float, speed: float) -> Road:
    return Road.alike(flat)


def _still(size: float) -> Action:
    return steady


def _kerb(size: float, speed: float) -> Road:
    # met half a second in, ramps and top as long as a usual kerb stone's
    return Road(kerb(size, 0.25, 1.0, start=0.5 * speed), flat)


def _rough(size: float, speed: float) -> Road:
    name = CLASSES[round(size) - 1]
    length = speed * TRIALS["rough"].lasts + 20.0
    return Road(rough(name, length, seed=1), rough(name, length, seed=2))


TRIALS = {
    one.id: one
    for one in (
        Trial(
            "kerb",
            "Kerb",
            "The left wheels over a kerb a metre long.",
            Own("Kerb height", "fine_dimension", above=0.0, most=0.2),
            0.04,
            2.5,
            _kerb,
            _still,
        ),
        Trial(
            "rough",
            "Rough road",
            "A random road, the same one each time: 1 very smooth to 5 very rough (ISO 8608 A to E).",
            Own("Roughness", "count", least=1.0, most=5.0),
            2.0,
            5.0,
            _rough,
            _still,
        ),
        Trial(
            "steer",
            "Steering step",
            "Into a left turn within two tenths of a second.",
            Own("Cornering reached", "acceleration", above=0.0, most=30.0),
            8.0,
            2.5,
            _level,
            lambda size: ramp(leftward=size, over=0.2),
        ),
        Trial(
            "brake",
            "Braking",
            "The brakes come in within a quarter of a second and stay on.",
            Own("Braking reached", "acceleration", above=0.0, most=30.0),
            8.0,
            2.5,
            _level,
            lambda size: ramp(forward=-size, over=0.25),
        ),
        Trial(
            "launch",
            "Launch",
            "The drive comes in within fifteen hundredths of a second and stays on.",
            Own("Launch reached", "acceleration", above=0.0, most=45.0),
            10.0,
            2.5,
            _level,
            lambda size: ramp(forward=size, over=0.15),
        ),
    )
}


@dataclass(frozen=True)
class Result:
    """A number that matters of a run, at a wheel or of the body [SI]; None where it has no value."""

    label: str
    quantity: str
    values: tuple[float | None, ...]


@dataclass(frozen=True)
class Run:
    """A car through a trial: the motion, what of it matters, and what had to be assumed."""

    drive: Drive
    wheels: tuple[Result, ...]
    body: tuple[Result, ...]
    assumed: tuple[str, ...]


def trial(name: str) -> Trial:
    """Raises UnknownName."""
    try:
        return TRIALS[name]
    except KeyError:
        raise UnknownName(f"There is no trial called “{name}”.", value=name) from None


def checked_size(name: str, typed: str | None, profile: str) -> float:
    """The size as typed, within its bounds [SI], or the usual one. Raises the refusals of `check_value`."""
    asked = trial(name)
    if typed is None or not typed.strip():
        return asked.usual
    try:
        return check_value(number_of(asked.size), "car", typed, profile, confirmed=True)
    except CoreError as problem:
        problem.number = "size"
        raise


def run_trial(
    sheet: Sheet, name: str, speed: float, size: float, progress: Progress | None = None
) -> Run:
    """The car of a sheet through a trial, at a speed [m/s]. Raises Missing as `full_car` does."""
    asked = trial(name)
    model = full_car(sheet)
    found = drive(
        model.car,
        asked.road(size, speed),
        speed,
        asked.lasts,
        action=asked.action(size),
        progress=progress,
    )
    assumed = list(model.assumed)
    live = sheet.car.rear_layout != "independent"
    if name == "launch" and live and not model.car.shaft_arm:
        assumed.append(
            "The final drive is not known: the shaft's torque on the axle is left out, so left and right "
            "are alike."
        )
    if found.beyond_damper:
        assumed.append(
            "A damper moved faster than its dyno sheet goes: its last slope was drawn on."
        )
    standing = np.asarray(model.car.pads) * STANDARD_GRAVITY
    return Run(found, _wheels(found, standing), _body(found), tuple(assumed))


def _wheels(found: Drive, standing: Array) -> tuple[Result, ...]:
    def row(label: str, quantity: str, values: Array) -> Result:
        return Result(label, quantity, tuple(float(value) for value in values))

    return (
        row("Greatest load", "force", found.loads.max(axis=0)),
        row("Least load", "force", found.loads.min(axis=0)),
        row("Load variation", "share", found.load_variation),
        row("Off the ground", "share", found.off_the_ground),
        row("Most bump travel", "fine_dimension", found.travels.max(axis=0)),
        row("Most droop travel", "fine_dimension", -found.travels.min(axis=0)),
    )


def _body(found: Drive) -> tuple[Result, ...]:
    return tuple(
        Result(label, quantity, (float(np.abs(values).max()), _settling_time(found.times, values)))
        for label, quantity, values in (
            ("Heave", "fine_dimension", found.heave),
            ("Pitch", "fine_angle", found.pitch),
            ("Roll", "fine_angle", found.roll),
        )
    )


def _settling_time(times: Array, values: Array) -> float | None:
    """When it stays near where it ends, from the start [s]; None where it does not, or hardly moved."""
    most = float(np.abs(values).max())
    if most < 1e-6:
        return None
    away = np.abs(values - values[-1]) > SETTLED * most
    last = int(np.max(np.nonzero(away)[0], initial=0))
    return None if last > 0.9 * len(times) else float(times[last])


def contact_at(sheet: Sheet, setting: str, axle: str, click: float, speed: float) -> float:
    """How much the tyre load of an axle varies over the usual rough road with both its dampers at a
    click: standard deviation over the mean, the mean of both sides [-]; less is steadier grip.

    Raises the car's refusals for the click, Missing as `full_car` does.
    """
    at = (0, 1) if axle == "front" else (2, 3)
    lines = []
    for i in at:
        place = CORNERS[i]
        check_setting(sheet.car, setting, place, click)
        check_free(sheet.car, sheet.setup, setting, place, click)
        lines.append(Line(setting, place, value_now(sheet.car, sheet.setup, setting, place), click))
    tried = try_lines(sheet, [line for line in lines if line.old != line.new]).as_sheet
    found = run_trial(tried, "rough", speed, TRIALS["rough"].usual)
    return float(found.drive.load_variation[list(at)].mean())
