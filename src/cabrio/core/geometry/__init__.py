"""Points, lines and chains of bars in the plane of the side view."""
