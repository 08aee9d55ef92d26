"""Wiring: strings, conductors, grounding."""
