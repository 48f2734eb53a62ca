"""The page another screen meets first: a field for the key, how the certificate comes to be trusted, and what is lost
without it. It stands alone: nothing of the screens is given to who has not come in.
"""

from html import escape

from gray_quill.web.addresses import Place

POLICY = "default-src 'none'; style-src 'unsafe-inline'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'"
STYLE = """
body { margin: 0; padding: 24px 20px 60px; background: #f6f2e9; color: #20242b; font: 18px/1.5 Georgia, serif }
main { max-width: 620px; margin: 0 auto }
h1, h2 { font-style: italic; font-weight: 600; margin: 0 0 8px }
h2 { margin-top: 32px; font-size: 19px }
p, ol { margin: 8px 0 }
li { margin: 6px 0 }
input, button, a.press { font: inherit; min-height: 48px; padding: 0 14px; border: 1px solid #8f897c;
  border-radius: 4px; background: #fffdf8; color: inherit; box-sizing: border-box }
input { width: 100%; font-family: monospace; letter-spacing: .06em }
button, a.press { display: inline-block; line-height: 46px; margin-top: 10px; text-decoration: none;
  border-color: #2e5e5a }
code { font: 14px/1.4 monospace; overflow-wrap: anywhere }
.said { border-left: 4px solid #a23b2a; padding: 6px 12px; background: #fffdf8 }
"""
TRUST = (
    ("On a tablet or telephone", (
        "Press the button above; the device asks whether to install a profile or a certificate.",
        "Say yes, then look in its settings, under security or general, for certificates or profiles, and switch this "
        "one on for web sites.",
        "Come back to this page by its https address: the warning is gone.",
    )),
    ("On a laptop", (
        "Save the certificate with the button above.",
        "Open the browser's settings, look for certificates under privacy and security, choose authorities, and bring "
        "the saved file in as one that may vouch for web sites.",
        "Close all windows of the browser once, and come back.",
    )),
    ("On an e-ink slate", (
        "Most have the settings of a tablet; look for certificates under security, and choose the saved file there.",
        "One whose browser knows no certificates can go on past the warning: ink is written then too.",
    )),
)  # fmt: skip
LOST = (
    "Browsers tell a page all a pen does only over a connection they trust. Without it reports arrive one a frame "
    "instead of every one the pen makes, quick curves get corners, and the screen cannot be kept awake."
)


def key_page(place: Place, fingerprint: str, said: str) -> str:
    """The page as HTML. said: why it is shown, where something is amiss."""
    parts = [f"<h1>Gray Quill</h1>{f'<p class=said role=alert>{escape(said)}</p>' if said else ''}"]
    parts.append(
        "<p>A desk on this network. It lets this screen in by a link that it prints and shows as a code, or with the "
        "key beside it.</p>"
        '<form method="post" action="/in"><label>Key <input name="key" autocomplete="off" autocapitalize="none" '
        'spellcheck="false" maxlength="60" required></label><button>Come in</button></form>'
    )
    if place.tls:
        parts.append(f"<h2>So that this screen trusts the connection</h2><p>{escape(LOST)}</p>")
        parts.append('<p><a class="press" href="/authority.crt" download>The certificate</a></p>')
        for title, steps in TRUST:
            parts.append(f"<h2>{title}</h2><ol>{''.join(f'<li>{escape(s)}</li>' for s in steps)}</ol>")
        parts.append(
            "<p>Compare, before you trust it: the device shows a SHA-256 fingerprint, and so did the server when it "
            f"started:<br><code>{escape(fingerprint)}</code></p>"
        )
    else:
        parts.append(f"<h2>Not over a trusted connection</h2><p>{escape(LOST)} Start the server without --no-tls.</p>")
    return (
        '<!doctype html><html lang="en"><meta charset="utf-8"><title>Gray Quill: come in</title>'
        f'<meta name="viewport" content="width=device-width, initial-scale=1"><style>{STYLE}</style>'
        f"<main>{''.join(parts)}</main></html>"
    )
