"""The simulated stylus hardware: what it makes of a motion before the pen sees it."""
