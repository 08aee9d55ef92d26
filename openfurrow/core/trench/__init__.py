"""Trench: route, depth, conduit, spoil."""
