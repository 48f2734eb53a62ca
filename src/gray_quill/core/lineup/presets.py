"""What counts for whom: weights of the criteria by kind of user. Common practice, no source."""

from collections.abc import Mapping

PRESETS: dict[str, dict[str, float]] = {
    "fast notes": {"drag": 3, "lag": 3, "open letters": 2, "faithful": 2, "corners": 2, "palm": 2, "legible": 2},
    "slow calm hand": {"calm": 4, "faithful": 2, "open letters": 2, "corners": 2, "legible": 1, "drag": 1},
    "handsome handwriting": {"light answer": 4, "options": 1, "tips": 2, "taper": 3, "range": 3, "hairlines": 1},
    "sketch-notes": {"range": 2, "shading": 3, "tips": 2, "options": 2, "drag": 2, "lag": 2, "corners": 1},
    "marking up": {"under wash": 4, "shading": 3, "legible": 1, "drag": 1, "lag": 1},
    "e-ink": {"hairlines": 4, "legible": 4, "lag": 3, "open letters": 2, "drag": 2},
}


def shares(weights: Mapping[str, float]) -> dict[str, float]:
    """Weights as shares of one bar; all the same where none counts more than nothing."""
    counted = {key: max(0.0, weight) for key, weight in weights.items()}
    whole = sum(counted.values())
    return {key: weight / whole if whole else 1 / len(counted) for key, weight in counted.items()}
