"""Readings: what is measured on ink, with units."""
