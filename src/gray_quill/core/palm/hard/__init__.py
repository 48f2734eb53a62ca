"""The hard set: what hands and devices do that makes palms hard to tell from fingers. It is kept apart: rules are never
tuned on it, and its `digest` stands beside every figure, so that a change of the set shows.
"""
