# Sourced by the three commands: system packages first, then the virtual environment in .venv.
# Installs with apt only when something is missing, with sudo when not root.

unset PYTHONDONTWRITEBYTECODE PYTHONPATH

missing_packages() {
  command -v mariadbd >/dev/null || [ -x /usr/sbin/mariadbd ] || echo mariadb-server
  command -v mariadb-tzinfo-to-sql >/dev/null || echo mariadb-server
  command -v gcc >/dev/null || echo gcc
  command -v pkg-config >/dev/null || echo pkg-config
  { command -v pkg-config >/dev/null && pkg-config --exists libmariadb 2>/dev/null; } || echo libmariadb-dev
  [ -d /usr/share/zoneinfo/Europe ] || echo tzdata
  if ! command -v python3 >/dev/null || ! python3 -c 'import sys; sys.exit(sys.version_info < (3, 11))'; then
    echo python3 python3-venv python3-dev
  else
    python3 -c 'import ensurepip, venv' 2>/dev/null || echo python3-venv
    python3 -c 'import os, sys, sysconfig; sys.exit(not os.path.exists(os.path.join(sysconfig.get_paths()["include"], "Python.h")))' || echo python3-dev
  fi
  if [ "${1:-}" = browser ]; then
    command -v chromium >/dev/null || echo chromium
    command -v chromedriver >/dev/null || echo chromium-driver
  fi
}

need_packages() {
  local missing
  missing=$(missing_packages "${1:-}" | tr ' ' '\n' | sort -u | tr '\n' ' ')
  [ -z "${missing// /}" ] && return 0
  echo "Installing: $missing"
  if ! command -v apt-get >/dev/null; then
    echo "These packages are missing and there is no apt-get here to install them: $missing" >&2
    exit 1
  fi
  local sudo=""
  if [ "$(id -u)" != 0 ]; then
    if ! command -v sudo >/dev/null; then
      echo "Please install these as root, then start again: $missing" >&2
      exit 1
    fi
    sudo=sudo
  fi
  local log
  log=$(mktemp)
  # A service the package may try to start is not ours and not needed.
  if ! { $sudo apt-get update && $sudo env DEBIAN_FRONTEND=noninteractive apt-get install -y --no-install-recommends $missing; } >"$log" 2>&1; then
    tail -n 15 "$log" >&2
    echo "The packages could not be installed: $missing" >&2
    exit 1
  fi
  rm -f "$log"
}

# What is set up lives in this folder: say so plainly when it cannot.
need_writable() {
  local probe="$1/.probe.$$"
  [ -d "$1" ] || mkdir -p "$1" 2>/dev/null
  if ! touch "$probe" 2>/dev/null; then
    echo "This folder cannot be written to, and Olive Ribbon keeps what it needs in it: $(readlink -f "$1" || echo "$PWD/$1")" >&2
    exit 1
  fi
  rm -f "$probe"
  local free_mb
  free_mb=$(df -Pm "$1" | awk 'NR==2 {print $4}')
  if [ "${free_mb:-0}" -lt "$2" ]; then
    echo "The disk is nearly full: $free_mb MB are left here, and $2 are needed to set up. Make room, then start again." >&2
    exit 1
  fi
}

need_venv() {
  local wanted="$1" stamp=.venv/.installed sum
  sum=$(cat "$wanted" requirements.txt | sha256sum | cut -d' ' -f1)
  if [ -x .venv/bin/python ] && .venv/bin/python -c pass 2>/dev/null; then
    grep -qs "$sum" "$stamp" && return 0
    need_writable .venv 700
  else
    need_writable . 1000
    rm -rf .venv
    echo "Making the Python environment"
    python3 -m venv .venv || exit 1
  fi
  [ -x .venv/bin/uv ] || .venv/bin/python -m pip install -q --disable-pip-version-check uv || exit 1
  VIRTUAL_ENV="$PWD/.venv" .venv/bin/uv pip install -q --compile-bytecode --require-hashes -r "$wanted" || exit 1
  echo "$sum" >>"$stamp"
}
