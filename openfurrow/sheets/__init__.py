"""The plan as a person reads it: numbers in their units, drawings as lines in metres."""
