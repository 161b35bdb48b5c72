"""The car under load: one nonlinear steady state for cornering, braking, launch and speed."""
