"""Footings: the depth that carries what a support brings to the ground."""
