"""What ./start installs with: the certificates that the system trusts, and pip where uv does not get through."""

from __future__ import annotations

import base64
import hashlib
import http.server
import os
import ssl
import subprocess
import sys
import threading
import zipfile
from collections.abc import Iterator
from functools import partial
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[2]
TRUST = ("SSL_CERT_FILE", "SSL_CERT_DIR", "REQUESTS_CA_BUNDLE", "CURL_CA_BUNDLE", "PIP_CERT", "NODE_EXTRA_CA_CERTS")
PLAIN = {
    name: value
    for name, value in os.environ.items()
    if name not in TRUST and not name.upper().endswith("_PROXY") and not name.startswith(("PIP_", "UV_"))
} | {"PIP_CONFIG_FILE": os.devnull, "UV_NO_CONFIG": "1"}


def shell(script: str, folder: Path, **extra: str) -> subprocess.CompletedProcess[str]:
    """Run a script with the functions of setup.sh at hand."""
    return subprocess.run(
        ["bash", "-c", f"set -euo pipefail\n. {ROOT}/scripts/setup.sh\n{script}"],
        cwd=folder,
        env=PLAIN | extra,
        capture_output=True,
        text=True,
        timeout=60,
        check=False,
    )


@pytest.fixture(scope="module")
def certificate(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A certificate that nobody trusts yet, as a proxy has one; what it signs for this machine stands beside it."""
    folder = tmp_path_factory.mktemp("proxy")
    make = ["openssl", "req", "-x509", "-newkey", "rsa:2048", "-nodes", "-days", "2"]
    authority = ["-subj", "/CN=proxy of a house", "-keyout", "house.key", "-out", "house.pem"]
    server = ["-subj", "/CN=localhost", "-keyout", "server.key", "-out", "server.pem", "-CA", "house.pem", "-CAkey", "house.key",
              "-addext", "subjectAltName=DNS:localhost", "-addext", "basicConstraints=critical,CA:FALSE"]  # fmt: skip
    for what in (authority, server):
        subprocess.run([*make, *what], cwd=folder, check=True, capture_output=True)
    return folder / "house.pem"


def wheel(folder: Path) -> None:
    """A package of one line, and the page that lists it."""
    folder.mkdir(parents=True)
    info = "driftwood-1.0.dist-info"
    files = {
        "driftwood.py": "LENGTH_M = 3\n",
        f"{info}/METADATA": "Metadata-Version: 2.1\nName: driftwood\nVersion: 1.0\n",
        f"{info}/WHEEL": "Wheel-Version: 1.0\nGenerator: test\nRoot-Is-Purelib: true\nTag: py3-none-any\n",
    }
    with zipfile.ZipFile(folder / "driftwood-1.0-py3-none-any.whl", "w") as archive:
        lines = []
        for name, text in files.items():
            archive.writestr(name, text)
            digest = base64.urlsafe_b64encode(hashlib.sha256(text.encode()).digest()).rstrip(b"=").decode()
            lines.append(f"{name},sha256={digest},{len(text)}")
        archive.writestr(f"{info}/RECORD", "\n".join([*lines, f"{info}/RECORD,,", ""]))
    (folder / "index.html").write_text('<a href="driftwood-1.0-py3-none-any.whl">driftwood-1.0-py3-none-any.whl</a>')


class Quiet(http.server.SimpleHTTPRequestHandler):
    def log_message(self, format: str, *args: object) -> None:  # its name is the library's
        pass


@pytest.fixture(scope="module")
def registry(certificate: Path, tmp_path_factory: pytest.TempPathFactory) -> Iterator[str]:
    folder = tmp_path_factory.mktemp("registry")
    wheel(folder / "simple" / "driftwood")
    server = http.server.ThreadingHTTPServer(("127.0.0.1", 0), partial(Quiet, directory=str(folder)))
    context = ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER)
    context.load_cert_chain(certificate.with_name("server.pem"), certificate.with_name("server.key"))
    server.socket = context.wrap_socket(server.socket, server_side=True)
    thread = threading.Thread(target=server.serve_forever)
    thread.start()
    yield f"https://localhost:{server.server_port}/simple/"
    server.shutdown()
    thread.join()
    server.server_close()


INSTALLERS = {
    "uv": f"{ROOT}/.venv/bin/uv pip install -q --no-cache --no-deps --python {sys.executable} --target there --index-url",
    "pip": f"{sys.executable} -m pip install -q --no-cache-dir --retries 0 --no-deps --target there --index-url",
}


@pytest.mark.parametrize("installer", INSTALLERS)
def test_installers_trust_what_the_system_trusts(
    installer: str, registry: str, certificate: Path, tmp_path: Path
) -> None:
    command = f"{INSTALLERS[installer]} {registry} driftwood"
    alone = shell(command, tmp_path)
    assert alone.returncode, "the certificate is one that only this system trusts"
    trusting = shell(f"trusting {command}", tmp_path, SYSTEM_CERTIFICATES=str(certificate))
    assert trusting.returncode == 0, trusting.stderr
    assert (tmp_path / "there" / "driftwood.py").is_file()


def test_the_front_ends_installer_does_too(registry: str, certificate: Path, tmp_path: Path) -> None:
    command = f"node -e \"fetch('{registry}').then(found => process.exit(found.ok ? 0 : 2), () => process.exit(1))\""
    assert shell(command, tmp_path).returncode == 1
    assert shell(f"trusting {command}", tmp_path, SYSTEM_CERTIFICATES=str(certificate)).returncode == 0


def test_it_does_without_certificates_of_the_system(tmp_path: Path) -> None:
    said = shell("SYSTEM_CERTIFICATES= trusting env", tmp_path)
    assert said.returncode == 0, said.stderr
    assert not any(line.startswith(("SSL_CERT_FILE=", "REQUESTS_CA_BUNDLE=")) for line in said.stdout.splitlines())


def test_what_a_person_has_set_stays(tmp_path: Path) -> None:
    own = shell("trusting env", tmp_path, SYSTEM_CERTIFICATES="/system.pem", SSL_CERT_FILE="/mine.pem").stdout
    assert {"SSL_CERT_FILE=/mine.pem", "REQUESTS_CA_BUNDLE=/system.pem"} <= set(own.splitlines())
    folder = shell("trusting env", tmp_path, SYSTEM_CERTIFICATES="/system.pem", SSL_CERT_DIR="/mine").stdout
    assert not any(line.startswith("SSL_CERT_FILE=") for line in folder.splitlines())


@pytest.mark.parametrize("uv", ["does not get through", "cannot be had"])
def test_pip_installs_where_uv_cannot(uv: str, tmp_path: Path) -> None:
    tools = tmp_path / ".venv" / "bin"
    tools.mkdir(parents=True)
    (tmp_path / "some.lock").write_text("driftwood==1.0\nuv==9.9 \\\n    --hash=sha256:0\n")
    (tools / "python").write_text(
        f'#!/bin/sh\n[ "$1" = - ] && exec {sys.executable} "$@"\necho "$*" >>{tmp_path}/asked\n'
        'case "$*" in *uv.lock*) exit 1;; esac\n'
    )
    (tools / "python").chmod(0o755)
    if uv == "does not get through":
        (tools / "uv").write_text("#!/bin/sh\necho 'invalid peer certificate' >&2\nexit 2\n")
        (tools / "uv").chmod(0o755)
    ran = shell("install_packages some.lock", tmp_path)
    assert ran.returncode == 0, ran.stderr
    assert "pip installs the packages instead" in ran.stderr
    asked = (tmp_path / "asked").read_text().splitlines()[-2:]
    assert "--require-hashes -r some.lock" in asked[0]
    assert asked[1].endswith("--no-deps --no-build-isolation -e .")
