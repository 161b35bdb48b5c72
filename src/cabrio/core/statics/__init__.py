"""The standing car: where seven unknowns come to rest."""

from .equilibrium import Change, Standing, StandingCar, predict

__all__ = ["Change", "Standing", "StandingCar", "predict"]
