#!/bin/sh
# All set-up on a fresh Debian 12: system libraries that Qt and a virtual screen need, a virtual environment, packages.
# Safe to run again; does nothing that is done already. `setup.sh demo` leaves the development tools out.
set -eu
cd "$(dirname "$0")/.."
want=${1:-dev}
venv=.venv

packages="python3 python3-venv libegl1 libgl1 libglib2.0-0 libdbus-1-3 libfontconfig1 libfreetype6 libxkbcommon0 libxkbcommon-x11-0
libx11-xcb1 libxcb1 libxcb-cursor0 libxcb-icccm4 libxcb-image0 libxcb-keysyms1 libxcb-randr0 libxcb-render0 libxcb-render-util0
libxcb-shape0 libxcb-shm0 libxcb-sync1 libxcb-util1 libxcb-xfixes0 libxcb-xinerama0 libxcb-xkb1 xvfb xauth dbus-daemon at-spi2-core"

if command -v dpkg-query >/dev/null 2>&1; then
    missing=""
    for package in $packages; do
        case "$package" in python3*) python3 -c 'import ensurepip, venv, sys; sys.exit(sys.version_info < (3, 11))' 2>/dev/null && continue ;; esac
        dpkg-query -W -f='${Status}' "$package" 2>/dev/null | grep -q 'install ok installed' || missing="$missing $package"
    done
    if [ -n "$missing" ]; then
        echo "Missing system packages:$missing"
        if [ "$(id -u)" = 0 ]; then run=""; elif sudo -n true 2>/dev/null; then run="sudo"; else run="none"; fi
        if [ "$run" = none ]; then
            echo "Install them with this line, then try again:"
            echo "    sudo apt-get update && sudo apt-get install -y --no-install-recommends$missing"
            exit 2
        fi
        $run apt-get update -qq
        # shellcheck disable=SC2086
        DEBIAN_FRONTEND=noninteractive $run apt-get install -y -qq --no-install-recommends $missing >/dev/null
    fi
else
    echo "This is not a Debian system; Qt's libraries and Xvfb are taken to be here."
fi

mark="$venv/.done-$want"
if [ -e "$venv/.done-dev" ] && [ "$venv/.done-dev" -nt pyproject.toml ] && [ "$venv/.done-dev" -nt constraints.txt ]; then exit 0; fi
if [ -e "$mark" ] && [ "$mark" -nt pyproject.toml ] && [ "$mark" -nt constraints.txt ]; then exit 0; fi
[ -x "$venv/bin/python" ] || python3 -m venv "$venv"
extra=""
[ "$want" = dev ] && extra="[dev]"
echo "Installing Python packages …"
"$venv/bin/python" -m pip install -q --disable-pip-version-check -c constraints.txt -e ".$extra"
# Some environments switch the writing of byte code off; without it every start compiles anew.
env -u PYTHONDONTWRITEBYTECODE "$venv/bin/python" -m compileall -q "$venv/lib" src >/dev/null 2>&1 || true
touch "$mark"
