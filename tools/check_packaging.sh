#!/usr/bin/env bash
# Validates desktop entry, AppStream metainfo and file type with what is installed of the validators.
set -euo pipefail
cd "$(dirname "$0")/../packaging"
if command -v desktop-file-validate >/dev/null; then desktop-file-validate awlmark.desktop; fi
if command -v appstreamcli >/dev/null; then
    # The id is the program's name: nothing of ours stands under a domain.
    appstreamcli validate --no-net --override=cid-desktopapp-is-not-rdns=info awlmark.metainfo.xml >/dev/null
fi
if command -v xmllint >/dev/null; then xmllint --noout awlmark-mime.xml; fi
for file in completions/bash/awlmark ../tools/*.sh; do bash -n "$file"; done
