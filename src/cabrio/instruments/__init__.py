"""Devices beside the car, spoken to over TCP, and the simulated ones that ship in their place."""
