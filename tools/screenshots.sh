#!/bin/sh
# Take the pictures in docs/screenshots anew: sh tools/screenshots.sh
# Needs Debian's xvfb, xterm, imagemagick and chromium, and verse-tray on PATH.
set -eu
for program in Xvfb xterm import mogrify verse-tray; do
    command -v "$program" >/dev/null || { echo "$0: $program is not on PATH; the first lines say what is needed" >&2; exit 2; }
done
tools="$(cd "$(dirname "$0")" && pwd)"
out="$tools/../docs/screenshots"
work="$(mktemp -d)"
trap 'kill "$screen" 2>/dev/null || true; rm -rf "$work"' EXIT
mkdir -p "$out"
Xvfb :97 -screen 0 1280x800x24 >/dev/null 2>&1 &
screen=$!
sleep 1

# terminal NAME COMMAND: run a command in a terminal window and take the window's picture
terminal() {
    printf '%s\n' "cd $work; export FORCE_COLOR=1; printf '\033[1m\$ %s\033[0m\n\n' '$2'; $2; printf '\n'; touch $work/done; sleep 30" >"$work/run.sh"
    rm -f "$work/done"
    DISPLAY=:97 xterm -fa 'DejaVu Sans Mono' -fs 11 -bg '#101619' -fg '#e4ecea' -geometry 138x42+0+0 -b 12 \
        -xrm 'XTerm*cursorColor: #101619' -e sh "$work/run.sh" &
    window=$!
    while [ ! -f "$work/done" ]; do sleep 0.2; done
    sleep 1
    DISPLAY=:97 import -window root "$out/$1.png"
    kill "$window" 2>/dev/null || true
    wait "$window" 2>/dev/null || true
    mogrify -strip -define png:exclude-chunk=date,time +dither -colors 64 "$out/$1.png"
}

verse-tray demo --into "$work" >/dev/null
terminal check "verse-tray check low-water-walk.html"
terminal trace "verse-tray trace low-water-walk.html --editor course-page | head -38"
cd "$work/writing"
terminal mistakes "verse-tray check writing/in-a-hurry.html --editor course-page | head -39"
terminal adjust "verse-tray adjust low-water-walk.html | head -38"
{
    printf '<!DOCTYPE html><meta charset="utf-8"><style>body { font: 16px/1.5 "DejaVu Sans", sans-serif; margin: 24px 48px; max-width: 900px }</style>'
    verse-tray make table tides.csv --stripes --styles element --caption "Low water at Gannet Cove"
    verse-tray make cards walks.csv
    printf '<p></p>'
    verse-tray make button "Book a place" https://gannetcove.example/walks --colour '#a14a12'
    verse-tray make list "Wear boots" "Bring a lamp" "Tell somebody where you are" --space 10px
    verse-tray make sign-off "Maren Tidewell" --role "Counts and volunteers" --contact counts@gannetcove.example
} >made.html 2>/dev/null
chromium --headless --no-sandbox --hide-scrollbars --window-size=1280,800 --screenshot="$out/made.png" "file://$work/writing/made.html" 2>/dev/null
mogrify -strip -define png:exclude-chunk=date,time +dither -colors 128 "$out/made.png"
cd "$work"
terminal editors "verse-tray editors show shop-description | head -37"
small() {
    mogrify -strip -define png:exclude-chunk=date,time +dither -colors 128 "$out/$1.png"
}
verse-tray preview low-water-walk.html --pictures pictures --editor course-page --editor mail-signoff --png "$out/preview.png"
verse-tray preview low-water-walk.html --pictures pictures --editor mail-signoff --editor course-page --fit \
  --png "$out/fitted.png" -o fitted.html
small fitted
verse-tray trace low-water-walk.html --editor blog-post --stage save --markup | sed 's/<\/*figure[^>]*>//g' >stored.html
{
    printf '<!DOCTYPE html><html><body><header>Field notes</header><main><article>'
    sed 's/boots/sandals/; s/ style="white-space: nowrap; color: #1d4f53"//' stored.html
    printf '</article></main></body></html>'
} >page.html
terminal verify "verse-tray verify low-water-walk.html --editor blog-post --stored stored.html --page page.html"
python3 "$tools/practice_pictures.py" low-water-walk.html "$work"
convert practice-1280.png practice-375.png -background '#5a666b' -splice 16x0 +append -resize 1280x "$out/practice.png"
small practice
verse-tray place low-water-walk.html --on survey-site:reports -o placed >/dev/null || true
python3 - placed/paste-sheet.html placed <<'PYTHON'
import sys
from pathlib import Path
from verse_tray.preview.browser import Session
html = Path(sys.argv[1]).read_text("utf-8")
with Session() as session:
    for width in (1280, 375):
        session.open(html, width)
        Path(sys.argv[2], f"{width}.png").write_bytes(session.picture())
PYTHON
for width in 1280 375; do mogrify -crop "${width}x860+0+0" +repage "placed/$width.png"; done
convert placed/1280.png placed/375.png -background '#5a666b' -splice 16x0 +append -resize 1280x "$out/place.png"
small place
cp tray/theme.html tray/banner.html .
terminal template "verse-tray place banner.html --in theme.html --after \"<!-- landmark: desktop -->\" --write"
verse-tray learn show survey-forum >/dev/null
terminal learn "verse-tray learn show survey-forum | head -40"
verse-tray preview writing/letter.html --data writing/volunteers.csv --extremes --editor note-field \
    --png "$out/records.png" 2>/dev/null
verse-tray preview low-water-walk.html --pictures pictures --editor blog-post --theme all --only written --only published \
    --png "$out/themes.png"
verse-tray preview low-water-walk.html --pictures pictures --editor framed-box --act --png "$out/acting.png" >/dev/null
verse-tray adjust low-water-walk.html --set tide-table-td-padding="12px 10px" --set walk-h2-margin="0 0 20px" -o airy.html
verse-tray compare low-water-walk.html airy.html --editor code-box --width 1280 --png "$out/compare.png" >/dev/null || true
terminal text "verse-tray preview low-water-walk.html --editor note-field --editor mail-signoff --text | head -40"
verse-tray demo --archive 600 --into "$work" >/dev/null
verse-tray audit posts.atom --editor article --editor blog-post --editor course-page --editor mail-signoff \
    --report audit.html --fail-on never >/dev/null
chromium --headless --no-sandbox --hide-scrollbars --window-size=1280,800 --screenshot="$out/audit.png" "file://$work/audit.html" 2>/dev/null
for name in preview records themes acting compare audit; do small "$name"; done
