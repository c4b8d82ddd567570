#!/usr/bin/env bash
# Fuzzes everything that is read from others: scripts/fuzz.sh [EXECUTIONS a target]. Needs clang-14 and
# libclang-rt-14-dev. Inputs that end badly are left in build-fuzz/; the corpus grows in build-fuzz/corpus and is
# brought back with `-merge=1` (fuzz/README.md).
set -euo pipefail
cd "$(dirname "$0")/.."
runs=${1:-100000}
cmake -S . -B build-fuzz -G Ninja -DCMAKE_BUILD_TYPE=RelWithDebInfo \
  -DCMAKE_C_COMPILER=clang-14 -DCMAKE_CXX_COMPILER=clang++-14 \
  -DCMAKE_UNITY_BUILD=ON -DMILEAGE_FUZZ=ON -DMILEAGE_TESTS=OFF -DMILEAGE_BENCH=OFF -DMILEAGE_DEVICE=OFF
targets=(study_lines frame_tables plans drive_lines run_protocol verbs)
cmake --build build-fuzz --target "${targets[@]/#/fuzz_}"
for target in "${targets[@]}"; do
  mkdir -p "build-fuzz/corpus/$target"
  echo "== $target"
  (cd build-fuzz && fuzz/fuzz_"$target" -runs="$runs" -timeout=10 -rss_limit_mb=4096 -max_len=16384 \
    -print_final_stats=1 -verbosity=0 -close_fd_mask=2 \
    -dict=../fuzz/words.dict "corpus/$target" "../fuzz/corpus/$target")
done
