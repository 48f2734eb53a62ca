"""The ink: geometry and coverage that a pen makes of a trace."""
