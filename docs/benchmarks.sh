#!/usr/bin/env bash
# Prints the tables of benchmarks.md, measured on this machine. Wants hyperfine, jq, rsvg-convert, chromium and xliff2po.
set -euo pipefail
cd "$(dirname "$0")/.."
work=$(mktemp -d)
trap 'rm -rf "$work"' EXIT
CGO_ENABLED=0 go build -o "$work/archetyp" ./cmd/archetyp
export PATH="$work:$PATH"
cd "$work"
archetyp demo demo --quiet
cp demo/archetyp.lock lock

# cards COUNT NOTE: a drawing of COUNT elements: cards of a rectangle, a path, words and a circle with a gradient, each
# with a note that makes it as wordy as drawing programs are
cards() {
  awk -v n="$1" -v note="$2" 'BEGIN {
    print "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"4000\" height=\"4000\"><style>.a{fill:#0a5}.b rect{stroke:#123}</style>"
    print "<defs><linearGradient id=\"g\"><stop stop-color=\"#fff\"/><stop offset=\"1\" stop-color=\"#06c\"/></linearGradient></defs>"
    for (k = 0; k < n / 5; k++) {
      printf "<g id=\"card%d\" class=\"b\" data-component=\"card\" transform=\"translate(%d %d)\">\n", k, k % 50 * 80, int(k / 50) * 60
      printf "<rect id=\"r%d\" class=\"a\" width=\"72\" height=\"52\" rx=\"3\" data-note=\"%s\"/>\n", k, note
      printf "<path d=\"M4 4h10v10h-10z M20 4c4 0 8 3 8 8s-4 8-8 8-8-4-8-8 4-8 8-8z\" style=\"fill:#%06x;stroke-width:2\" data-note=\"%s\"/>\n", k * 7, note
      printf "<text x=\"8\" y=\"40\" font-size=\"12\" font-family=\"Go\" data-note=\"%s\">Row %d</text>\n", note, k % 97
      printf "<circle cx=\"60\" cy=\"12\" r=\"6\" fill=\"url(#g)\" data-note=\"%s\"/>\n</g>\n", note
    }
    print "</svg>"
  }'
}
wordy="somebody drew this in a program that likes to write a lot of words into its attributes, such as these"
cards 1000 "$wordy" >1000.svg
cards 10000 "$wordy" >10000.svg
cards 25000 "$wordy" >25000.svg
cards 50000 "$wordy" >50000.svg
cards 100000 "$wordy" >100000.svg

# row NAME HYPERFINE-ARGUMENT...: the medians of nine runs of one command, or of two and their ratio
row() {
  local name=$1
  shift
  hyperfine -N --warmup 1 --runs 7 --export-json result.json "$@" >/dev/null 2>&1
  jq -r --arg name "$name" '[.results[].median * 1000] | "| \($name) | " + (map("\(round) ms") | join(" | "))
    + (if length > 1 then " | \(.[0] / .[1] * 100 | round / 100)" else "" end) + " |"' result.json
}

row '`archetyp --version`' 'archetyp --version'
row '`archetyp sync`, nothing changed' 'archetyp -C demo sync'
row '`archetyp status`' 'archetyp -C demo status'
row '`archetyp sync`, all anew' --prepare 'rm -f demo/archetyp.lock' 'archetyp -C demo sync'
cp lock demo/archetyp.lock
row '`archetyp demo`' --prepare 'rm -rf again' 'archetyp demo again --quiet'
row '`archetyp spec booking #adults`' 'archetyp -C demo spec booking "#adults"'
row '`archetyp outline booking --alike`' 'archetyp -C demo outline booking --alike'
row '`archetyp measure booking #adults #children`' 'archetyp -C demo measure booking "#adults" "#children"'
row '`archetyp sample booking 60,90`' 'archetyp -C demo sample booking 60,90'
row '`archetyp spec poster layer` (a pixel design)' 'archetyp -C demo spec poster layer'
archetyp demo --serve >/dev/null 2>&1 &
trap 'kill %1 2>/dev/null || true; rm -rf "$work"' EXIT
sleep 1
row '`archetyp capture ferry-site`' --prepare 'rm -rf demo/captures' 'archetyp -C demo capture ferry-site'
row '`archetyp capture ferry-site --browser`' --prepare 'rm -rf demo/captures' 'archetyp -C demo capture ferry-site --browser'
rm -rf demo/captures
for screen in timetable booking components; do
  for density in 1 2 3; do
    row "\`archetyp render $screen --at $density\`" "archetyp -C demo render $screen --at $density -o own.png" \
      "rsvg-convert --zoom $density demo/design/$screen.svg -o peer.png"
  done
done
for count in 25000 50000; do
  row "\`archetyp outline --json\`, $count elements" "archetyp outline $count.svg --json --quiet" "rsvg-convert $count.svg -o peer.png"
done
row '`archetyp render timetable`, Chromium as peer' 'archetyp -C demo render timetable -o own.png' \
  "chromium --headless --no-sandbox --window-size=1280,800 --screenshot=peer.png file://$work/demo/design/timetable.svg"

# many COMMAND ARGUMENT...: one command on drawings of growing size: its times, and the most memory it took at 50,000
many() {
  local name=$1 cells="" most
  shift
  for count in 1000 10000 50000 100000; do
    hyperfine -N --warmup 1 --runs 7 --export-json result.json "archetyp $1 --quiet $count.svg ${2:+'$2'} ${3:+'$3'}" >/dev/null 2>&1
    cells+=" $(jq '.results[0].median * 1000 | round' result.json) ms |"
  done
  most=$(/usr/bin/time -f %M archetyp "$1" 50000.svg "${@:2}" --quiet 2>&1 >/dev/null)
  echo "| \`archetyp $name\` |$cells $((most / 1000)) MB |"
}
many outline outline
many 'outline --json' outline --json
many 'outline --alike' outline --alike
many spec spec
many 'spec #card77' spec '#card77'
many 'measure #card77 #card78' measure '#card77' '#card78'
many 'sample 100,100' sample 100,100

# tokens COUNT FOLDER: a workspace of COUNT tokens, a fifth of them colours, the others names for these, four deep; four
# contexts, of which three change a tenth of the colours; and an output of each language
tokens() {
  mkdir -p "$2/tokens"
  awk -v q="$(($1 / 5))" -v out="$2/tokens/" '
    function hue(k, seed) { return sprintf("{\"colorSpace\": \"srgb\", \"components\": [%.6f, %.6f, %.6f]}", (k + seed) % 256 / 255, k * 7 % 256 / 255, int(k / 3) % 256 / 255) }
    function file(name, seed, step, levels,   l, g, k, last) {
      f = out name ".tokens.json"; printf "{" > f
      for (l = 0; l <= levels; l++) {
        printf "%s\n  \"level%d\": {", l ? "," : "", l > f
        for (g = 0; g * 50 < q; g++) {
          printf "%s\n    \"g%d\": {", g ? "," : "", g > f
          for (k = 0; k < 50 && g * 50 + k < q; k += step)
            printf "%s\n      \"c%d\": {\"$type\": \"color\", \"$value\": %s}", k ? "," : "", k, l ? sprintf("\"{level%d.g%d.c%d}\"", l - 1, g, k) : hue(g * 50 + k, seed) > f
          printf "\n    }" > f
        }
        printf "\n  }" > f
      }
      print "\n}" > f; close(f)
    }
    BEGIN { file("base", 0, 1, 4); file("dark", 20, 10, 0); file("dim", 60, 10, 0); file("bright", 100, 10, 0) }'
  cat >"$2/tokens/all.resolver.json" <<'JSON'
{"version": "2025.10", "modifiers": {"scheme": {"contexts": {"light": [], "dark": [{"$ref": "dark.tokens.json"}], "dim": [{"$ref": "dim.tokens.json"}], "bright": [{"$ref": "bright.tokens.json"}]}, "default": "light"}},
 "resolutionOrder": [{"type": "set", "name": "base", "sources": [{"$ref": "base.tokens.json"}]}, {"$ref": "#/modifiers/scheme"}]}
JSON
  echo '<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><rect width="9" height="9" fill="#0b6e8f"/></svg>' >"$2/a.svg"
  {
    printf 'name: Many\nsources: [a.svg]\ntokens: {resolver: tokens/all.resolver.json}\noutputs:\n'
    for as in css css-classes scss json ts android swift kotlin; do echo "  - {as: $as, to: dist/$as}"; done
  } >"$2/archetyp.yaml"
  archetyp -C "$2" sync --quiet
}
for n in 1000 10000 100000; do
  tokens $n tokens$n
  row "\`archetyp sync\`, nothing changed, $n tokens" "archetyp -C tokens$n sync"
  row "\`archetyp tokens check\`, $n tokens" -i "archetyp -C tokens$n tokens check --only valid,naming,contrast,duplicate"
  row "\`archetyp tokens emit --as css\`, $n tokens, jq as peer" "archetyp -C tokens$n tokens emit -o out.css --quiet" "jq . tokens$n/tokens/base.tokens.json --unbuffered"
  row "\`archetyp tokens set\`, $n tokens" "archetyp -C tokens$n tokens set level0.g0.c0 red --quiet"
done
# texts SCREENS FOLDER: a workspace of screens with 50 texts each, in the demo's font, translated to five languages
texts() {
  mkdir -p "$2/design" "$2/fonts"
  cp demo/fonts/Hanken*.ttf "$2/fonts/"
  awk -v n="$1" -v out="$2/design/" 'BEGIN {
    split("boat ferry pier ticket adult child bicycle harbour island crossing morning evening weather message trip return seat cabin window price", w, " ")
    for (s = 0; s < n; s++) {
      f = sprintf("%ss%04d.svg", out, s)
      printf "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"390\" height=\"3000\" data-screen=\"Screen %d\">\n", s > f
      for (i = 0; i < 50; i++) {
        k = s * 50 + i
        printf "<g id=\"row%d\"><rect x=\"16\" y=\"%d\" width=\"358\" height=\"50\" rx=\"8\" fill=\"#fff\"/><text x=\"32\" y=\"%d\" font-family=\"Hanken Grotesk\" font-size=\"16\">The %s and the %s %d</text></g>\n", i, i * 60 + 4, i * 60 + 34, w[k % 20 + 1], w[int(k / 7) % 20 + 1], k > f
      }
      print "</svg>" > f; close(f)
    }
  }'
  printf 'name: Many\nsources: [design/*.svg]\nfonts: [fonts]\ntext: {source: en, locales: [de, fi, pl, fr, sv], keys: "{screen}.{words}"}\n' >"$2/archetyp.yaml"
  archetyp -C "$2" text collect --quiet
  for l in de fi pl fr sv; do sed 's/": "The/": "Über die/' "$2/text/en.json" >"$2/text/$l.json"; done
  archetyp -C "$2" text collect --quiet
}
for screens in 20 200 1000; do
  n=$((screens * 50))
  texts $screens texts$n
  row "\`archetyp text collect\`, all anew, $n texts" --prepare "rm -rf texts$n/text/keys.json texts$n/text/en.json texts$n/.archetyp" "archetyp -C texts$n text collect --quiet"
  row "\`archetyp text collect\`, nothing changed, $n texts" "archetyp -C texts$n text collect --quiet"
  row "\`archetyp text review\`, five languages, $n texts" -i "archetyp -C texts$n text review --quiet"
  row "\`archetyp text check\`, five languages, $n texts" -i "archetyp -C texts$n text check --quiet"
  archetyp -C texts$n text export --as xliff-1.2 --locale de -o older.xlf --quiet
  archetyp -C texts$n text export --as xliff --locale de -o newer.xlf --quiet
  archetyp -C texts$n text export --as json --locale de -o words.json --quiet
  row "\`archetyp text import\`, XLIFF 1.2, $n texts, xliff2po as peer" --prepare "rm -f texts$n/text/de.json peer.po" "archetyp -C texts$n text import older.xlf --quiet" "xliff2po --progress=none -i texts$n/older.xlf -o peer.po"
  row "\`archetyp text import\`, XLIFF 2.1, $n texts" --prepare "rm -f texts$n/text/de.json" "archetyp -C texts$n text import newer.xlf --quiet"
  row "\`archetyp text import\`, JSON, $n texts" --prepare "rm -f texts$n/text/de.json" "archetyp -C texts$n text import words.json --locale de --quiet"
done
cd "$OLDPWD"
GOGC=400 go test -run '^$' -bench 'Read|All|Check|Languages' -benchtime 20x ./core/token/emit

# 500 icons of 64 px as PNG of 128 px, in all densities of Android, and again: against a painter from npm in one process
# (ARCHETYP_NODE: a folder with @resvg/resvg-js)
if [ -n "${ARCHETYP_NODE:-}" ]; then
  mkdir -p icons/icons many/icons
  find -L /usr/share/icons/Papirus/64x64 -name '*.svg' | sort | awk 'NR % 13 == 0' | head -500 | while read -r f; do cp "$f" "icons/icons/i$(basename "$f")"; done
  find -L /usr/share/icons/Papirus/64x64 -name '*.svg' | sort | awk 'NR % 3 == 0' | head -2000 | while read -r f; do cp "$f" "many/icons/i$(basename "$f")"; done
  config() { printf 'name: Icons\nsources: [icons/*.svg]\nassets: {to: out, sets: [%s]}\nmarks: [{select: ":root", asset: "{file}"}]\n' "$2" >"$1/archetyp.yaml"; }
  cat >peer.cjs <<'JS'
const { Resvg } = require(process.env.ARCHETYP_NODE + "/node_modules/@resvg/resvg-js"), fs = require("fs")
fs.mkdirSync("peer", { recursive: true })
for (const size of process.argv.slice(2)) for (const f of fs.readdirSync("icons/icons"))
  fs.writeFileSync("peer/" + size + f + ".png", new Resvg(fs.readFileSync("icons/icons/" + f), { fitTo: { mode: "width", value: +size }, font: { loadSystemFonts: false } }).render().asPng())
JS
  config icons '{name: png, at: [2], formats: [png], files: "{name}.{format}"}'
  row '500 icons, PNG of 128 px' --prepare 'rm -rf icons/out icons/archetyp.lock icons/.archetyp' 'archetyp -C icons assets export --quiet' 'node peer.cjs 128'
  printf '%s bytes of PNG, the peer writes %s\n' "$(cat icons/out/png/*.png | wc -c)" "$(cat peer/128*.png | wc -c)"
  config icons '{name: android, formats: [png]}'
  row '500 icons, five densities' --prepare 'rm -rf icons/out icons/archetyp.lock icons/.archetyp' 'archetyp -C icons assets export --quiet' 'node peer.cjs 64 96 128 192 256'
  config many '{name: android, formats: [png]}'
  archetyp -C many assets export --quiet
  sleep 1
  archetyp -C many assets export --quiet
  row '2,000 icons, five densities, nothing changed' 'archetyp -C many assets export --quiet'
fi
