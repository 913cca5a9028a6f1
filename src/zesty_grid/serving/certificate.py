"""A certificate for the local network: an authority of one's own, and a certificate signed by it.

X.509 as in RFC 5280. The authority is made once and kept beside the data file; a phone that trusts
it trusts this server and nothing else, as the authority may only sign for the names below.
"""

import ipaddress
import os
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from pathlib import Path

from cryptography import x509
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.x509.oid import ExtendedKeyUsageOID, NameOID

from zesty_grid.serving.addresses import as_addresses

AUTHORITY_FOR = timedelta(days=3650)
# Telephones refuse certificates that are valid for longer than 398 days.
CERTIFICATE_FOR = timedelta(days=390)
RENEWED_BEFORE = timedelta(days=30)


@dataclass(frozen=True)
class LocalCertificate:
    """Files in PEM; `authority` is what a phone has to trust."""

    authority: Path
    certificate: Path
    key: Path

    def fingerprint(self) -> str:
        """SHA-256 of the authority, to compare on the phone."""
        found = x509.load_pem_x509_certificate(self.authority.read_bytes())
        return found.fingerprint(hashes.SHA256()).hex(":").upper()


def certificate_for(folder: Path, names: Sequence[str]) -> LocalCertificate:
    """The certificate for these names and addresses; made anew when they changed or it ends."""
    files = LocalCertificate(folder / "authority.pem", folder / "certificate.pem", folder / "certificate-key.pem")
    authority_key = folder / "authority-key.pem"
    folder.mkdir(parents=True, exist_ok=True)
    if not (authority_key.exists() and _may_sign_for(files.authority, names)):
        _make_authority(files.authority, authority_key, names)
        files.certificate.unlink(missing_ok=True)
    if not _still_fits(files, names):
        _make_certificate(files, authority_key, names)
    return files


def _make_authority(target: Path, key_target: Path, names: Sequence[str]) -> None:
    key = ec.generate_private_key(ec.SECP256R1())
    name = _name("Zesty Grid on this network")
    built = (
        x509.CertificateBuilder()
        .subject_name(name)
        .issuer_name(name)
        .public_key(key.public_key())
        .serial_number(x509.random_serial_number())
        .not_valid_before(_yesterday())
        .not_valid_after(_yesterday() + AUTHORITY_FOR)
        .add_extension(x509.BasicConstraints(ca=True, path_length=0), critical=True)
        .add_extension(_key_usage(signs_certificates=True), critical=True)
        .add_extension(x509.NameConstraints(_only_here(names), None), critical=True)
        .add_extension(x509.SubjectKeyIdentifier.from_public_key(key.public_key()), critical=False)
        .sign(key, hashes.SHA256())
    )
    _write_key(key_target, key)
    target.write_bytes(built.public_bytes(serialization.Encoding.PEM))


def _make_certificate(files: LocalCertificate, authority_key_file: Path, names: Sequence[str]) -> None:
    authority = x509.load_pem_x509_certificate(files.authority.read_bytes())
    signer = serialization.load_pem_private_key(authority_key_file.read_bytes(), None)
    assert isinstance(signer, ec.EllipticCurvePrivateKey)
    key = ec.generate_private_key(ec.SECP256R1())
    built = (
        x509.CertificateBuilder()
        .subject_name(_name("Zesty Grid"))
        .issuer_name(authority.subject)
        .public_key(key.public_key())
        .serial_number(x509.random_serial_number())
        .not_valid_before(_yesterday())
        .not_valid_after(_yesterday() + CERTIFICATE_FOR)
        .add_extension(x509.SubjectAlternativeName([_alternative(n) for n in names]), False)
        .add_extension(x509.BasicConstraints(ca=False, path_length=None), critical=True)
        .add_extension(_key_usage(signs_certificates=False), critical=True)
        .add_extension(x509.ExtendedKeyUsage([ExtendedKeyUsageOID.SERVER_AUTH]), critical=False)
        .add_extension(x509.AuthorityKeyIdentifier.from_issuer_public_key(signer.public_key()), critical=False)
        .sign(signer, hashes.SHA256())
    )
    _write_key(files.key, key)
    files.certificate.write_bytes(built.public_bytes(serialization.Encoding.PEM))


def _still_fits(files: LocalCertificate, names: Sequence[str]) -> bool:
    if not (files.certificate.exists() and files.key.exists()):
        return False
    found = x509.load_pem_x509_certificate(files.certificate.read_bytes())
    named = found.extensions.get_extension_for_class(x509.SubjectAlternativeName).value
    wanted = {_alternative(name) for name in names}
    return wanted <= set(named) and found.not_valid_after_utc - datetime.now(UTC) > RENEWED_BEFORE


def _alternative(name: str) -> x509.GeneralName:
    try:
        return x509.IPAddress(ipaddress.ip_address(name))
    except ValueError:
        return x509.DNSName(name)


def _may_sign_for(authority: Path, names: Sequence[str]) -> bool:
    """An authority of another network does not reach as far as this computer's new names."""
    if not authority.exists():
        return False
    found = x509.load_pem_x509_certificate(authority.read_bytes())
    reach = found.extensions.get_extension_for_class(x509.NameConstraints).value.permitted_subtrees
    return all(any(_reaches(one, _alternative(name)) for one in reach or ()) for name in names)


def _reaches(permitted: x509.GeneralName, name: x509.GeneralName) -> bool:
    """RFC 5280, 4.2.1.10."""
    if isinstance(permitted, x509.DNSName) and isinstance(name, x509.DNSName):
        return f".{name.value}".endswith(f".{permitted.value}")
    if isinstance(permitted, x509.IPAddress) and isinstance(name, x509.IPAddress):
        return name.value in ipaddress.ip_network(permitted.value)
    return False


def _only_here(names: Sequence[str]) -> list[x509.GeneralName]:
    """Private networks (RFC 1918, RFC 4193, RFC 3927), this computer, and its own names."""
    ranges = (
        "10.0.0.0/8",
        "172.16.0.0/12",
        "192.168.0.0/16",
        "169.254.0.0/16",
        "127.0.0.0/8",
        "fc00::/7",
        "fe80::/10",
        "::1/128",
    )
    others = [ipaddress.ip_network(ipaddress.ip_address(one)) for one in as_addresses(names)]
    words = [name for name in names if name not in as_addresses(names)]
    return [
        *(x509.IPAddress(one) for one in (*(ipaddress.ip_network(r) for r in ranges), *others)),
        *(x509.DNSName(word) for word in dict.fromkeys(["local", "localhost", *words])),
    ]


def _name(words: str) -> x509.Name:
    return x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, words)])


def _key_usage(signs_certificates: bool) -> x509.KeyUsage:
    return x509.KeyUsage(
        digital_signature=not signs_certificates,
        content_commitment=False,
        key_encipherment=False,
        data_encipherment=False,
        key_agreement=False,
        key_cert_sign=signs_certificates,
        crl_sign=signs_certificates,
        encipher_only=False,
        decipher_only=False,
    )


def _yesterday() -> datetime:
    """Clocks of phones differ."""
    return datetime.now(UTC) - timedelta(days=1)


def _write_key(target: Path, key: ec.EllipticCurvePrivateKey) -> None:
    """Only its owner may read it, from its first byte on."""
    target.unlink(missing_ok=True)
    written = os.open(target, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600)
    with os.fdopen(written, "wb") as file:
        file.write(
            key.private_bytes(
                serialization.Encoding.PEM, serialization.PrivateFormat.PKCS8, serialization.NoEncryption()
            )
        )
