"""A stand-in for the car: its engine and its control unit, run side by side for many starts at once, each a lane of the same arrays."""
