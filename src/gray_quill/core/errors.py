"""Everything Gray Quill raises on purpose. Each message says what to do.

GrayQuillError            status 400
├── InputError            400  a value the user gave cannot be used
│   ├── BodyError         422  fields of a request are missing, unknown or out of their bounds
│   ├── NoInk                  nothing is written yet where ink is asked for
│   ├── TraceError             a stroke's samples are unusable
│   ├── RecordError            a recipe, hand, device or paper is out of its declared bounds
│   └── FormatError            a file is not what it claims to be
├── Outside               401  who asks is not let in
├── Forbidden             403  who asks is not of this server
├── NotFound              404  no such thing is kept
├── Conflict              409  the change does not fit what is kept
│   ├── Stale                  it was made from an older sight of what is kept
│   └── Binned                 what it is for lies in the bin
├── TooLarge              413  over a stated limit
├── WrongMedia            415  a kind of file or body that is not read here
├── Busy                  429  too much is asked for at once
│   └── Crowded                 ... so that it has to be asked again in a moment
└── Unavailable           503  the disk, the database or the queue does not take it now
"""


class GrayQuillError(Exception):
    """Root of the tree. `message` is for the user, `field` names the value at fault where there is one."""

    status = 400
    code = "bad_request"

    def __init__(self, message: str, field: str | None = None) -> None:
        super().__init__(message)
        self.message = message
        self.field = field


class InputError(GrayQuillError):
    code = "bad_input"


class BodyError(InputError):
    status = 422
    code = "bad_body"


class NoInk(InputError):
    code = "no_ink"


class TraceError(InputError):
    code = "bad_trace"


class RecordError(InputError):
    code = "bad_record"


class FormatError(InputError):
    code = "bad_file"


class Outside(GrayQuillError):
    status = 401
    code = "outside"


class Forbidden(GrayQuillError):
    status = 403
    code = "forbidden"


class NotFound(GrayQuillError):
    status = 404
    code = "not_found"


class Conflict(GrayQuillError):
    status = 409
    code = "conflict"


class Stale(Conflict):
    code = "stale"


class Binned(Conflict):
    code = "binned"


class TooLarge(GrayQuillError):
    status = 413
    code = "too_large"


class WrongMedia(GrayQuillError):
    status = 415
    code = "wrong_media"


class Busy(GrayQuillError):
    status = 429
    code = "busy"


class Crowded(Busy):
    code = "crowded"


class Unavailable(GrayQuillError):
    """`code` tells what is in the way; what was asked may be asked again."""

    status = 503
    code = "unavailable"

    def __init__(self, message: str, code: str | None = None) -> None:
        super().__init__(message)
        self.code = code or type(self).code


def unknown_choice(what: str, got: object, options: object, field: str | None = None) -> RecordError:
    """The error for a name that is not among the options; it lists them."""
    listed = ", ".join(str(o) for o in options)  # type: ignore[attr-defined]
    return RecordError(f"{what} {got!r} is not known. Choose one of: {listed}.", field)
