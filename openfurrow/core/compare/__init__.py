"""Whole plans beside each other: what one design earns and costs that another does not."""
