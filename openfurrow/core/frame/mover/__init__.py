"""What turns glass on a pole toward the sun: an actuator that tilts it, a drive that turns it."""
