"""Site: ground, soil, weather, the way to the building."""
