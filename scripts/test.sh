#!/bin/sh
# Everything that must hold: style, types, layers, tests, and the core without any window toolkit.
set -eu
cd "$(dirname "$0")/.."
bin=.venv/bin
scripts/lint.sh
echo "== tests, with the window: the journeys on two screens of their own"
journeys() { # the number of the screen, and which half of the files
    files=$(ls tests/journey/test_*.py | awk "NR % 2 == $2")
    # shellcheck disable=SC2086  (a list of files)
    xvfb-run -n "$1" -s "-screen 0 1280x800x24" env QT_QPA_PLATFORM=xcb "$bin/pytest" $files
}
one=$(mktemp)
journeys 181 1 > "$one" 2>&1 &
first=$!
failed=0
journeys 191 0 || failed=1
wait "$first" || failed=1
cat "$one"
rm "$one"
[ "$failed" = 0 ]
QT_QPA_PLATFORM=offscreen "$bin/pytest" -n 2 tests --ignore tests/journey
echo "== core, stand-ins and shell where PyQt6 cannot be imported: all tests once more, with few random examples each"
# What kills processes, builds wheels or simulates for seconds says nothing new there.
elsewhere="killed or pulled_at or no_room_at or kills or 200 or few_readings or soon_gone or wheel or fresh_environment"
elsewhere="$elsewhere or golden_scenes or fifth_lost or helps or any_loss"
EXAMPLES=few PYTHONPATH=tests/without_qt "$bin/pytest" -c tests/without_qt/pytest.ini --rootdir . --confcutdir . -p no:pytest-qt -n 2 -k "not ($elsewhere)" tests/core tests/standins tests/shell
