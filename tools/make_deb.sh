#!/usr/bin/env bash
# Builds build/awlmark_VERSION_amd64.deb. The archives of Debian 12 and Ubuntu 24.04 have no Qt for Python as new as ours,
# so the package carries it and what else is compiled, once for every Python it may meet; everything else of the system
# (Python itself, X and Wayland libraries, fonts) comes from the archive.
set -euo pipefail
cd "$(dirname "$0")/.."
py=.venv/bin/python
version=$($py -c 'import awlmark; print(awlmark.__version__)')
arch=$(dpkg --print-architecture)
root=build/deb/awlmark
lib=$root/usr/lib/awlmark
rm -rf build/deb
mkdir -p "$lib" "$root/usr/bin" "$root/DEBIAN" "$root/usr/share/doc/awlmark" "$root/usr/share/lintian/overrides"
find . -name __pycache__ -path './src/*' -prune -exec rm -rf {} +

$py -m pip wheel --quiet --disable-pip-version-check --no-deps --wheel-dir build/deb/wheels .
platforms=(--platform manylinux_2_28_x86_64 --platform manylinux_2_27_x86_64 --platform manylinux2014_x86_64
    --platform manylinux_2_17_x86_64 --platform manylinux_2_34_x86_64)
[ "$arch" = amd64 ] || platforms=()
into() { # FOLDER PYTHON NAME...
    local folder=$1 python=$2
    shift 2
    $py -m pip install --quiet --disable-pip-version-check --no-compile --only-binary=:all: --implementation cp \
        --python-version "$python" "${platforms[@]}" -c constraints.txt --target "$folder" "$@"
}
into "$lib/common" 3.11 --no-deps build/deb/wheels/*.whl PySide6-Essentials shiboken6
for python in 3.11 3.12 3.13; do
    into "$lib/python$python" "$python" numpy scipy msgspec ezdxf openpyxl pypdf icalendar defusedxml
done
# What a window program does not use of Qt: its builder tools, QML, SQL; and tests and headers of the rest.
rm -rf "$lib"/common/PySide6/Qt/{qml,libexec,metatypes} "$lib"/common/PySide6/{include,typesystems,glue,doc,scripts} \
    "$lib"/common/{bin,share} "$lib"/common/PySide6/Qt/plugins/{qmltooling,qmllint,designer,sqldrivers,assetimporters}
rm -f "$lib"/common/PySide6/{designer,linguist,lupdate,lrelease,uic,rcc,assistant,qmlls,qmllint,qmlformat,balsam,balsamui,svgtoqml}
rm -f "$lib"/common/PySide6/Qt/lib/lib{Qt6Qml,Qt6Quick,Qt6Designer,Qt6Help,Qt6Sql,Qt6Test,Qt6Quick3D,Qt6Labs}*
rm -f "$lib"/common/PySide6/Qt{Qml,Quick,QuickWidgets,QuickControls2,QuickTest,Designer,Help,Sql,Test,UiTools}.*
find "$lib" -type d \( -name tests -o -name include -o -name __pycache__ \) -prune -exec rm -rf {} +
find "$lib" -type f \( -name '*.pyi' -o -name '*.a' -o -name '*.lib' -o -name '*.pxd' -o -name '*.pyx' -o -name '*.h' \) -delete
rm -rf "$lib"/python*/bin "$lib"/python*/share

cat >"$root/usr/bin/awlmark" <<'LAUNCH'
#!/usr/bin/python3
"""Starts Awlmark with what its package carries for this Python."""
import os
import sys

own = "/usr/lib/awlmark"
compiled = f"{own}/python{sys.version_info[0]}.{sys.version_info[1]}"
if not os.path.isdir(compiled):
    sys.exit(f"awlmark: this package has nothing for Python {sys.version.split()[0]}; it knows 3.11 to 3.13.")
sys.path[:0] = [f"{own}/common", compiled]
from awlmark.cli import main  # noqa: E402

sys.exit(main())
LAUNCH
chmod 755 "$root/usr/bin/awlmark"

share=$root/usr/share
install -Dm644 packaging/awlmark.desktop "$share/applications/awlmark.desktop"
install -Dm644 packaging/awlmark.metainfo.xml "$share/metainfo/awlmark.metainfo.xml"
install -Dm644 packaging/awlmark-mime.xml "$share/mime/packages/awlmark.xml"
install -Dm644 packaging/completions/bash/awlmark "$share/bash-completion/completions/awlmark"
install -Dm644 packaging/completions/zsh/_awlmark "$share/zsh/vendor-completions/_awlmark"
install -Dm644 packaging/completions/fish/awlmark.fish "$share/fish/vendor_completions.d/awlmark.fish"
install -Dm644 src/awlmark/data/awlmark.svg "$share/icons/hicolor/scalable/apps/awlmark.svg"
QT_QPA_PLATFORM=offscreen $py tools/icons.py "$share/icons/hicolor"
install -d "$share/man/man1"
gzip -9nc packaging/awlmark.1 >"$share/man/man1/awlmark.1.gz"
{
    echo "Awlmark is under the Apache License 2.0; on Debian its text is in /usr/share/common-licenses/Apache-2.0."
    echo
    echo "Carried along, each under its own licence, whose text lies beside it in /usr/lib/awlmark:"
    find "$lib" -maxdepth 2 -name '*.dist-info' -printf '%f\n' | sed 's/\.dist-info$//; s/^/  /' | sort -u
} >"$share/doc/awlmark/copyright"
printf 'awlmark (%s) stable; urgency=low\n\n  * See CHANGELOG.md of the source.\n\n -- The Awlmark developers <awlmark@localhost>  %s\n' \
    "$version" "$(date -R -r CHANGELOG.md)" | gzip -9n >"$share/doc/awlmark/changelog.gz"
cat >"$share/lintian/overrides/awlmark" <<'SAID'
# Qt for Python and the compiled Python packages come as their makers build them: see tools/make_deb.sh for the reason.
awlmark: embedded-library
awlmark: unstripped-binary-or-object
awlmark: shared-library-lacks-prerequisites
awlmark: binary-or-shlib-defines-rpath
awlmark: custom-library-search-path
awlmark: library-not-linked-against-libc
# There is no mail host of ours to name.
awlmark: bogus-mail-host
awlmark: bogus-mail-host-in-debian-changelog
awlmark: missing-dependency-on-libc
awlmark: arch-dependent-file-not-in-arch-specific-directory
SAID
find "$root" -type d -exec chmod 755 {} +
find "$lib" -type f -exec chmod 644 {} +
cat >"$root/DEBIAN/control" <<CONTROL
Package: awlmark
Version: $version
Architecture: $arch
Maintainer: The Awlmark developers <awlmark@localhost>
Installed-Size: $(du -sk "$root/usr" | cut -f1)
Depends: python3 (>= 3.11), python3 (<< 3.14), libc6 (>= 2.34), libstdc++6, zlib1g, libegl1, libgl1, libxkbcommon0, libxkbcommon-x11-0, libdbus-1-3, libfontconfig1, libfreetype6, libglib2.0-0 | libglib2.0-0t64, libx11-xcb1, libxcb-cursor0, libxcb-icccm4, libxcb-image0, libxcb-keysyms1, libxcb-randr0, libxcb-render-util0, libxcb-shape0, libxcb-xkb1
Recommends: shared-mime-info, hicolor-icon-theme
Section: science
Priority: optional
Description: design the branch circuit for an electric-vehicle charger
 From what the cars need to the signed test sheet: panel and load, place,
 route, protective device, conductor, voltage drop, conduit fill, materials
 list with cut plan, install steps and test log, by the National Electrical
 Code or by BS 7671. A planning aid: local code and licensed practice decide.
CONTROL
cat >"$root/DEBIAN/postinst" <<'DONE'
#!/bin/sh
set -e
if [ "$1" = configure ]; then
    # Compiled once here: whoever starts it may not write there.
    version=$(python3 -c 'import sys; print("%d.%d" % sys.version_info[:2])')
    python3 -m compileall -q -j 0 /usr/lib/awlmark/common/awlmark "/usr/lib/awlmark/python$version" >/dev/null 2>&1 || true
fi
DONE
cat >"$root/DEBIAN/prerm" <<'DONE'
#!/bin/sh
set -e
find /usr/lib/awlmark -name __pycache__ -type d -prune -exec rm -rf {} +
DONE
chmod 755 "$root/DEBIAN/postinst" "$root/DEBIAN/prerm"
(cd "$root" && find usr -type f -print0 | sort -z | xargs -0 md5sum >DEBIAN/md5sums)
mkdir -p build
dpkg-deb --root-owner-group -Zxz -z1 --build "$root" "build/awlmark_${version}_$arch.deb"
