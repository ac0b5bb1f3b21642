#!/usr/bin/env bash
# Looks for what Python's venv, Qt and the real-window test need from the system; installs it when root, otherwise
# prints the one line that does.
set -euo pipefail
need=()
known=$(ldconfig -p 2>/dev/null || /sbin/ldconfig -p 2>/dev/null || true)
has_library() { grep -qF "$1" <<<"$known"; }
case "${1:-qt}" in
venv)
    python3 -c 'import ensurepip, venv' 2>/dev/null || need+=(python3-venv)
    ;;
qt)
    has_library libEGL.so.1 || need+=(libegl1)
    has_library libGL.so.1 || need+=(libgl1)
    has_library libxkbcommon.so.0 || need+=(libxkbcommon0)
    has_library libxkbcommon-x11.so.0 || need+=(libxkbcommon-x11-0)
    has_library libdbus-1.so.3 || need+=(libdbus-1-3)
    has_library libfontconfig.so.1 || need+=(libfontconfig1)
    has_library libglib-2.0.so.0 || need+=(libglib2.0-0)
    has_library libxcb-cursor.so.0 || need+=(libxcb-cursor0)
    has_library libxcb-icccm.so.4 || need+=(libxcb-icccm4)
    has_library libxcb-image.so.0 || need+=(libxcb-image0)
    has_library libxcb-keysyms.so.1 || need+=(libxcb-keysyms1)
    has_library libxcb-randr.so.0 || need+=(libxcb-randr0)
    has_library libxcb-render-util.so.0 || need+=(libxcb-render-util0)
    has_library libxcb-shape.so.0 || need+=(libxcb-shape0)
    has_library libxcb-xinerama.so.0 || need+=(libxcb-xinerama0)
    has_library libxcb-xkb.so.1 || need+=(libxcb-xkb1)
    ;;
xvfb)
    command -v Xvfb >/dev/null || need+=(xvfb)
    ;;
desktop)
    # What a desktop has beside a display: a window manager, a Wayland compositor, the buses of a screen reader.
    command -v Xvfb >/dev/null || need+=(xvfb)
    command -v openbox >/dev/null || need+=(openbox)
    command -v weston >/dev/null || need+=(weston)
    command -v dbus-daemon >/dev/null || need+=(dbus)
    [ -e /usr/libexec/at-spi-bus-launcher ] || [ -e /usr/lib/at-spi2-core/at-spi-bus-launcher ] || need+=(at-spi2-core)
    ;;
esac
[ ${#need[@]} -eq 0 ] && exit 0
if [ "$(id -u)" -eq 0 ] && command -v apt-get >/dev/null; then
    echo "Installing ${need[*]}"
    # A refused index (no network, a stale mirror) must not stop what the present index can serve.
    apt-get update -qq || echo "The package index could not be refreshed; trying the one at hand."
    DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "${need[@]}" >/dev/null
else
    echo "Awlmark needs some system libraries. Run this, then the same command again:" >&2
    echo "    sudo apt-get install ${need[*]}" >&2
    exit 1
fi
