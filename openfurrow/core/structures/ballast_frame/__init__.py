"""Ballast frame: bents of two legs whose feet stand in weights on the ground and turn there."""
