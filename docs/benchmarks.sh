#!/usr/bin/env bash
# Prints the tables of benchmarks.md, measured on this machine. Wants hyperfine, jq, rsvg-convert and chromium.
set -euo pipefail
cd "$(dirname "$0")/.."
work=$(mktemp -d)
trap 'rm -rf "$work"' EXIT
CGO_ENABLED=0 go build -o "$work/archetyp" ./cmd/archetyp
export PATH="$work:$PATH"
cd "$work"
archetyp demo demo --quiet
cp demo/archetyp.lock lock

# large COUNT FILE: a drawing of COUNT rectangles that two rules style
large() {
  echo '<svg xmlns="http://www.w3.org/2000/svg" width="4000" height="4000"><style>.a{fill:#0a5}.b rect{stroke:#123}</style><g class="b">'
  for ((i = 0; i < $1; i++)); do
    echo "<rect id=\"r$i\" class=\"a\" x=\"$((i % 200 * 20))\" y=\"$((i / 200 * 16))\" width=\"16\" height=\"12\" rx=\"3\"/>"
  done
  echo '</g></svg>'
}
large 25000 >half.svg
large 50000 >whole.svg

# row NAME HYPERFINE-ARGUMENT...: the medians of nine runs of one command, or of two and their ratio
row() {
  local name=$1
  shift
  hyperfine -N --warmup 2 --runs 9 --export-json result.json "$@" >/dev/null 2>&1
  jq -r --arg name "$name" '[.results[].median * 1000] | "| \($name) | " + (map("\(round) ms") | join(" | "))
    + (if length > 1 then " | \(.[0] / .[1] * 100 | round / 100)" else "" end) + " |"' result.json
}

row '`archetyp --version`' 'archetyp --version'
row '`archetyp sync`, nothing changed' 'archetyp -C demo sync'
row '`archetyp status`' 'archetyp -C demo status'
row '`archetyp sync`, all anew' --prepare 'rm -f demo/archetyp.lock' 'archetyp -C demo sync'
cp lock demo/archetyp.lock
row '`archetyp demo`' --prepare 'rm -rf again' 'archetyp demo again --quiet'
for screen in timetable booking components; do
  for density in 1 2 3; do
    row "\`archetyp render $screen --at $density\`" "archetyp -C demo render $screen --at $density -o own.png" \
      "rsvg-convert --zoom $density demo/design/$screen.svg -o peer.png"
  done
done
row '`archetyp outline`, 25,000 elements' 'archetyp outline half.svg --json' 'rsvg-convert half.svg -o peer.png'
row '`archetyp outline`, 50,000 elements' 'archetyp outline whole.svg --json' 'rsvg-convert whole.svg -o peer.png'
row '`archetyp render timetable`, Chromium as peer' 'archetyp -C demo render timetable -o own.png' \
  "chromium --headless --no-sandbox --window-size=1280,800 --screenshot=peer.png file://$work/demo/design/timetable.svg"
