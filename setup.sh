#!/usr/bin/env bash
# Installs what the program needs from Debian, where it is missing: a database
# server, a browser for the tests, the tools to build with. Go itself is not
# among it: see the README.
set -euo pipefail

missing=()
need() { missing+=("$1"); }

ls /usr/lib/postgresql/*/bin/initdb >/dev/null 2>&1 || command -v initdb >/dev/null || need postgresql
command -v chromium >/dev/null || command -v google-chrome >/dev/null || need chromium
command -v node >/dev/null || need nodejs
command -v npm >/dev/null || need npm

if ! command -v go >/dev/null; then
  echo "Go is not installed. Install Go 1.26 or newer, then run this again." >&2
  exit 1
fi

if [ ${#missing[@]} -gt 0 ]; then
  echo "== installing from Debian: ${missing[*]}"
  as=()
  if [ "$(id -u)" -ne 0 ]; then
    command -v sudo >/dev/null || { echo "Ask an administrator to install: ${missing[*]}" >&2; exit 1; }
    as=(sudo)
  fi
  "${as[@]}" apt-get update -qq
  # The packages start a database server of their own where they can; ours is
  # another, on a port of its own.
  "${as[@]}" env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "${missing[@]}" >/dev/null
fi
