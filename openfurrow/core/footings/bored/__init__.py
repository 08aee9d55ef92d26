"""Bored piers: a post in concrete that is poured into a bore."""
