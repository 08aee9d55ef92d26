"""Pipe grid: a pipe along each of two lines of posts, rails up the slope on both, modules on rails."""
