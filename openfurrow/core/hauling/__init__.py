"""Hauling: which part comes when and on what, what waits for it, and where it lies until then."""
