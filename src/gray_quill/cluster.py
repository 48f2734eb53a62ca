"""Line-ups measured by the workers of a dask.distributed cluster: the optional extra `gray-quill[cluster]`."""

import contextlib
from collections.abc import Callable, Iterable, Iterator
from typing import Any

from gray_quill.core.errors import InputError
from gray_quill.core.lineup.measure import Runs

ANSWERS_S = 10  # a scheduler that takes longer is not there


@contextlib.contextmanager
def on_cluster(address: str) -> Iterator[Runs]:
    """Runs like map, by the workers at this scheduler, in the order asked. Raises InputError where it does not answer
    or dask.distributed is not there.
    """
    try:
        from distributed import Client
    except ImportError:
        raise InputError("This needs dask.distributed. Install it: pip install 'gray-quill[cluster]'.") from None
    try:
        client: Any = Client(address, timeout=ANSWERS_S, set_as_default=False)  # type: ignore[no-untyped-call]
    except (OSError, ValueError, TimeoutError) as error:
        raise InputError(
            f"The scheduler at {address} does not answer ({type(error).__name__}). Start it, or measure here without "
            "--scheduler."
        ) from None

    def runs(work: Callable[[Any], Any], items: Iterable[Any]) -> Iterator[Any]:
        waiting = [client.submit(work, item, pure=False) for item in items]
        for one in waiting:
            yield one.result()

    try:
        yield runs
    finally:
        client.close()
