"""Where this machine is reached: its own addresses and names, and which of them a request may name."""

import dataclasses
import ipaddress
import socket

import ifaddr

from gray_quill.core.errors import InputError

LOOPBACK = "127.0.0.1"
LOOPBACK_NAMES = ("127.0.0.1", "localhost", "[::1]")


@dataclasses.dataclass(frozen=True)
class Place:
    """Where the server listens. names: hosts that requests may name, as they stand in an address; the first is told to
    people. room: others on the network may come, with a key. tls: they come by https.
    """

    host: str
    port: int
    names: tuple[str, ...] = LOOPBACK_NAMES
    room: bool = False
    tls: bool = False

    @property
    def scheme(self) -> str:
        return "https" if self.tls else "http"

    @property
    def address(self) -> str:
        return f"{self.scheme}://{self.names[0]}:{self.port}"

    def is_ours(self, host: str) -> bool:
        """Whether a Host header names this server; the port is not looked at, a browser may leave it out."""
        name = host.rsplit(":", 1)[0] if not host.endswith("]") else host
        return name.lower().rstrip(".") in self.names


def place_of(host: str, port: int, names: tuple[str, ...] = (), tls: bool = True) -> Place:
    """Where to listen: on this machine alone, or for the room. names: further ones this machine goes by. Raises
    InputError for a host that is no address of this machine.
    """
    try:
        address = ipaddress.ip_address("127.0.0.1" if host == "localhost" else host)
    except ValueError:
        raise InputError(f"{host!r} is no address. Give one of this machine's, or 0.0.0.0 for all of them.") from None
    if address.version != 4:
        raise InputError("Give an IPv4 address of this machine, or 0.0.0.0 for all of them.")
    if address.is_loopback and not names:
        return Place(host if host != "localhost" else LOOPBACK, port)
    own = own_addresses() if address.is_unspecified else (str(address),)
    named = socket.gethostname().lower()
    local = (named, named if named.endswith(".local") else f"{named}.local")
    known = dict.fromkeys((*(n.lower() for n in names), *own, *local, *LOOPBACK_NAMES))
    return Place(str(address), port, tuple(known), room=True, tls=tls)


def own_addresses() -> tuple[str, ...]:
    """This machine's IPv4 addresses that others on its network may reach, the likeliest first."""
    every = [ip.ip for adapter in ifaddr.get_adapters() for ip in adapter.ips]
    found = [ipaddress.IPv4Address(ip) for ip in every if isinstance(ip, str)]  # those of IPv6 are tuples
    outside = [a for a in found if not a.is_loopback and not a.is_link_local]
    return tuple(str(a) for a in sorted(outside, key=lambda a: (not a.is_private, str(a).startswith("172.17."), a)))
