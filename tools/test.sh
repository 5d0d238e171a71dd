#!/bin/sh
# Set up a virtual environment and pass every check: sh tools/test.sh
# On Debian, as root or with sudo, it installs what is missing of python3-venv and chromium.
set -eu
cd "$(dirname "$0")/.."

as_root() {
    if [ "$(id -u)" = 0 ]; then "$@"; else sudo "$@"; fi
}

needed=""
python3 -c "import ensurepip" 2>/dev/null || needed="python3-venv"
command -v chromium >/dev/null || [ -n "${VERSE_TRAY_BROWSER:-}" ] || needed="$needed chromium"
if [ -n "$needed" ]; then
    as_root apt-get update -qq
    # shellcheck disable=SC2086
    as_root env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends $needed fonts-dejavu-core >/dev/null
fi

[ -d .venv ] || python3 -m venv .venv
.venv/bin/python -m pip install --quiet --no-compile --disable-pip-version-check -e ".[dev]"
.venv/bin/ruff check .
.venv/bin/ruff format --check --quiet .
.venv/bin/mypy
unset PYTHONDONTWRITEBYTECODE # most tests start the program: compiled once, it starts sooner
exec .venv/bin/python -m pytest -n 4 --dist worksteal "$@"
