# Sourced by ./start and ./test: makes what is missing, skips what is there.
# Each step leaves a stamp with the checksum of what it was made from.

say() { printf '%s\n' "$*" >&2; }
fail() { say "steady-tide: $*"; exit 1; }

checksum() { cat "$@" 2>/dev/null | sha256sum | cut -d' ' -f1; }

need_debian_packages() { # names...
  [ "$(id -u)" = 0 ] || fail "missing: $*. Ask an administrator to run: apt-get install -y $*"
  command -v apt-get >/dev/null || fail "missing: $*, and there is no apt-get here to install them with."
  say "installing $* from Debian's packages"
  export DEBIAN_FRONTEND=noninteractive
  apt-get install -y -q "$@" >/dev/null 2>&1 \
    || { apt-get update -q >/dev/null 2>&1; apt-get install -y -q "$@" >/dev/null; } \
    || fail "could not install $*. Run 'apt-get install -y $*' to see why."
}

need_postgresql() {
  ls /usr/lib/postgresql/*/bin/postgres >/dev/null 2>&1 || need_debian_packages postgresql
}

need_chromium() {
  command -v chromium >/dev/null || need_debian_packages chromium
}

# The same Chromium without windows makes the tests faster; they do without it where it cannot be had.
prefer_headless_shell() {
  command -v chromium-headless-shell >/dev/null && return
  [ "$(id -u)" = 0 ] && command -v apt-get >/dev/null || return 0
  DEBIAN_FRONTEND=noninteractive timeout 120 apt-get install -y -q --no-install-recommends chromium-headless-shell >/dev/null 2>&1 || true
}

# Compiled once instead of at every start: some environments forbid Python to do it by itself.
need_compiled() {
  .venv/bin/python -m compileall -q steady_tide "$@" || true # a folder that cannot be written still serves
}

# The certificates that this system trusts. A proxy between here and the registry may show one of its own, and neither
# Python's installers nor Node look there by themselves. What a person has set stays.
SYSTEM_CERTIFICATES=${SYSTEM_CERTIFICATES:-}
for bundle in /etc/ssl/cert.pem /etc/pki/tls/certs/ca-bundle.crt /etc/ssl/certs/ca-certificates.crt; do
  if [ -z "$SYSTEM_CERTIFICATES" ] && [ -r "$bundle" ]; then SYSTEM_CERTIFICATES=$bundle; fi
done

trusting() { # command...
  (
    export UV_SYSTEM_CERTS="${UV_SYSTEM_CERTS:-1}"
    if [ -n "$SYSTEM_CERTIFICATES" ]; then
      [ -n "${SSL_CERT_DIR:-}" ] || export SSL_CERT_FILE="${SSL_CERT_FILE:-$SYSTEM_CERTIFICATES}"
      export REQUESTS_CA_BUNDLE="${REQUESTS_CA_BUNDLE:-$SYSTEM_CERTIFICATES}"
      export NODE_EXTRA_CA_CERTS="${NODE_EXTRA_CA_CERTS:-$SYSTEM_CERTIFICATES}"
    fi
    "$@"
  )
}

# uv installs in seconds what takes pip minutes; where uv cannot be had, or does not get through, pip does it.
install_packages() { # lock file
  local lock=$1 pip='.venv/bin/python -m pip install -q --disable-pip-version-check'
  if [ ! -x .venv/bin/uv ]; then
    # uv alone first, from the same pinned lock.
    .venv/bin/python - "$lock" <<'PY' >.venv/uv.lock
import re, sys
text = open(sys.argv[1]).read()
print(re.search(r"^uv==.*?(?=^\S|\Z)", text, re.M | re.S).group(0))
PY
    trusting $pip --require-hashes -r .venv/uv.lock || say "could not install uv, the fast installer"
  fi
  say "installing the Python packages of $lock"
  if [ -x .venv/bin/uv ] \
    && trusting .venv/bin/uv pip sync -q --compile-bytecode --python .venv/bin/python --require-hashes "$lock" \
    && trusting .venv/bin/uv pip install -q --python .venv/bin/python --no-deps --no-build-isolation -e .; then
    return
  fi
  say "uv, the fast installer, did not get through; pip installs the packages instead, which takes some minutes"
  trusting $pip --require-hashes -r "$lock" || fail "could not install the packages of $lock"
  trusting $pip --no-deps --no-build-isolation -e . || fail "could not install steady-tide itself"
}

need_environment() { # lock file
  local lock=$1 sum
  sum=compiled-$(checksum "$lock" pyproject.toml)
  [ "$(cat .venv/.stamp 2>/dev/null)" = "$sum$lock" ] && return
  # The run-time lock is a part of the test lock: do not take packages away again.
  [ "$lock" = requirements.lock ] && [ "$(cat .venv/.stamp 2>/dev/null)" = "compiled-$(checksum requirements-dev.lock pyproject.toml)requirements-dev.lock" ] && return
  if [ ! -x .venv/bin/python ]; then
    local python=/usr/bin/python3
    [ -x $python ] || python=$(command -v python3) || need_debian_packages python3 python3-venv
    $python -c 'import sys; sys.exit(sys.version_info < (3, 11))' || fail "Python 3.11 or newer is needed; $python is older."
    $python -c 'import ensurepip, venv' 2>/dev/null || need_debian_packages python3-venv
    say "making the Python environment in .venv"
    $python -m venv .venv || fail "could not make .venv"
  fi
  install_packages "$lock"
  printf '%s' "$sum$lock" >.venv/.stamp
}

# The pure parts of the front end in one file, for the tests.
need_pure_bundle() {
  (cd web && npm run --silent pure -- --logLevel error >&2) || fail "the pure parts of the front end could not be bundled"
}

need_front_end() {
  command -v node >/dev/null || need_debian_packages nodejs npm
  local sum
  sum=$(find web -path web/node_modules -prune -o -path web/dist -prune -o -path web/dist-pure -prune -o -type f -print0 | sort -z | xargs -0 cat | sha256sum | cut -d' ' -f1)
  [ "$(cat web/dist/.stamp 2>/dev/null)" = "$sum" ] && return
  local lock
  lock=$(checksum web/package-lock.json)
  if [ "$(cat web/node_modules/.stamp 2>/dev/null)" != "$lock" ]; then
    say "installing the front end's packages"
    (cd web && trusting npm ci --no-audit --no-fund --loglevel=error >&2) || fail "npm ci failed in web/"
    printf '%s' "$lock" >web/node_modules/.stamp
  fi
  say "building the front end"
  (cd web && npm run --silent build -- --logLevel warn >&2) || fail "the front end did not build"
  printf '%s' "$sum" >web/dist/.stamp
}
