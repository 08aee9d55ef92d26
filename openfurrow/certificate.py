"""A certificate for phones on one's own network: an authority of this server's own, and what it signs.

A phone keeps the field book only over HTTPS. Who has a certificate of a public authority gives that.
"""

import ipaddress
import os
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from pathlib import Path

from cryptography import x509
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.x509.oid import ExtendedKeyUsageOID, NameOID

# Phones take no longer one from anybody; the authority outlives what it signs.
LASTS, AUTHORITY_LASTS = timedelta(days=397), timedelta(days=3650)
RENEWED_BEFORE = timedelta(days=30)
# Clocks of phones go wrong by some hours.
BACKDATED = timedelta(days=1)
Key = ec.EllipticCurvePrivateKey


@dataclass(frozen=True)
class Secured:
    """Files of a certificate and its key, and of the authority that a phone has to trust, if ours."""

    certificate: Path
    key: Path
    authority: Path | None = None

    def fingerprint(self) -> str:
        """The authority's SHA-256, to be compared with what the phone shows."""
        assert self.authority is not None
        found = x509.load_pem_x509_certificate(self.authority.read_bytes())
        return ":".join(f"{byte:02X}" for byte in found.fingerprint(hashes.SHA256()))


def _names(host: str) -> x509.SubjectAlternativeName:
    try:
        own: x509.GeneralName = x509.IPAddress(ipaddress.ip_address(host))
    except ValueError:
        own = x509.DNSName(host)
    local = x509.IPAddress(ipaddress.ip_address("127.0.0.1"))
    return x509.SubjectAlternativeName([own, x509.DNSName("localhost"), local])


def _write(path: Path, content: bytes, mode: int) -> None:
    """A file that nobody else may read from its first byte on, whole or not at all."""
    beside = path.with_suffix(f"{path.suffix}.new")
    beside.unlink(missing_ok=True)
    with os.fdopen(os.open(beside, os.O_WRONLY | os.O_CREAT | os.O_EXCL, mode), "wb") as out:
        out.write(content)
    beside.replace(path)


def _pem(key: Key) -> bytes:
    return key.private_bytes(
        serialization.Encoding.PEM,
        serialization.PrivateFormat.PKCS8,
        serialization.NoEncryption(),
    )


def _signed(
    subject: x509.Name,
    key: Key,
    issuer: x509.Name,
    by: Key,
    lasts: timedelta,
    extensions: tuple[tuple[x509.ExtensionType, bool], ...],
) -> bytes:
    now = datetime.now(UTC)
    builder = (
        x509.CertificateBuilder()
        .subject_name(subject)
        .issuer_name(issuer)
        .public_key(key.public_key())
        .serial_number(x509.random_serial_number())
        .not_valid_before(now - BACKDATED)
        .not_valid_after(now - BACKDATED + lasts)
    )
    for extension, critical in extensions:
        builder = builder.add_extension(extension, critical)
    return builder.sign(by, hashes.SHA256()).public_bytes(serialization.Encoding.PEM)


def _usage(*, signs_others: bool) -> x509.KeyUsage:
    return x509.KeyUsage(
        digital_signature=not signs_others,
        content_commitment=False,
        key_encipherment=False,
        data_encipherment=False,
        key_agreement=False,
        key_cert_sign=signs_others,
        crl_sign=signs_others,
        encipher_only=False,
        decipher_only=False,
    )


def _authority(home: Path) -> tuple[x509.Certificate, Key]:
    """This server's own authority, made once."""
    path, key_path = home / "authority.crt", home / "authority.key"
    if not path.exists() or not key_path.exists():
        key = ec.generate_private_key(ec.SECP256R1())
        name = x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, "Open Furrow on this site")])
        own = (
            (x509.BasicConstraints(ca=True, path_length=0), True),
            (_usage(signs_others=True), True),
            (x509.SubjectKeyIdentifier.from_public_key(key.public_key()), False),
        )
        _write(key_path, _pem(key), 0o600)
        _write(path, _signed(name, key, name, key, AUTHORITY_LASTS, own), 0o644)
    key_found = serialization.load_pem_private_key(key_path.read_bytes(), None)
    assert isinstance(key_found, ec.EllipticCurvePrivateKey)
    return x509.load_pem_x509_certificate(path.read_bytes()), key_found


def _is_good(path: Path, host: str) -> bool:
    """Whether a certificate is for this name, and for some time yet."""
    if not path.exists():
        return False
    found = x509.load_pem_x509_certificate(path.read_bytes())
    names = found.extensions.get_extension_for_class(x509.SubjectAlternativeName).value
    lasts = found.not_valid_after_utc - datetime.now(UTC)
    return names == _names(host) and lasts > RENEWED_BEFORE


def certificate_for(home: Path, host: str) -> Secured:
    """A certificate by which a phone may ask for ``host``, a name or an address; made where none is."""
    home.mkdir(parents=True, exist_ok=True, mode=0o700)
    path, key_path = home / "server.crt", home / "server.key"
    authority, by = _authority(home)
    if not _is_good(path, host) or not key_path.exists():
        key = ec.generate_private_key(ec.SECP256R1())
        name = x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, host[:64])])
        own = (
            (_names(host), False),
            (x509.BasicConstraints(ca=False, path_length=None), True),
            (_usage(signs_others=False), True),
            (x509.ExtendedKeyUsage([ExtendedKeyUsageOID.SERVER_AUTH]), False),
            (x509.AuthorityKeyIdentifier.from_issuer_public_key(by.public_key()), False),
        )
        _write(key_path, _pem(key), 0o600)
        _write(path, _signed(name, key, authority.subject, by, LASTS, own), 0o644)
    return Secured(path, key_path, home / "authority.crt")
