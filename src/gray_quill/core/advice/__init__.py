"""Advice: what to change, why (the reading), what it will do (the predicted reading)."""
