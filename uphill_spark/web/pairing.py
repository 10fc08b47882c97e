"""Who comes from elsewhere on the network: the machine itself walks in, a paired device too, any other sees the pairing page and nothing more."""

from __future__ import annotations

import html
import io
import ipaddress
import sys
import uuid
from dataclasses import dataclass

import segno
from flask import Response, redirect, request
from flask_openapi3 import OpenAPI
from pydantic import BaseModel, Field

from .. import store
from ..store.devices import devices, forget, is_paired, offer, pair, waits
from ..words import new_word
from . import errors, gate
from .door import database, json_answer
from .interface import Interface

COOKIE = "uphill-spark-device"
ADDRESS = "/pair"
_LONGEST = 200
_YEAR = 365 * 86400


class NotHere(Exception):
    """Something that is asked only at the machine itself."""


@dataclass
class Pairing:
    """The address that devices use, and who may come in."""

    address: str
    tries: gate.Tries

    def knows(self) -> bool:
        """Whether the request comes from the machine itself or from a paired device."""
        if at_the_machine():
            return True
        token = request.cookies.get(COOKIE, "")
        if not token:
            return False
        with database().work() as session:
            return is_paired(session, token)


def at_the_machine() -> bool:
    """Whether the one who asks sits at the machine on which this runs."""
    try:
        return ipaddress.ip_address(request.remote_addr or "").is_loopback
    except ValueError:
        return False


class Device(BaseModel):
    """A paired device."""

    id: uuid.UUID
    name: str
    paired: str
    seen: str


class Devices(BaseModel):
    """Who may come in, and the address at which; none where the application listens to this machine alone."""

    address: str | None
    devices: list[Device]


class Offered(BaseModel):
    """A word that pairs one device within the hour, the address that holds it, and that address as a picture to be photographed."""

    word: str
    address: str
    picture: str


class DevicePath(BaseModel):
    """A device."""

    device: uuid.UUID = Field(description="its id")


def api(pairing: Pairing | None) -> Interface:
    """Devices: listed, offered a word, forgotten; only at the machine itself."""
    found = Interface("devices", __name__, "/api/devices", refuses=(403, 404, 503))

    @found.get("", responses={200: Devices}, summary="Paired devices, and the address for them")
    def listed() -> Response:
        _only_here()
        with database().work() as session:
            rows = [
                Device(id=d.id, name=d.name, paired=d.paired.date().isoformat(), seen=d.seen.date().isoformat()) for d in devices(session)
            ]
        return json_answer(Devices(address=pairing.address if pairing else None, devices=rows).model_dump_json())

    @found.post("", responses={201: Offered}, summary="A word that pairs one more device")
    def offered() -> Response:
        _only_here()
        if pairing is None:
            raise store.NotFound("Nobody else on the network is listened to: start it with ./spark start --listen.")
        word = new_word()
        with database().work() as session:
            offer(session, word)
        address = pairing_address(pairing.address, word)
        return json_answer(Offered(word=word, address=address, picture=picture(address)).model_dump_json(), 201)

    @found.delete("/<uuid:device>", responses={204: None}, summary="Let a device in no more")
    def gone(path: DevicePath) -> tuple[str, int]:
        _only_here()
        with database().work() as session:
            forget(session, path.device)
        return "", 204

    return found


def pairing_address(address: str, word: str) -> str:
    """Where a device gives the word, the word in it. Behind the #, so that it is in nobody's log."""
    return f"{address}{ADDRESS}#{word}"


def picture(address: str) -> str:
    """An address as a QR code (ISO/IEC 18004), an SVG without colours of its own."""
    out = io.BytesIO()
    segno.make(address, error="m").save(out, kind="svg", xmldecl=False, svgns=True, border=2, scale=4, light="#fff")
    return out.getvalue().decode()


def _only_here() -> None:
    if not at_the_machine():
        raise NotHere("Devices are paired and forgotten at the machine on which Uphill Spark runs.")


def not_here(error: NotHere) -> Response:
    """The answer to a device that asks for what is the machine's own."""
    return errors.answer(403, errors.ErrorBody(code="only_at_the_machine", message=str(error)))


def hang(app: OpenAPI, pairing: Pairing) -> None:
    """Let nobody from elsewhere in who is not paired."""

    @app.before_request
    def ask() -> Response | None:
        if request.path == ADDRESS or request.path.startswith(gate.FEEDS) or pairing.knows():
            return None
        if request.path.startswith("/api/"):
            return errors.answer(401, errors.ErrorBody(code="not_paired", message="This device is not paired: open the page and give the word that is shown at the machine."))  # fmt: skip
        return _page("", 401)

    def at_the_gate() -> Response:
        if request.method != "POST":
            return _page("")
        word, name = (request.form.get(key, "")[:_LONGEST] for key in ("word", "name"))
        if not pairing.tries.left():
            return _page("Too many wrong words. Wait a minute.", 429)
        with database().work() as session:
            token = pair(session, word, name) if waits(session, word) else None
        if token is None:
            pairing.tries.wrong()
            return _page("That word is not good any more: each pairs one device, within the hour. The machine shows a new one.", 403)
        response = redirect("/", 303)
        response.set_cookie(COOKIE, token, httponly=True, samesite="Lax", max_age=_YEAR)
        return response  # type: ignore[return-value]

    app.add_url_rule(ADDRESS, "pair", at_the_gate, methods=["GET", "POST"])


#: Puts the word that stands behind the # of the address into its field. Nothing is sent before somebody presses.
_SCRIPT = "const w=document.querySelector('[name=word]');if(location.hash.length>1){w.value=decodeURIComponent(location.hash.slice(1));history.replaceState(null,'',location.pathname)}"


def _page(trouble: str, status: int = 200) -> Response:
    told = f'<p role="alert">{html.escape(trouble)}</p>' if trouble else ""
    page = (
        f'<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>Pair · Uphill Spark</title><style>{gate.STYLE}</style>'
        f"<main><h1>Pair this device with Uphill Spark</h1>{told}"
        f'<form method="post" action="{ADDRESS}"><p><label>The word that the machine shows<br>'
        '<input name="word" autocomplete="off" autocapitalize="none" required></label></p>'
        '<p><label>What to call this device<br><input name="name" maxlength="80" placeholder="phone in the garage"></label></p><button>Pair it</button></form>'
        f'<script nonce="pair">{_SCRIPT}</script></main></html>'
    )
    policy = "default-src 'none'; style-src 'unsafe-inline'; script-src 'nonce-pair'; form-action 'self'; frame-ancestors 'none'; base-uri 'none'"
    return Response(page, status, mimetype="text/html", headers={"Cache-Control": "no-store", "Content-Security-Policy": policy})


if __name__ == "__main__":
    # For the start command: the address of a word as a picture for a terminal.
    segno.make(pairing_address(*sys.argv[1:3]), error="m").terminal(compact=True)
