#!/bin/sh
# Style, types, layers.
set -eu
cd "$(dirname "$0")/.."
bin=.venv/bin
echo "== ruff"
"$bin/ruff" check .
"$bin/ruff" format --check -q .
echo "== mypy"
"$bin/mypy"
echo "== layers"
"$bin/lint-imports"
