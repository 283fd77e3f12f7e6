#!/bin/sh
# Open the demo. Without a display: say so, run it on a virtual screen, and leave a picture of the window.
set -eu
cd "$(dirname "$0")/.."
if [ -n "${DISPLAY:-}" ] || [ -n "${WAYLAND_DISPLAY:-}" ]; then
    exec .venv/bin/umbra-awl demo
fi
echo "There is no display here. The demo runs on a virtual screen and leaves a picture of its window."
xvfb-run -a -s "-screen 0 1280x800x24" env QT_QPA_PLATFORM=xcb .venv/bin/umbra-awl demo --picture demo-window.png
echo "The picture: $(pwd)/demo-window.png"
