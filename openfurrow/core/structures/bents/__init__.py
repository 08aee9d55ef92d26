"""Bents of two posts under one beam, as plane frames: shared by every family that has two lines."""
