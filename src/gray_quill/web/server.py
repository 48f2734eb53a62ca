"""Serving with waitress on this machine."""

import importlib
import logging
import pathlib
import sys
import threading

import waitress

from gray_quill.core.errors import InputError
from gray_quill.web.app import create_app

READY_AFTER_S = 2.0  # what readings need is loaded once the first page had its turn


def serve(folder: pathlib.Path, port: int) -> None:
    """Serve until stopped; prints the address once it answers."""
    app = create_app(folder)
    logging.getLogger("waitress.queue").setLevel(
        logging.ERROR
    )  # a page asks for several pictures at once; a short queue is no news
    try:
        server = waitress.create_server(app, host="127.0.0.1", port=port, threads=6)
    except OSError:
        raise InputError(f"Port {port} is taken. Stop what uses it or choose another with PORT= or --port.") from None
    threading.Timer(READY_AFTER_S, importlib.import_module, ("scipy.signal",)).start()
    print(f"Gray Quill is at http://127.0.0.1:{port}/", flush=True)
    try:
        server.run()
    except KeyboardInterrupt:
        sys.exit(0)
