"""Finding among five thousand kept things, over the API as a screen asks."""

import pathlib
import tempfile
import time

from gray_quill.store.database import connect
from gray_quill.web.app import create_app
from tests.store.test_round_trip import THOUSANDS, grown

WISHES = ("", "words=sedge", "words=s", "words=owl+moth+17", "use=unused", "words=reed&use=used", "kind=pen&most=60")


def finding_ms() -> tuple[float, float, int]:
    """The slowest of WISHES, the middle of nine times each; the same looked for by reading every row; how many things
    there are.
    """
    with tempfile.TemporaryDirectory() as name:
        folder = pathlib.Path(name)
        grown(folder, THOUSANDS, 1)
        client = create_app(folder).test_client()
        count = client.get("/api/cabinet").get_json()["count"]
        found = max(_middle(lambda wish=wish: client.get(f"/api/cabinet?{wish}")) for wish in WISHES)  # type: ignore[misc]
        db = connect(folder)
        like = "SELECT * FROM kept_things WHERE name LIKE '%sedge%' ORDER BY made_at DESC LIMIT 24"
        read = _middle(lambda: db.execute(like).fetchall())
        db.close()
    return found, read, count


def _middle(work) -> float:  # type: ignore[no-untyped-def]
    times = []
    for _ in range(9):
        start = time.perf_counter()
        work()
        times.append(1000 * (time.perf_counter() - start))
    return sorted(times)[4]
