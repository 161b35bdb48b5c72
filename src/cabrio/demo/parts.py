"""Made-up parts that the demo cars wear: dampers with their dyno sheets, and a bump rubber."""

from __future__ import annotations

from cabrio.core.catalog.parts import Adjustment, Counted, Damper, DynoCurve, rubber

SPEEDS = (0.0, 0.025, 0.05, 0.1, 0.15, 0.25, 0.4)
DIGRESSIVE = (25.0, 190.0, 310.0, 470.0, 600.0, 850.0, 1150.0)
"""Force of the made-up damper at those speeds [N], knob at the middle."""


def adjustment(clicks: int, counted: Counted, strength: float) -> Adjustment:
    """Measured at both ends and the middle: from 1.6 times the middle's force down to 0.55."""
    ends = {0: 1.6, clicks // 2: 1.0, clicks: 0.55}
    curves = []
    for out, share in ends.items():
        click = out if counted == "from_closed" else clicks - out
        curves.append(
            DynoCurve(click, SPEEDS, tuple(round(strength * share * f, 1) for f in DIGRESSIVE))
        )
    return Adjustment(clicks, counted, tuple(sorted(curves, key=lambda curve: curve.click)))


def dampers(
    clicks: int, counted: Counted, front: tuple[float, float], rear: tuple[float, float]
) -> tuple[Damper, ...]:
    """Four dampers, left as right; strengths of compression and rebound at each end."""
    return tuple(
        Damper(
            adjustment(clicks, counted, compression),
            adjustment(clicks, counted, rebound),
            code=f"D-{place}",
            serial=f"{i + 1:02d}",
        )
        for i, (place, (compression, rebound)) in enumerate(
            (("LF", front), ("RF", front), ("LR", rear), ("RR", rear))
        )
    )


RUBBER = rubber(
    (0.0, 0.004, 0.008, 0.012, 0.016), (0.0, 210.0, 610.0, 1400.0, 3200.0), code="soft 18"
)
ON_CORNERS = ["D-LF", "D-RF", "D-LR", "D-RR"]
