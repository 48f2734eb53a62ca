"""Serving with waitress on this machine."""

import pathlib
import sys

import waitress

from gray_quill.core.errors import InputError
from gray_quill.web.app import create_app


def serve(folder: pathlib.Path, port: int) -> None:
    """Serve until stopped; prints the address once it answers."""
    app = create_app(folder)
    try:
        server = waitress.create_server(app, host="127.0.0.1", port=port, threads=6)
    except OSError:
        raise InputError(f"Port {port} is taken. Stop what uses it or choose another with PORT= or --port.") from None
    print(f"Gray Quill is at http://127.0.0.1:{port}/", flush=True)
    try:
        server.run()
    except KeyboardInterrupt:
        sys.exit(0)
