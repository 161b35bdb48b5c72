"""What each kind of independent suspension is made of: its points, its links, what a spring may act on."""

from __future__ import annotations

from dataclasses import dataclass

UPRIGHT = "upright"


@dataclass(frozen=True)
class Layout:
    """A kind of suspension. `links` are bars of a fixed length: name, chassis point, upright point.

    `arms` are what a spring may act on besides the upright: name → its two pivots and its ball joint.
    `same` are other names for the upright itself.
    """

    label: str
    chassis: tuple[str, ...]
    upright: tuple[str, ...]
    links: tuple[tuple[str, str, str], ...]
    arms: dict[str, tuple[str, str, str]]
    kingpin: tuple[str, str] | None
    same: tuple[str, ...] = ()

    @property
    def points(self) -> tuple[str, ...]:
        return (*self.chassis, *self.upright)

    @property
    def steered(self) -> bool:
        return self.kingpin is not None

    @property
    def carriers(self) -> tuple[str, ...]:
        return (*self.arms, UPRIGHT, *self.same, "rocker")


TIE_ROD = ("tie_rod", "tie_rod_inner", "tie_rod_outer")
LOWER = (
    ("lower_front", "lower_front", "lower_ball"),
    ("lower_rear", "lower_rear", "lower_ball"),
)
LOWER_ARM = ("lower_front", "lower_rear", "lower_ball")

LAYOUTS = {
    "double_wishbone": Layout(
        "double wishbone",
        ("upper_front", "upper_rear", "lower_front", "lower_rear", "tie_rod_inner"),
        ("upper_ball", "lower_ball", "tie_rod_outer"),
        (
            ("upper_front", "upper_front", "upper_ball"),
            ("upper_rear", "upper_rear", "upper_ball"),
            *LOWER,
            TIE_ROD,
        ),
        {"upper_arm": ("upper_front", "upper_rear", "upper_ball"), "lower_arm": LOWER_ARM},
        ("lower_ball", "upper_ball"),
    ),
    "strut": Layout(
        "strut",
        ("lower_front", "lower_rear", "tie_rod_inner", "strut_top"),
        ("lower_ball", "tie_rod_outer", "strut_lower"),
        (*LOWER, TIE_ROD),
        {"lower_arm": LOWER_ARM},
        ("lower_ball", "strut_top"),
        ("strut",),
    ),
    "trailing_arm": Layout(
        "trailing arm", ("pivot_inner", "pivot_outer"), (), (), {}, None, ("arm",)
    ),
}
