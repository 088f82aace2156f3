"""Metering."""
