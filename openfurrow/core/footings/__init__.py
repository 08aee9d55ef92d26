"""Footings: the loads on each and the depth that carries them."""
