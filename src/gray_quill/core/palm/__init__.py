"""The Palm trial: what a hand does to the glass, rules that tell palms from fingers, and what they cost."""
