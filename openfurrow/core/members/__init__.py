"""Members: what a profile resists, whatever it stands in."""
