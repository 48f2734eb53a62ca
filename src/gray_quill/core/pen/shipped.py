"""The pens that ship with the product, by their short names."""

from typing import Any

from gray_quill.core.pen.recipe import Recipe, read_recipe

_SOFT_CURVE = [[0, 0], [0.4, 0.3], [1, 1]]
_LIGHT_CURVE = [[0, 0], [0.25, 0.4], [1, 1]]

_DATA: dict[str, dict[str, Any]] = {
    "reed-ballpoint": {
        "name": "Reed ballpoint 0.4",
        "kind": "ballpoint",
        "body": {"width_mm": 0.4, "colour": "#1d3557"},
    },
    "fen-fountain": {
        "name": "Fen fountain 0.5",
        "kind": "fountain",
        "body": {"width_mm": 0.5, "colour": "#20242b"},
        "press": {"floor": 0.02, "ceiling": 0.95, "points": _SOFT_CURVE, "range": 4},
        "pace": {"exponent": 0.15, "reference_mm_s": 35},
        "ends": {"start_mm": 0.8, "start_tip": 0.3, "end_mm": 1.9, "end_tip": 0.1, "ease": 0.8},
        "steady": {"method": "one-euro", "amount": 3, "beta": 0.3},
    },
    "heron-brush": {
        "name": "Heron brush 0.7",
        "kind": "brush",
        "body": {"width_mm": 0.7, "colour": "#20242b"},
        "press": {"floor": 0.02, "ceiling": 1, "points": [[0, 0], [0.5, 0.4], [1, 1]], "range": 12},
        "pace": {"exponent": 0.22, "reference_mm_s": 40},
        "ends": {"start_mm": 1.2, "start_tip": 0.3, "end_mm": 3, "end_tip": 0.1, "ease": 0.9},
        "steady": {"method": "follow", "amount": 1.5},
    },
    "sedge-nib": {
        "name": "Sedge flat nib 1.1",
        "kind": "flat nib",
        "body": {"width_mm": 1.1, "colour": "#2c2a4a"},
        "wash": {"tip": {"shape": "ellipse", "aspect": 7, "angle_deg": 38}},
        "steady": {"method": "one-euro", "amount": 2, "beta": 0.2},
    },
    "moth-pencil-2b": {
        "name": "Moth pencil 2B",
        "kind": "pencil",
        "body": {"width_mm": 0.5, "colour": "#3d3f44", "opacity": 0.96},
        "press": {"floor": 0.01, "ceiling": 0.9, "points": _LIGHT_CURVE, "range": 1.8, "opacity_range": 3.5},
        "lean": {"side_mm": 3.2, "from_deg": 48, "to_deg": 22},
        "steady": {"method": "one-euro", "amount": 1},
        "tooth": {"grain": "cold-pressed", "depth": 0.85, "scale_mm": 0.35, "grade": "2B"},
    },
    "lichen-pencil-2h": {
        "name": "Lichen pencil 2H",
        "kind": "pencil",
        "body": {"width_mm": 0.4, "colour": "#4a4d52", "opacity": 0.96},
        "press": {"floor": 0.01, "ceiling": 0.9, "points": _LIGHT_CURVE, "range": 1.5, "opacity_range": 2.5},
        "lean": {"side_mm": 2.4, "from_deg": 48, "to_deg": 22},
        "steady": {"method": "one-euro", "amount": 1},
        "tooth": {"grain": "smooth", "depth": 0.8, "scale_mm": 0.25, "grade": "2H"},
    },
    "alder-charcoal": {
        "name": "Alder charcoal 8B, large",
        "kind": "pencil",
        "body": {"width_mm": 1.3, "colour": "#22231f", "opacity": 0.9},
        "press": {"floor": 0.02, "ceiling": 0.9, "range": 2, "opacity_range": 3},
        "lean": {"side_mm": 7, "from_deg": 55, "to_deg": 20},
        "tooth": {"grain": "rough", "depth": 0.9, "scale_mm": 0.6, "grade": "8B", "crumbs": 0.5},
    },
    "heath-brush": {
        "name": "Heath dry brush 2, large",
        "kind": "brush",
        "body": {"width_mm": 2, "colour": "#2e5e5a"},
        "press": {
            "floor": 0.02,
            "ceiling": 0.9,
            "points": [[0, 0], [0.5, 0.4], [1, 1]],
            "range": 8,
            "opacity_range": 2,
        },
        "ends": {"start_mm": 1.5, "start_tip": 0.3, "end_mm": 5, "end_tip": 0, "ease": 0.8},
        "steady": {"method": "follow", "amount": 1.5},
        "tooth": {"grain": "laid", "depth": 0.6, "scale_mm": 0.5, "grade": "6B", "bristles": 0.8},
    },
    "survey-marker": {
        "name": "Survey marker 0.7",
        "kind": "marker",
        "body": {"width_mm": 0.7, "colour": "#8a3a2d", "opacity": 0.92},
        "press": {"range": 1.25},
        "steady": {"method": "one-euro", "amount": 2, "beta": 0.2},
        "wash": {"streaks": 0},
    },
    "clover-marker": {
        "name": "Clover marker 3, large",
        "kind": "marker",
        "body": {"width_mm": 3, "colour": "#5d7d9a", "opacity": 0.75},
        "press": {"range": 1.15},
        "steady": {"method": "one-euro", "amount": 2, "beta": 0.2},
        "wash": {"wet_edge": 0.45, "pool": 0.35, "streaks": 0.7, "blend": "multiply"},
    },
    "mist-spray": {
        "name": "Mist spray 9",
        "kind": "spray",
        "body": {"width_mm": 9, "colour": "#4c4a63", "opacity": 0.85},
        "press": {"floor": 0.02, "ceiling": 0.95, "range": 1.6, "opacity_range": 3},
        "steady": {"method": "follow", "amount": 1.5},
        "tooth": {"grain": "drops", "depth": 0.9, "scale_mm": 0.45, "grade": "8B"},
        "wash": {"flow": 3, "tip": {"shape": "spray"}},
    },
    "needle-liner": {
        "name": "Needle liner 0.2",
        "kind": "ballpoint",
        "body": {"width_mm": 0.2, "colour": "#20242b"},
        "steady": {"method": "one-euro", "amount": 2, "beta": 0.2},
    },
    "stitch-reed": {
        "name": "Stitch reed 0.4",
        "kind": "ballpoint",
        "body": {"width_mm": 0.4, "colour": "#20242b", "line": {"pattern": "dash"}},
        "steady": {"method": "one-euro", "amount": 3, "beta": 0.3},
    },
    "hollow-reed": {
        "name": "Hollow reed 1.8, large",
        "kind": "marker",
        "body": {
            "width_mm": 1.8,
            "colour": "#2e5e5a",
            "hollow": {"on": True, "wall_mm": 0.2, "fill": "#cfe0dc", "fill_opacity": 0.7},
        },
        "press": {"range": 1.6},
        "steady": {"method": "one-euro", "amount": 3, "beta": 0.3},
    },
    "dusk-wash": {
        "name": "Dusk wash 5",
        "kind": "highlighter",
        "body": {"width_mm": 5, "colour": "#f2c14e", "opacity": 0.55},
        "wash": {
            "place": "under",
            "blend": "auto",
            "straighten": 0.7,
            "straight_to": "the ruling",
            "tip": {"shape": "chisel", "aspect": 3, "angle_deg": 78},
        },
        "steady": {"method": "one-euro", "amount": 4, "beta": 0.4},
    },
    "fern-wash": {
        "name": "Fern wash 5",
        "kind": "highlighter",
        "body": {"width_mm": 5, "colour": "#9ccb86", "opacity": 0.6},
        "wash": {"place": "under", "blend": "auto", "hold_straight": True, "tip": {"shape": "round"}},
        "steady": {"method": "one-euro", "amount": 4, "beta": 0.4},
    },
    "mallow-wash": {
        "name": "Mallow wash 5",
        "kind": "highlighter",
        "body": {"width_mm": 5, "colour": "#e58fae", "opacity": 0.5},
        "wash": {"place": "under", "blend": "auto", "hold_straight": True},
        "steady": {"method": "one-euro", "amount": 4, "beta": 0.4},
    },
    "pool-wash": {
        "name": "Pool wash 5",
        "kind": "highlighter",
        "body": {"width_mm": 5, "colour": "#7fb6e6", "opacity": 0.55},
        "wash": {"place": "under", "blend": "auto", "hold_straight": True},
        "steady": {"method": "one-euro", "amount": 4, "beta": 0.4},
    },
    "lamp-white": {
        "name": "Lamp white 0.5",
        "kind": "fountain",
        "body": {"width_mm": 0.5, "colour": "#f4efdf"},
        "press": {"floor": 0.02, "ceiling": 0.9, "points": _LIGHT_CURVE, "range": 3},
        "pace": {"exponent": 0.1, "reference_mm_s": 35},
        "ends": {"start_mm": 0.9, "start_tip": 0.4, "end_mm": 1.8, "end_tip": 0.2, "ease": 0.8},
        "steady": {"method": "one-euro", "amount": 3, "beta": 0.3},
    },
}

SHIPPED_PENS: dict[str, Recipe] = {name: read_recipe(data) for name, data in _DATA.items()}
