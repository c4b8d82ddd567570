#!/usr/bin/env bash
# From a fresh clone to the first answers: packages, build, `mileage demo`. Options go to the demo.
set -euo pipefail
cd "$(dirname "$0")/.."
bash scripts/setup.sh -DMILEAGE_TESTS=OFF -DMILEAGE_BENCH=OFF
cmake --build build --target mileage
exec build/mileage demo "$@"
