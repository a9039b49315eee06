#!/usr/bin/env bash
# Benchmarks; figures are printed, never asserted.
set -euo pipefail
cd "$(dirname "$0")/.."
dotnet build bench/Walkdown.Bench -c Release -v q --nologo >/dev/null
echo "== the initial script, gzipped =="
find web/dist/assets -name 'index-*.js' -exec sh -c 'printf "%s bytes\n" "$(gzip -9 -c "$1" | wc -c)"' _ {} \;
echo "== saving a reading =="
data=$(mktemp -d)
port=${BENCH_PORT:-4698}
dotnet artifacts/server/Walkdown.Server.dll --port "$port" --data "$data" --demo demo --web web/dist >"$data/log" 2>&1 &
server=$!
trap 'kill $server 2>/dev/null; rm -rf "$data"' EXIT
for _ in $(seq 100); do curl -sf "http://localhost:$port/healthz" >/dev/null && break; sleep 0.2; done
dotnet bench/Walkdown.Bench/bin/Release/net10.0/Walkdown.Bench.dll save "http://localhost:$port"
[ "${1:-}" = save ] && exit 0
echo "== judging one full Card =="
(cd "$data" && dotnet "$OLDPWD/bench/Walkdown.Bench/bin/Release/net10.0/Walkdown.Bench.dll" core) | grep -E '^\| ' 
