"""Suspension worked from its measured points: rigid links, ball joints, a thin rigid disc for a wheel.

A side is worked in its own frame: origin on the ground, in the car's centre plane, under the axle's
centre line; x ahead, y outward, z up, at ride height with the wheels straight. The right side is the
left one mirrored. SI. Dixon, Suspension Geometry and Computation; Milliken, RCVD ch. 17.
"""
