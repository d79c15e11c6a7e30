#!/usr/bin/env bash
# Pictures of the main commands on the demo project, for docs/screenshots/. Needs Xvfb, xterm and ImageMagick.
# Usage: xtask/screenshots.sh
set -euo pipefail
cd "$(dirname "$0")/.."
program=$PWD/target/release/leitmotiv
pictures=$PWD/docs/screenshots
work=$(mktemp -d)
trap 'kill "${xvfb:-0}" 2>/dev/null || true; rm -rf "$work"' EXIT
mkdir -p "$pictures"
cp -r demo/project "$work/skerry"
cd "$work/skerry"
git init -q && git add -A && git -c user.name=x -c user.email=x@x.invalid commit -qm x
"$program" init >/dev/null

Xvfb :77 -screen 0 1280x800x24 >/dev/null 2>&1 &
xvfb=$!
sleep 1

shot() {
    local name=$1
    shift
    printf '#!/bin/sh\ncd %s\nprintf "$ leitmotiv %s\\n\\n"\n%s %s\nsleep 3\n' "$work/skerry" "$*" "$program" "$*" > "$work/run"
    chmod +x "$work/run"
    DISPLAY=:77 xterm -geometry 141x48+0+0 -fa 'DejaVu Sans Mono' -fs 11 -bg '#fbfaf7' -fg '#20242b' +sb -e "$work/run" &
    local term=$!
    sleep 2
    DISPLAY=:77 import -window root "$pictures/$name.png"
    kill "$term" 2>/dev/null || true
    wait "$term" 2>/dev/null || true
}

shot survey survey
shot check check skerry/desk/bookings.py skerry/desk/fares.py
shot by-cause check --by cause
shot explain explain skerry/desk/manifest.py:28
shot lookup lookup skerry.vessels.CarFerry
shot annotate annotate skerry/clock.py
shot tighten tighten
# A stub that no longer says what its module is.
"$program" stub write tidelib >/dev/null
sed -i 's/datum: float = 0.0/datum: float/; s/^def station(name/def station(port/' stubs/tidelib/*.pyi
printf 'def neap_tides(name: str) -> float: ...\n' >> stubs/tidelib/__init__.pyi
shot stub stub verify tidelib
