"""The simulated writer: text -> single-line letter forms -> timed motion -> force and tilt."""
