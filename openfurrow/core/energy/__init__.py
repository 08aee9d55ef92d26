"""Energy: what the light of a year on this ground becomes at the meter."""
