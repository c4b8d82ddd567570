#!/usr/bin/env bash
# Writes the parts of docs that are made from descriptions in the code: the schema, and tables of fields and columns.
set -euo pipefail
cd "$(dirname "$0")/.."
bash scripts/setup.sh -DMILEAGE_TESTS=ON
cmake --build build --target mileage_write_docs
exec build/tests/mileage_write_docs docs
