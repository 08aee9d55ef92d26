"""Ground screws: a shaft that is turned in, by a helix at its foot or a thread in drilled rock."""
