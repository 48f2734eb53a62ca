"""The app factory: blueprints, the error form, and who may ask."""

import json
import logging
import pathlib
import sqlite3
from collections.abc import Callable
from typing import Any, NoReturn

from flask import Flask, Response, jsonify
from werkzeug.exceptions import HTTPException
from werkzeug.routing import Rule

from gray_quill.core.errors import Crowded, GrayQuillError, Unavailable
from gray_quill.formats.sandbox import Sandbox
from gray_quill.store.database import trouble
from gray_quill.store.start import prepare
from gray_quill.web import context
from gray_quill.web.access import Door
from gray_quill.web.addresses import Place
from gray_quill.web.admission import Turns
from gray_quill.web.archive import archive
from gray_quill.web.backups import Looked, backups
from gray_quill.web.bring_in import bring_in
from gray_quill.web.cabinet import cabinet
from gray_quill.web.cabinet_pictures import cabinet_pictures
from gray_quill.web.certificates import Certificates
from gray_quill.web.change_events import Boxes, news
from gray_quill.web.covers import covers
from gray_quill.web.desk import desk
from gray_quill.web.devices import devices
from gray_quill.web.eraser import rubbing
from gray_quill.web.exports import exports
from gray_quill.web.first_minute import first_minute
from gray_quill.web.front import MOST_BODY_BYTES
from gray_quill.web.hands import hands
from gray_quill.web.ink_source import InkMemory
from gray_quill.web.jobs import Jobs, tasks
from gray_quill.web.lag import lag
from gray_quill.web.lag_films import lag_films
from gray_quill.web.layers import layers
from gray_quill.web.lineup import lineup
from gray_quill.web.lineup_kept import lineup_kept
from gray_quill.web.lineup_report import lineup_report
from gray_quill.web.mending import mending
from gray_quill.web.mirror import follow_link, mirror
from gray_quill.web.mirror_state import Stage
from gray_quill.web.noticeable_delay import lag_felt
from gray_quill.web.openapi import openapi_document
from gray_quill.web.originals import KeptOriginals
from gray_quill.web.own_papers import own_papers
from gray_quill.web.pages import pages
from gray_quill.web.pairs import pairs
from gray_quill.web.palm import palm
from gray_quill.web.palm_told import palm_told
from gray_quill.web.panel_films import films
from gray_quill.web.panels import panels
from gray_quill.web.pen import pen
from gray_quill.web.pen_pictures import pen_pictures
from gray_quill.web.pens import pens
from gray_quill.web.pieces import pieces
from gray_quill.web.preference_tuning import choosing
from gray_quill.web.replay import Writings, replay
from gray_quill.web.response_cache import Answers
from gray_quill.web.room import room
from gray_quill.web.screens import Screens, compress_answers
from gray_quill.web.shading import shading
from gray_quill.web.shared_pens import shared_pens
from gray_quill.web.sheets import sheets
from gray_quill.web.strip import strip
from gray_quill.web.strokes import strokes
from gray_quill.web.underlay import prints
from gray_quill.web.undo_journal import steps
from gray_quill.web.wash import wash

SHIPPED = pathlib.Path(__file__).parents[1] / "screens"  # in a wheel
DIST = SHIPPED if SHIPPED.is_dir() else pathlib.Path(__file__).parents[3] / "web" / "dist"
RETRY_AFTER_S = 2
HERE = Place("127.0.0.1", 0)
POLICY = (
    "default-src 'none'; script-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; "
    "font-src 'self'; "
    "connect-src 'self'; manifest-src 'self'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'"
)


class Address(Rule):
    """Matched only: no address is ever built here, and preparing that takes most of the time an app takes to make."""

    def _compile_builder(self, append_unknown: bool = True) -> Callable[..., Any]:
        return _not_built


def _not_built(*_: object, **__: object) -> NoReturn:
    raise NotImplementedError("addresses are not built")


def create_app(
    folder: pathlib.Path, dist: pathlib.Path = DIST, place: Place = HERE, trusted: Certificates | None = None
) -> Flask:
    """An app over the database in `folder`, which is made or brought up to date. place: where it is reached; trusted:
    the certificates it shows there.
    """
    prepare(folder)
    app = Flask(__name__, static_folder=None)
    app.url_rule_class = Address
    app.config.update(DATA_FOLDER=str(folder), MAX_CONTENT_LENGTH=MOST_BODY_BYTES)
    app.json.sort_keys = False  # type: ignore[attr-defined]  # groups and fields keep their declared order
    app.extensions["sandbox"] = Sandbox()
    app.extensions["ink_memory"] = InkMemory(KeptOriginals(folder, app.extensions["sandbox"]))
    app.extensions["answers"] = Answers()
    app.extensions["jobs"] = Jobs()
    app.extensions["writings"] = Writings()
    app.extensions["turns"] = Turns()
    app.extensions["turns_of_files"] = Turns("Too many files are being read. Wait a moment and send this one again.")
    app.extensions["boxes"] = Boxes()
    app.extensions["stage"] = Stage()
    app.extensions["backups_looked"] = Looked()
    app.teardown_appcontext(context.close_db)
    Door(app, folder, place, trusted)
    app.after_request(_protect)
    app.register_error_handler(GrayQuillError, _refuse)
    app.register_error_handler(sqlite3.Error, _refuse_store)
    app.register_error_handler(HTTPException, _refuse_http)
    for blueprint in (
        desk,
        first_minute,
        hands,
        pens,
        sheets,
        own_papers,
        pages,
        prints,
        lineup,
        lineup_kept,
        lineup_report,
        pairs,
        choosing,
        covers,
        exports,
        bring_in,
        archive,
        cabinet,
        cabinet_pictures,
        backups,
        shared_pens,
        replay,
        strokes,
        strip,
        layers,
        pieces,
        mending,
        devices,
        mirror,
        news,
        room,
        rubbing,
        steps,
        pen,
        pen_pictures,
        panels,
        films,
        shading,
        wash,
        lag,
        lag_felt,
        lag_films,
        palm,
        palm_told,
        tasks,
    ):
        app.register_blueprint(blueprint, url_prefix="/api")
    app.add_url_rule("/see/<token>", "see", follow_link)
    app.add_url_rule("/api/openapi.json", "openapi", lambda: jsonify(openapi_document()))
    Screens(app, dist)
    if place.room:
        compress_answers(app)
    return app


def _protect(reply: Response) -> Response:
    reply.headers.setdefault("Content-Security-Policy", POLICY)
    reply.headers.setdefault("Referrer-Policy", "no-referrer")
    reply.headers["X-Content-Type-Options"] = "nosniff"
    if reply.mimetype == "application/json":
        reply.headers["Cache-Control"] = "no-store"
    return reply


def error_body(code: str, message: str, field: str | None = None) -> bytes:
    """The one form of a refusal."""
    return json.dumps({"error": {"code": code, "message": message, "field": field}}).encode()


def _error(status: int, code: str, message: str, field: str | None = None) -> tuple[Response, int]:
    return Response(error_body(code, message, field), mimetype="application/json"), status


def _refuse(error: GrayQuillError) -> tuple[Response, int]:
    reply, status = _error(error.status, error.code, error.message, error.field)
    if isinstance(error, (Crowded, Unavailable)):
        reply.headers["Retry-After"] = str(RETRY_AFTER_S)
    return reply, status


def _refuse_store(error: sqlite3.Error) -> tuple[Response, int]:
    """What the disk or the database refuses: said here and in the log, in the same words."""
    known = trouble(error, context.folder())
    if known is None:
        logging.getLogger("gray_quill").exception("the store failed")
        return _error(500, "internal_server_error", "Something went wrong here; nothing you kept is lost. Try again.")
    context.log_now_and_then(known.code, logging.ERROR, known.message)
    return _refuse(known)


def _refuse_http(error: HTTPException) -> tuple[Response, int]:
    texts = {
        404: "There is nothing at this address.",
        405: "This address does not take that method.",
        413: f"That is over {MOST_BODY_BYTES // 1_000_000} MB. Send less at a time.",
        500: "Something went wrong here; nothing you kept is lost. Try again.",
    }
    status = error.code or 500
    return _error(status, error.name.lower().replace(" ", "_"), texts.get(status, error.description or error.name))
