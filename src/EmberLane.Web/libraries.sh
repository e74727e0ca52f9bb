#!/usr/bin/env bash
# Lays the browser libraries of package.json into wwwroot/lib (and axe-core beside the browser tests). Needed only when a version changes:
# the results are committed.
set -euo pipefail
here=$(cd "$(dirname "$0")" && pwd)
work=$(mktemp -d); trap 'rm -rf "$work"' EXIT
cp "$here/package.json" "$work"
(cd "$work" && npm install --ignore-scripts --no-audit --no-fund >/dev/null)
from="$work/node_modules" to="$here/wwwroot/lib"
rm -rf "$to" && mkdir -p "$to/fonts" "$to/licences"
cp "$from/bootstrap/dist/css/bootstrap.min.css" "$from/htmx.org/dist/htmx.min.js" "$from/sortablejs/Sortable.min.js" "$to"
sed -i '/sourceMappingURL/d' "$to/bootstrap.min.css"
for style in normal italic; do
  cp "$from/@fontsource-variable/literata/files/literata-latin-wght-$style.woff2" \
    "$from/@fontsource-variable/literata/files/literata-latin-ext-wght-$style.woff2" "$to/fonts"
done
cp "$from/@fontsource-variable/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-wght-normal.woff2" \
  "$from/@fontsource-variable/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-ext-wght-normal.woff2" "$to/fonts"
cp "$from/@fontsource/ibm-plex-mono/files/ibm-plex-mono-latin-400-normal.woff2" "$to/fonts"
for package in bootstrap htmx.org sortablejs @fontsource-variable/literata @fontsource-variable/atkinson-hyperlegible-next \
  @fontsource/ibm-plex-mono; do
  cp "$from/$package/LICENSE" "$to/licences/$(echo "$package" | tr -d '@' | tr / -).txt"
done
mkdir -p "$here/../../tests/EmberLane.Web.Tests/lib" && cp "$from/axe-core/axe.min.js" "$here/../../tests/EmberLane.Web.Tests/lib"
