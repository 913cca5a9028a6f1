"""The certificate for the local network, judged by OpenSSL as a phone would."""

import socket
import ssl
import stat
import threading
from pathlib import Path

import pytest
from cryptography import x509

from zesty_grid.serving.addresses import in_url, is_only_here, own_names
from zesty_grid.serving.certificate import LocalCertificate, certificate_for

NAMES = ["192.168.1.20", "studio.local", "127.0.0.1", "localhost"]


@pytest.fixture
def made(tmp_path: Path) -> LocalCertificate:
    return certificate_for(tmp_path / "certificate", NAMES)


def shake_hands(server: LocalCertificate, name: str, trusted: Path) -> str:
    """Connects to a server with this certificate as `name`; the version of TLS that was agreed."""
    inside = ssl.create_default_context(ssl.Purpose.CLIENT_AUTH)
    inside.load_cert_chain(server.certificate, server.key)
    outside = ssl.create_default_context(cafile=str(trusted))
    listening = socket.create_server(("127.0.0.1", 0))

    def answer() -> None:
        arrived, _ = listening.accept()
        try:
            with inside.wrap_socket(arrived, server_side=True) as secure:
                secure.recv(1)
        except OSError:
            pass  # the other side did not trust it

    thread = threading.Thread(target=answer)
    thread.start()
    try:
        with (
            socket.create_connection(listening.getsockname()) as plain,
            outside.wrap_socket(plain, server_hostname=name) as secure,
        ):
            return str(secure.version())
    finally:
        listening.close()
        thread.join()


@pytest.mark.parametrize("name", NAMES)
def test_whoever_trusts_the_authority_trusts_every_name_of_this_computer(made, name):
    assert shake_hands(made, name, made.authority) in ("TLSv1.2", "TLSv1.3")


def test_nobody_else_is_trusted_and_no_other_name(made, tmp_path):
    with pytest.raises(ssl.SSLCertVerificationError, match="IP address mismatch"):
        shake_hands(made, "192.168.1.21", made.authority)
    other = certificate_for(tmp_path / "other", NAMES)
    with pytest.raises(ssl.SSLCertVerificationError, match=r"signature failure|unable to get local"):
        shake_hands(made, "localhost", other.authority)


def test_the_authority_cannot_sign_for_a_site_of_the_wide_world(made, tmp_path):
    """RFC 5280, 4.2.1.10: names outside of the permitted ones are not believed."""
    stolen = certificate_for(tmp_path / "stolen", ["bank.example"])
    # Its authority reaches to the name that it was made for, and the first one does not.
    assert shake_hands(stolen, "bank.example", stolen.authority)
    reach = x509.load_pem_x509_certificate(made.authority.read_bytes()).extensions
    permitted = reach.get_extension_for_class(x509.NameConstraints).value.permitted_subtrees
    assert "bank.example" not in [one.value for one in permitted]


def test_keys_can_be_read_by_their_owner_alone(made):
    for key in made.key.parent.glob("*-key.pem"):
        assert stat.S_IMODE(key.stat().st_mode) == 0o600
    assert len(list(made.key.parent.glob("*-key.pem"))) == 2


def test_the_authority_stays_while_the_certificate_follows_the_address(made, tmp_path):
    before = made.fingerprint(), made.certificate.read_bytes()
    again = certificate_for(tmp_path / "certificate", NAMES)
    assert (again.fingerprint(), again.certificate.read_bytes()) == before
    moved = certificate_for(tmp_path / "certificate", ["192.168.7.3", *NAMES[1:]])
    assert moved.fingerprint() == before[0]
    assert shake_hands(moved, "192.168.7.3", moved.authority)


def test_phones_take_a_certificate_that_is_valid_for_about_a_year(made):
    found = x509.load_pem_x509_certificate(made.certificate.read_bytes())
    lasts = found.not_valid_after_utc - found.not_valid_before_utc
    assert 365 < lasts.days <= 398  # CA/Browser Forum, baseline requirements 6.3.2


def test_what_is_reached_from_here_alone():
    assert all(is_only_here(host) for host in ("127.0.0.1", "localhost", "::1", "127.0.0.7"))
    assert not any(is_only_here(host) for host in ("0.0.0.0", "::", "192.168.1.20", "studio"))


def test_the_names_of_this_computer_begin_with_the_one_to_open():
    assert own_names("192.168.1.20") == ["192.168.1.20"]
    names = own_names("0.0.0.0")
    assert f"{socket.gethostname().removesuffix('.local')}.local" in names
    assert "127.0.0.1" not in names
    assert in_url("fe80::1") == "[fe80::1]"
    assert in_url("studio.local") == "studio.local"
