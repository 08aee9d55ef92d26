"""A certificate for phones on one's own network: made once, trusted by its authority, renewed."""

import hashlib
import ssl
import stat
import subprocess
import sys
from datetime import timedelta
from pathlib import Path

import pytest

from openfurrow import certificate
from openfurrow.certificate import Secured, certificate_for
from openfurrow.serve import Reached
from openfurrow.store.errors import StoreError
from tests.conftest import ROOT


def shaken(secured: Secured, asked: str, authority: Path | None) -> None:
    """A handshake of a client that trusts one authority, in memory. Raises ssl.SSLError."""
    server = ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER)
    server.load_cert_chain(secured.certificate, secured.key)
    client = ssl.create_default_context(cafile=str(authority) if authority else None)
    # As strict as the newest phones are about what a certificate says of itself.
    client.verify_flags |= ssl.VERIFY_X509_STRICT
    to_server, to_client = ssl.MemoryBIO(), ssl.MemoryBIO()
    here = client.wrap_bio(to_client, to_server, server_hostname=asked)
    there = server.wrap_bio(to_server, to_client, server_side=True)
    for _ in range(4):
        done = 0
        for end in (here, there):
            try:
                end.do_handshake()
                done += 1
            except ssl.SSLWantReadError:
                pass
        if done == 2:
            return
    raise AssertionError("the handshake does not end")


@pytest.mark.parametrize("host", ["192.168.7.20", "plans.example.org"])
def test_who_trusts_the_authority_trusts_the_server_by_its_names_alone(
    tmp_path: Path, host: str
) -> None:
    secured = certificate_for(tmp_path / "tls", host)
    for name in (host, "localhost", "127.0.0.1"):
        shaken(secured, name, secured.authority)
    with pytest.raises(ssl.SSLCertVerificationError, match="mismatch"):
        shaken(secured, "other.example.org", secured.authority)
    with pytest.raises(ssl.SSLCertVerificationError):
        shaken(secured, host, None)
    other = certificate_for(tmp_path / "other", host)
    with pytest.raises(ssl.SSLCertVerificationError):
        shaken(secured, host, other.authority)


def test_it_is_made_once_and_the_authority_outlives_it(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    home = tmp_path / "tls"
    first = certificate_for(home, "192.168.7.20")
    held = {path.name: path.read_bytes() for path in home.iterdir()}
    certificate_for(home, "192.168.7.20")
    assert {path.name: path.read_bytes() for path in home.iterdir()} == held
    # Under another name, or near its end, it is made anew by the same authority: phones trust it still.
    for change in ("name", "age"):
        if change == "age":
            monkeypatch.setattr(certificate, "RENEWED_BEFORE", timedelta(days=500))
        certificate_for(home, "192.168.7.21")
        assert (home / "server.crt").read_bytes() != held["server.crt"]
        assert (home / "authority.crt").read_bytes() == held["authority.crt"]
        held["server.crt"] = (home / "server.crt").read_bytes()
    shaken(first, "192.168.7.21", first.authority)


def test_nobody_else_reads_the_keys(tmp_path: Path) -> None:
    certificate_for(tmp_path / "tls", "192.168.7.20")
    assert stat.S_IMODE((tmp_path / "tls").stat().st_mode) == 0o700
    for path in (tmp_path / "tls").glob("*.key"):
        assert stat.S_IMODE(path.stat().st_mode) == 0o600


def test_the_fingerprint_is_what_a_phone_shows(tmp_path: Path) -> None:
    secured = certificate_for(tmp_path / "tls", "192.168.7.20")
    assert secured.authority
    plain = ssl.PEM_cert_to_DER_cert(secured.authority.read_text())
    assert secured.fingerprint().replace(":", "").lower() == hashlib.sha256(plain).hexdigest()


@pytest.mark.parametrize(
    "given, words",
    [
        (("here.pem", None), "together"),
        ((None, "key.pem"), "together"),
        (("here.pem", "no.pem"), "There is no file"),
    ],
)
def test_a_certificate_that_is_given_comes_with_its_key(
    tmp_path: Path, given: tuple[str | None, str | None], words: str
) -> None:
    (tmp_path / "here.pem").write_text("x")
    paths = [tmp_path / name if name else None for name in given]
    with pytest.raises(StoreError, match=words):
        Reached("plans.example.org", *paths).secured(tmp_path)


@pytest.mark.parametrize(
    "arguments, words",
    [
        (["--host", "https://plans.example.org"], "without https://"),
        (["--host", "10.0.0.5:8443"], "without a port"),
        (["--certificate", "x.pem"], "go with --host"),
    ],
)
def test_the_command_says_how_a_host_is_written(arguments: list[str], words: str) -> None:
    found = subprocess.run(
        [sys.executable, "-m", "openfurrow.cli", "start", *arguments],
        cwd=ROOT,
        capture_output=True,
        text=True,
        check=False,
        timeout=60,
    )
    assert found.returncode != 0 and words in found.stderr
