"""Structures: what stands on the ground, how it carries, and what it asks of every footing."""
