"""Stakeout: where each post goes, how high, how long."""
