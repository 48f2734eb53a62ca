"""Who may ask: pages of this server only, under its own names; and, where others on the network can reach it, browsers
that came with the key.
"""

import dataclasses
import hmac
import logging
import math
import pathlib
import threading
import time
from collections import OrderedDict
from collections.abc import Callable

from flask import Flask, Response, current_app, g, request
from itsdangerous import BadSignature, URLSafeSerializer

from gray_quill.core.errors import Forbidden, NotFound, Outside
from gray_quill.store.room import Secrets, is_in, let_in, new_key, room_secrets
from gray_quill.web.addresses import Place
from gray_quill.web.certificates import Certificates
from gray_quill.web.context import db, folder, log_now_and_then
from gray_quill.web.key_page import POLICY, key_page
from gray_quill.web.mirror_state import MIRROR_COOKIE, stage_of

OWN_SITES = ("same-origin", "none")
WRONG_FREE = 3  # wrong keys before one has to wait
LONGEST_WAIT_S = 60.0
MOST_KNOWN = 1000  # clients whose wrong keys are remembered
COOKIE_DAYS = 180
WRONG_KEY = "This is not the key. It may have been renewed: look at what the server printed last."
USED_LINK = "This link was used already, or is not one. Take the one that the desk shows now, or type the key."
OPEN_PATHS = ("/in", "/authority.crt")
# what a browser may ask for that came by the link that shows a sheet; what is shown looks at the link again
LOOKED_AT = ("/mirror", "/assets/", "/icon-", "/desk.webmanifest", "/api/mirror/", "/api/pen/surfaces/")
Answer = Response | tuple[Response, int]


@dataclasses.dataclass
class Wrong:
    """Wrong keys of one client, and until when it has to wait, on the monotonic clock."""

    count: int = 0
    until_s: float = 0.0


class Door:
    """The door of an app: the place it serves at, and what lets browsers in."""

    def __init__(self, app: Flask, folder: pathlib.Path, place: Place, trusted: Certificates | None = None) -> None:
        self.place, self.trusted = place, trusted
        self.secrets = room_secrets(folder) if place.room else Secrets("", "")
        self.ticket = new_key()
        self.used: Callable[[], object] = lambda: None
        self._one_by_one = threading.Lock()
        self._wrong: OrderedDict[str, Wrong] = OrderedDict()
        app.extensions["door"] = self
        app.before_request(self.check_names)
        if place.room:
            app.before_request(self.check_in)
            app.add_url_rule("/in", "key_page", self.ask_for_key, methods=["GET", "POST"])
            app.add_url_rule("/in/<ticket>", "follow", self.follow)
            app.add_url_rule("/authority.crt", "authority", self.tell_authority)

    # who asks

    def check_names(self) -> None:
        """A foreign Host, Origin or site is refused, whatever it asks.

        Fetch Metadata Request Headers (W3C): Sec-Fetch-Site tells who asks even where a browser sends no Origin.
        """
        origin = request.headers.get("Origin")
        foreign = request.path.startswith("/api") and request.headers.get("Sec-Fetch-Site", "none") not in OWN_SITES
        ours = self.place.is_ours(request.host) and origin in (None, "", f"{request.scheme}://{request.host}")
        if foreign or not ours:
            message = f"a request under a foreign name came from {request.remote_addr}"
            log_now_and_then("foreign name", logging.WARNING, message)
            raise Forbidden("This server answers only its own pages, under its own addresses. Open the one it printed.")

    def check_in(self) -> Answer | None:
        """Others than the key page and the certificate are for browsers that came with the key."""
        path = request.path
        if self.place.tls and not request.is_secure and path not in OPEN_PATHS:
            words = f"This server speaks TLS: open https://{request.host}/ instead."
            if path.startswith("/api"):
                raise Forbidden(words)
            return self._page(words, 403)
        if path in OPEN_PATHS or path.startswith(("/in/", "/see/")) or self.browser():
            return None
        if request.method in ("GET", "HEAD") and path.startswith(LOOKED_AT) and self.looks_on():
            return None
        if path.startswith("/api"):
            raise Outside("This screen is not let in. Open the link that the server printed, or type the key at /in.")
        return self._page("", 401)

    def browser(self) -> str | None:
        """The browser that asks, where it is let in."""
        if "browser" not in g:
            g.browser = None
            try:
                known = str(self._signer().loads(request.cookies.get(self._cookie(), "")))
            except BadSignature:
                return None
            if is_in(db(), known, request.remote_addr or ""):
                g.browser = known
        return g.browser  # type: ignore[no-any-return]

    def looks_on(self) -> bool:
        """Whether the browser that asks came by the link that shows a sheet, and it still counts."""
        return stage_of(current_app).is_let_in(request.cookies.get(MIRROR_COOKIE, ""))

    # the key

    def ask_for_key(self) -> Answer:
        """The key page; a key typed into it."""
        if request.method == "POST":
            return self._let_in(request.form.get("key", ""), self.secrets.key, WRONG_KEY)
        return self._page("", 200)

    def follow(self, ticket: str) -> Answer:
        """A link: its ticket lets one browser in, once. Every browser keeps the addresses it was at, so what stands in
        one must be worth nothing afterwards; the key itself never does.
        """
        if self.browser():
            return _shown_in()
        if request.method == "HEAD" or "prefetch" in request.headers.get("Sec-Purpose", ""):
            return self._page("", 401)  # nobody looks at it yet
        with self._one_by_one:  # of two at the same moment one comes in
            reply = self._let_in(ticket, self.ticket, USED_LINK)
            if reply.status_code != 303:
                return reply
            self.ticket = new_key()
        self.used()
        return reply

    def _let_in(self, given: str, wanted: str, otherwise: str) -> Response:
        """The browser is given a cookie and shown in, where it has what lets it in."""
        client = request.remote_addr or "?"
        wait_s = self._wait_s(client)
        if wait_s > 0:
            words = f"Too many wrong keys. Wait {math.ceil(wait_s)} s, then try again."
            reply = self._page(words, 429)
            reply.headers["Retry-After"] = str(math.ceil(wait_s))
            return reply
        if not hmac.compare_digest(given.strip().lower().encode(), wanted.encode()):
            self._was_wrong(client)
            logging.getLogger("gray_quill").warning("a wrong key came from %s", client)
            return self._page(otherwise, 401)
        self._wrong.pop(client, None)
        reply = _shown_in()
        value = self._signer().dumps(let_in(db(), client))
        reply.set_cookie(
            self._cookie(),
            str(value),
            max_age=COOKIE_DAYS * 86400,
            httponly=True,
            secure=self.place.tls,
            samesite="Lax",
        )
        reply.headers["Cache-Control"] = "no-store"
        return reply

    def renew(self) -> None:
        """A new key and a new link: the old ones let nobody in any more; who is in stays."""
        self.secrets, self.ticket = room_secrets(folder(), renew=True), new_key()

    def tell_authority(self) -> Answer:
        """The certificate that other screens are to trust."""
        if self.trusted is None:
            raise NotFound("This server has no certificate: it serves without TLS.")
        return Response(self.trusted.authority, mimetype="application/x-x509-ca-cert")

    @property
    def link(self) -> str:
        """What lets one browser in; another one comes after it."""
        return f"{self.place.address}/in/{self.ticket}"

    @property
    def way_in(self) -> str:
        """The page that helps a screen in, where it trusts nothing yet."""
        return f"http://{self.place.names[0]}:{self.place.port}/in"

    @property
    def fingerprint(self) -> str:
        return self.trusted.fingerprint if self.trusted else ""

    def _page(self, said: str, status: int) -> Response:
        reply = Response(key_page(self.place, self.fingerprint, said), status, mimetype="text/html")
        reply.headers["Content-Security-Policy"] = POLICY
        reply.headers["Referrer-Policy"] = "same-origin"  # else the form's own Origin would be told as "null"
        reply.headers["Cache-Control"] = "no-store"
        return reply

    def _cookie(self) -> str:
        return f"gray_quill_{self.place.port}"

    def _signer(self) -> URLSafeSerializer:
        return URLSafeSerializer(self.secrets.cookies, salt="browser")

    def _wait_s(self, client: str) -> float:
        wrong = self._wrong.get(client)
        return wrong.until_s - time.monotonic() if wrong else 0.0

    def _was_wrong(self, client: str) -> None:
        wrong = self._wrong.setdefault(client, Wrong())
        wrong.count += 1
        if wrong.count >= WRONG_FREE:
            wrong.until_s = time.monotonic() + min(LONGEST_WAIT_S, 2.0 ** (wrong.count - WRONG_FREE))
        self._wrong.move_to_end(client)
        while len(self._wrong) > MOST_KNOWN:
            self._wrong.popitem(last=False)


def _shown_in() -> Response:
    return Response(status=303, headers={"Location": "/"})


def door() -> Door:
    """The door of the app that answers."""
    return current_app.extensions["door"]  # type: ignore[no-any-return]
