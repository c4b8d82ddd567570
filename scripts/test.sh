#!/usr/bin/env bash
# Packages, build, and every test through ctest. Options go to ctest, such as -R tool.
set -euo pipefail
cd "$(dirname "$0")/.."
bash scripts/setup.sh -DMILEAGE_TESTS=ON -DMILEAGE_BENCH=ON
cmake --build build
exec ctest --test-dir build --output-on-failure "$@"
