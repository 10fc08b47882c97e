"""Uphill Spark: plan, wire, tune and start a fuel-injection conversion of a classic car."""

__version__ = "0.1.0"
