"""What lands at the rim of the glass holds the device."""

import dataclasses

from gray_quill.core.palm.rules.base import Contact, Rule
from gray_quill.core.palm.state import State, Touch
from gray_quill.core.palm.zone import Zone
from gray_quill.core.quantities import number


@dataclasses.dataclass(frozen=True)
class Settings:
    edge_mm: float = number(0, 0, 40, 0.5, "mm", "Edge margin", "Refuse what lands this near the screen's edge")


def _to_edge_mm(x: float, y: float, width_mm: float, height_mm: float) -> float:
    return min(x, y, width_mm - x, height_mm - y)


def lands(s: State, t: Touch, now_ms: float, rules: Settings, zone: Zone) -> bool:
    return rules.edge_mm > 0 and _to_edge_mm(t.x0, t.y0, 2 * s.middle[0], 2 * s.middle[1]) < rules.edge_mm


def edge_mm(c: Contact) -> float:
    """To the nearest edge, where it landed."""
    return _to_edge_mm(c.events[0].x_mm, c.events[0].y_mm, *c.screen_mm)


RULE = Rule(
    "edge",
    "edge_mm",
    "the place",
    Settings,
    tighter={"edge_mm": 1},
    options={"edge_mm": (0, 6, 8, 10, 12)},
    swept="edge_mm",
    strictest={"edge_mm": 40},
    score=lambda c: -edge_mm(c),
    by_score=lambda rules, c: edge_mm(c) < rules.edge_mm,
    why=lambda c: f"it landed {edge_mm(c):.0f} mm from the edge",
    instead=lambda c, rules: f"an edge margin over {edge_mm(c):.0f} mm" if edge_mm(c) < 40 else "",
    lands=lands,
)
