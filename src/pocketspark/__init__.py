"""Pocket Spark: plan a small gadget's conversion to one rechargeable lithium cell."""

__version__ = "0.2.0"
