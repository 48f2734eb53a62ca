"""The room: how other screens come in, which are in, and putting one out again."""

import segno
from flask import Blueprint

from gray_quill.store.room import Browser, browsers_in, sign_out
from gray_quill.web.access import door
from gray_quill.web.api import Model, operation
from gray_quill.web.context import db

room = Blueprint("room", __name__)


class Screen(Model):
    """A browser that is in; here: it is the one that asks."""

    browser: Browser
    here: bool


class RoomReply(Model):
    """open: whether others on the network can come. way_in: address of the page that helps a screen in; link: the
    address that lets one screen in, once; key: what else does, typed there; codes: both addresses as pictures of QR
    codes (ISO/IEC 18004). fingerprint: SHA-256 of the certificate that screens are to trust; "" without TLS.
    """

    open: bool
    tls: bool
    way_in: str
    link: str
    key: str
    way_in_code: str
    link_code: str
    fingerprint: str
    screens: list[Screen]


@operation(room, "GET", "/room", RoomReply)
def read_room() -> RoomReply:
    """How another screen comes in, and which are."""
    at = door()
    if not at.place.room:
        return RoomReply(
            open=False, tls=False, way_in="", link="", key="", way_in_code="", link_code="", fingerprint="", screens=[]
        )
    here = at.browser()
    return RoomReply(
        open=True,
        tls=at.place.tls,
        way_in=at.way_in,
        link=at.link,
        key=at.secrets.key,
        way_in_code=qr_picture(at.way_in),
        link_code=qr_picture(at.link),
        fingerprint=at.fingerprint,
        screens=[Screen(browser=b, here=b.id == here) for b in browsers_in(db())],
    )


@operation(room, "POST", "/room/key", RoomReply)
def renew_key() -> RoomReply:
    """A new key: the old link lets nobody in any more; screens that are in stay in."""
    door().renew()
    return read_room()


@operation(room, "DELETE", "/room/screens/<browser_id>", RoomReply)
def put_out(browser_id: str) -> RoomReply:
    """Sign a screen out: it needs the key from now on."""
    sign_out(db(), browser_id)
    return read_room()


def qr_picture(words: str) -> str:
    """A QR code as a data URL, black on white, with its quiet zone."""
    return segno.make(words, error="m").svg_data_uri(scale=4, border=4, light="#fff")
