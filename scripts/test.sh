#!/bin/sh
# Everything that must hold: style, types, layers, tests, and the core without any window toolkit.
set -eu
cd "$(dirname "$0")/.."
bin=.venv/bin
scripts/lint.sh
echo "== tests, with the window"
xvfb-run -a -s "-screen 0 1280x800x24" env QT_QPA_PLATFORM=xcb "$bin/pytest" tests/journey
QT_QPA_PLATFORM=offscreen "$bin/pytest" -n 2 tests --ignore tests/journey
echo "== core, stand-ins and shell where PyQt6 cannot be imported: all tests once more, with few random examples each"
# What kills processes, builds wheels or simulates for seconds says nothing new there.
elsewhere="killed or pulled_at or no_room_at or kills or 200 or few_readings or soon_gone or wheel or fresh_environment"
EXAMPLES=few PYTHONPATH=tests/without_qt "$bin/pytest" -c tests/without_qt/pytest.ini --rootdir . --confcutdir . -p no:pytest-qt -n 2 -k "not ($elsewhere)" tests/core tests/standins tests/shell
