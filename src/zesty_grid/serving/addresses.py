"""Under which names and addresses this computer is reached by others."""

import ipaddress
import socket
from collections.abc import Iterable
from contextlib import suppress

THIS_COMPUTER = ("127.0.0.1", "localhost", "::1")
EVERY_ADDRESS = ("0.0.0.0", "::", "")


def is_only_here(host: str) -> bool:
    """Whether a server on this host is reached from this computer alone."""
    return host in THIS_COMPUTER or (_is_address(host) and ipaddress.ip_address(host).is_loopback)


def own_names(host: str) -> list[str]:
    """What others may call this computer when the server listens on `host`: the address that a
    phone should open first, then the rest."""
    if host not in EVERY_ADDRESS:
        return [host]
    name = socket.gethostname()
    local = name if name.endswith(".local") else f"{name}.local"
    return list(dict.fromkeys([*_network_addresses(), local, name]))


def in_url(name: str) -> str:
    return f"[{name}]" if ":" in name else name


def as_addresses(names: Iterable[str]) -> list[str]:
    return [name for name in names if _is_address(name)]


def _network_addresses() -> list[str]:
    """Of this computer in its networks. Nothing is sent: connecting a datagram socket only looks
    up from which address it would go (203.0.113.0/24 is for documentation, RFC 5737)."""
    found = []
    for family, far in ((socket.AF_INET, "203.0.113.1"), (socket.AF_INET6, "2001:db8::1")):
        try:
            with socket.socket(family, socket.SOCK_DGRAM) as probe:
                probe.connect((far, 9))
                found.append(str(probe.getsockname()[0]))
        except OSError:
            continue
    with suppress(OSError):
        found += [str(info[4][0]) for info in socket.getaddrinfo(socket.gethostname(), None)]
    return [one for one in dict.fromkeys(found) if _is_address(one) and not _is_loopback(one)]


def _is_address(text: str) -> bool:
    try:
        ipaddress.ip_address(text)
    except ValueError:
        return False
    return True


def _is_loopback(text: str) -> bool:
    return ipaddress.ip_address(text).is_loopback
