"""Changes made from an older sight of what is kept: merged where they are about something else, told where not."""

from collections.abc import Sequence
from typing import Any

from gray_quill.core.errors import Stale

Row = dict[str, Any]


def check_seen(seen: object, here: object, what: str) -> None:
    """Raises Stale where something else is here than was seen when the change was made; None sees nothing."""
    if seen is not None and seen != here:
        raise Stale(f"{what} changed elsewhere meanwhile. Look at it as it is now, then change it again.")


def merged(seen: Sequence[Row], wanted: Sequence[Row], here: Sequence[Row], what: str) -> list[Row]:
    """What is here with what was changed between `seen` and `wanted`; rows go by their names. Raises Stale where both
    changed the same row.
    """
    if list(here) == list(seen):
        return list(wanted)
    was, mine, now = ({row["name"]: row for row in rows} for rows in (seen, wanted, here))
    if len(was) < len(seen) or len(mine) < len(wanted) or len(now) < len(here):
        check_seen(seen, here, what)
    changed = {name for name in was.keys() | mine.keys() if mine.get(name) != was.get(name)}
    for name in changed:
        if now.get(name) not in (was.get(name), mine.get(name)):
            check_seen(was, now, what)
    kept = [mine[name] if name in changed else row for name, row in now.items() if name in mine or name not in changed]
    return kept + [row for name, row in mine.items() if name in changed and name not in now]
