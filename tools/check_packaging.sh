#!/usr/bin/env bash
# Validates desktop entry, AppStream metainfo and file type with what is installed of the validators.
set -euo pipefail
cd "$(dirname "$0")/../packaging"
if command -v desktop-file-validate >/dev/null; then desktop-file-validate awlmark.desktop; fi
if command -v appstreamcli >/dev/null; then
    # It warns of an id without a domain, and newer ones of a missing homepage: we have neither. Errors are errors.
    told=$(appstreamcli validate --no-net awlmark.metainfo.xml || true)
    if grep -q '^E:' <<<"$told" || ! grep -q 'Validation' <<<"$told"; then
        echo "$told" >&2
        exit 1
    fi
fi
if command -v xmllint >/dev/null; then xmllint --noout awlmark-mime.xml; fi
for file in completions/bash/awlmark ../tools/*.sh; do bash -n "$file"; done
