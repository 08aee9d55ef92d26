"""Open Furrow: planner, calculator, simulator and field book for ground-mount solar."""

__version__ = "0.1.0"
