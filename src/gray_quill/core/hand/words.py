"""A hand told in words, as its owner would say it: each word stands for values of the hand's record.

Common practice, no source: what writers call small, quick, light or shaky.
"""

WORDS: dict[str, dict[str, dict[str, float | str]]] = {
    "letters": {"joined": {"letters": "script"}, "separate": {"letters": "plain"}},
    "size": {"small": {"x_height_mm": 1.8}, "middling": {"x_height_mm": 2.6}, "large": {"x_height_mm": 4.0}},
    "slant": {"leaning left": {"slant_deg": -8}, "upright": {"slant_deg": 2}, "leaning right": {"slant_deg": 14}},
    "pace": {
        "slow": {"speed_mm_s": 18, "pause_ms": 200},
        "everyday": {"speed_mm_s": 30, "pause_ms": 130},
        "quick": {"speed_mm_s": 48, "pause_ms": 90},
    },
    "touch": {
        "light": {"force": 0.25, "force_swing": 0.12},
        "middling": {"force": 0.45, "force_swing": 0.18},
        "firm": {"force": 0.65, "force_swing": 0.2},
    },
    "line": {
        "steady": {"tremor_mm": 0.01, "wander_mm": 0.15},
        "a little uneven": {"tremor_mm": 0.045, "wander_mm": 0.25},
        "shaky": {"tremor_mm": 0.14, "wander_mm": 0.4},
    },
    "pen held": {"low": {"altitude_deg": 40}, "middling": {"altitude_deg": 55}, "steep": {"altitude_deg": 72}},
}
