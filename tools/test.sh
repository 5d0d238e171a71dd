#!/bin/sh
# Set up a virtual environment and pass every check: sh tools/test.sh
# On Debian, as root or with sudo, it installs what is missing of python3-venv and chromium.
set -eu
cd "$(dirname "$0")/.."

as_root() {
    if [ "$(id -u)" = 0 ]; then "$@"; else sudo "$@"; fi
}
update() {
    [ -n "${updated:-}" ] || as_root apt-get -o DPkg::Lock::Timeout=120 update -qq
    updated=yes
}
install() {
    as_root env DEBIAN_FRONTEND=noninteractive apt-get -o DPkg::Lock::Timeout=120 install -y -qq --no-install-recommends "$@" >/dev/null
}

if ! python3 -c "import ensurepip" 2>/dev/null; then
    update
    install python3-venv
fi
browser=""
if [ -z "${VERSE_TRAY_BROWSER:-}" ] && ! command -v chromium >/dev/null; then
    update
    install chromium fonts-dejavu-core & # beside the packages, none of which needs it
    browser=$!
fi

pip() { .venv/bin/python -m pip install --quiet --no-compile --disable-pip-version-check "$@"; }
[ -d .venv ] || python3 -m venv .venv
pip "pip>=25" # what Debian brings takes half as long again to choose the packages
pip -e ".[dev]"
.venv/bin/ruff check .
.venv/bin/ruff format --check --quiet .
.venv/bin/mypy
[ -z "$browser" ] || wait "$browser"
export CI="${CI:-yes}" # random examples are the same each time
unset PYTHONDONTWRITEBYTECODE # most tests start the program: compiled once, it starts sooner
exec .venv/bin/python -m pytest -n 4 --dist worksteal "$@"
