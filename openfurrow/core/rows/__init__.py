"""Rows: module tables, pitch, heights."""
