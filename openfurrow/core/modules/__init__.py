"""Modules: clamps, gaps, bonding."""
