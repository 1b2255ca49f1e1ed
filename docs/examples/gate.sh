#!/usr/bin/env bash
# Audits a project folder and fails on errors that are new since the baseline.
#   gate.sh [PROJECT [BASELINE [REPORTS]]]
# Exit code: 0 pass, 1 stopped by new errors, 2 the project or the baseline cannot be read.
set -euo pipefail
OQUEL=${OQUEL:-npx oquel}
PROJECT=${1:-wiring}
BASELINE=${2:-wiring-baseline.json}
REPORTS=${3:-reports}

mkdir -p "$REPORTS"
since=()
[ -f "$BASELINE" ] && since=(--baseline "$BASELINE")

# The reports are for the server's pages.
$OQUEL audit "$PROJECT" "${since[@]}" \
  --report "junit=$REPORTS/oquel.xml" --report "sarif=$REPORTS/oquel.sarif"
