#!/usr/bin/env bash
# Benchmarks and load; figures are printed, never asserted. save | start | pack [CARDS] | site [DEVICES READINGS] | every [DEVICES READINGS] | addresses [DEVICES] | recording [STREAMS] | door | kill [TIMES] | core | phone [DEVICES] | cuts [MINUTES] | pictures [TIMES] | coverage [VIEWS] | power [DEVICES] | handover [DEVICES]; without a word: save, core and site.
set -euo pipefail
cd "$(dirname "$0")/.."
what=${1:-all}
dotnet build bench/Walkdown.Bench -c Release -v q --nologo >/dev/null
bench=$PWD/bench/Walkdown.Bench/bin/Release/net10.0/Walkdown.Bench.dll
data=$(mktemp -d)
port=${BENCH_PORT:-4698}
server=
trap '[ -n "$server" ] && kill $server 2>/dev/null; rm -rf "$data"' EXIT

start() { # folder, more options
  local folder=$1
  shift
  dotnet artifacts/server/Walkdown.Server.dll --port "$port" --data "$folder" --web web/dist "$@" >"$data/log" 2>&1 &
  server=$!
  for _ in $(seq 150); do curl -sf "http://localhost:$port/healthz" >/dev/null && return 0; sleep 0.2; done
  cat "$data/log"
  return 1
}

stop() { kill "$server" && wait "$server" 2>/dev/null || true; server=; }

if [ "$what" = save ] || [ "$what" = all ]; then
  echo "== the initial scripts, gzipped =="
  grep -oE '(src|href)="/assets/[^"]+\.js"' web/dist/index.html | grep -oE 'assets/[^"]+' | sort -u | sed 's|^|web/dist/|' | xargs -n1 gzip -9 -c | wc -c | sed 's/$/ bytes/'
  echo "== saving a reading =="
  mkdir -p "$data/save"
  start "$data/save" --demo demo
  dotnet "$bench" save "http://localhost:$port"
  stop
fi
if [ "$what" = core ] || [ "$what" = all ]; then
  echo "== judging one full Card =="
  (cd "$data" && dotnet "$bench" core) | grep -E '^\| '
fi
if [ "$what" = site ] || [ "$what" = all ]; then
  devices=${2:-5000} readings=${3:-100000}
  echo "== a site of $devices devices and $readings readings =="
  dotnet "$bench" site-make "$data/site" "$devices" "$readings"
  start "$data/site"
  dotnet "$bench" site "http://localhost:$port" "$server"
  [ -d tests/e2e/node_modules ] || (cd tests/e2e && npm ci --no-audit --no-fund --loglevel=error)
  node bench/paint.mjs "http://localhost:$port"
  stop
fi
if [ "$what" = coverage ]; then
  echo "== what the views of a whole site cover =="
  dotnet "$bench" coverage "${2:-5000}"
fi
if [ "$what" = pictures ]; then
  echo "== every measurement of a picture against OpenCV =="
  if ! /usr/bin/python3 -c 'import cv2' 2>/dev/null; then
    [ "$(id -u)" = 0 ] || { echo "python3-opencv is missing."; exit 1; }
    (apt-get update -qq && apt-get install -y -qq --no-install-recommends python3-opencv) >/dev/null 2>&1
  fi
  dotnet "$bench" pictures /usr/bin/python3 bench/pictures.py "${2:-15}"
fi
if [ "$what" = recording ]; then
  echo "== a slider that is dragged =="
  dotnet "$bench" what-if "${2:-5000}"
  echo "== channels that are proven, recorders that take 400 ms a clip =="
  dotnet "$bench" proofs 46 400
fi
if [ "$what" = addresses ]; then
  echo "== three lists held against each other =="
  dotnet "$bench" lists "${2:-5000}"
  echo "== a range in which one address of ten is alive =="
  dotnet "$bench" range 254
  echo "== 500 simulated cameras =="
  dotnet "$bench" cameras 500
  echo "== the page of addresses, ${2:-5000} devices =="
  dotnet "$bench" site-make "$data/addresses" "${2:-5000}" 0 found >/dev/null
  start "$data/addresses"
  [ -d tests/e2e/node_modules ] || (cd tests/e2e && npm ci --no-audit --no-fund --loglevel=error)
  node bench/paint.mjs "http://localhost:$port" addresses
  stop
fi
if [ "$what" = every ]; then
  devices=${2:-5000} readings=${3:-100000}
  echo "== $devices devices of every kind, all of the work, $readings readings =="
  dotnet "$bench" site-make "$data/every" "$devices" "$readings" every
  start "$data/every"
  dotnet "$bench" site "http://localhost:$port" "$server"
  stop
fi
if [ "$what" = phone ]; then
  devices=${2:-5000}
  echo "== a phone on a site of $devices devices, over HTTPS =="
  dotnet "$bench" site-make "$data/phone" "$devices" $((devices * 20)) >/dev/null
  start "$data/phone"
  [ -d tests/e2e/node_modules ] || (cd tests/e2e && npm ci --no-audit --no-fund --loglevel=error)
  node bench/phone.mjs "http://localhost:$port" $((port + 2))
  stop
fi
if [ "$what" = cuts ]; then
  echo "== a phone whose network is cut at random, ${2:-10} minutes =="
  mkdir -p "$data/cuts"
  start "$data/cuts" --demo demo
  [ -d tests/e2e/node_modules ] || (cd tests/e2e && npm ci --no-audit --no-fund --loglevel=error)
  node bench/cuts.mjs "http://localhost:$port" $((port + 2)) "${2:-10}"
  stop
fi
if [ "$what" = power ]; then
  devices=${2:-500} delay=40
  echo "== power, sweeps and files =="
  dotnet "$bench" budgets
  dotnet "$bench" power-make demo "$data/demo" "$devices"
  dotnet artifacts/stand-ins/Walkdown.StandIns.dll --urls "http://127.0.0.1:$((port + 1))" --demo "$data/demo" --delay $delay >"$data/stand-ins.log" 2>&1 &
  outside=$!
  trap 'kill $outside 2>/dev/null; [ -n "$server" ] && kill $server 2>/dev/null; rm -rf "$data"' EXIT
  start "$data/power" --demo "$data/demo" --stand-ins "http://127.0.0.1:$((port + 1))"
  dotnet "$bench" sweep "http://localhost:$port" $delay
  dotnet "$bench" file "http://localhost:$port" 100000
  stop
  kill $outside
fi
if [ "$what" = start ]; then
  echo "== a start on a folder that is in use already: to the first answer, to the first Walk =="
  mkdir -p "$data/start"
  start "$data/start" --demo demo
  job=$(curl -sf "http://localhost:$port/api/jobs" | grep -oE '"id":"[^"]+"' | head -1 | cut -d'"' -f4)
  stop
  for n in $(seq 6); do
    # What the system has kept of the files is let go of, where that is allowed: the first start of a day.
    cold=warm; { sync && echo 3 >/proc/sys/vm/drop_caches; } 2>/dev/null && cold=cold
    began=$(date +%s%N)
    dotnet artifacts/server/Walkdown.Server.dll --port "$port" --data "$data/start" --web web/dist >"$data/log" 2>&1 &
    server=$!
    until curl -sf "http://localhost:$port/healthz" >/dev/null; do sleep 0.01; done
    first=$(date +%s%N)
    curl -sf "http://localhost:$port/api/jobs/$job/walk" >/dev/null
    echo "$(((first - began) / 1000000)) ms, $((($(date +%s%N) - began) / 1000000)) ms ($cold files)"
    stop
  done
fi
if [ "$what" = pack ]; then
  cards=${2:-500}
  echo "== the first pack of a new server, $cards Cards, two pictures each; then another =="
  dotnet "$bench" site-make "$data/pack" "$cards" $((cards * 6)) >/dev/null
  start "$data/pack"
  dotnet "$bench" pack "http://localhost:$port" "$server" "$cards"
  stop
fi
if [ "$what" = door ]; then
  echo "== hostile files at the door =="
  mkdir -p "$data/door"
  start "$data/door" --demo demo
  dotnet "$bench" door "http://localhost:$port" "$server"
  echo "== start after an unclean stop, ten times =="
  for _ in $(seq 10); do
    curl -sf -X POST "http://localhost:$port/api/jobs/$(curl -sf "http://localhost:$port/api/jobs" | grep -oE '"id":"[^"]+"' | head -1 | cut -d'"' -f4)/bundle" >/dev/null
    kill -9 "$server"; wait "$server" 2>/dev/null || true
    began=$(date +%s%N)
    start "$data/door" --demo demo
    echo "$((($(date +%s%N) - began) / 1000000)) ms"
  done
  stop
fi
if [ "$what" = kill ]; then
  echo "== kill -9 under load, ${2:-100} times =="
  node bench/kill.mjs "${2:-100}" "$port"
fi
if [ "$what" = handover ]; then
  echo "== the check of a large pack =="
  dotnet "$bench" verify 500
  for cards in 125 500; do
    echo "== a pack of $cards Cards, two pictures each =="
    dotnet "$bench" site-make "$data/pack$cards" $cards $((cards * 6)) >/dev/null
    start "$data/pack$cards"
    dotnet "$bench" pack "http://localhost:$port" "$server" $cards
    stop
  done
  devices=${2:-5000}
  echo "== a bundle of $devices devices =="
  dotnet "$bench" site-make "$data/out" "$devices" $((devices * 20)) >/dev/null
  start "$data/out"
  from=$server
  dotnet artifacts/server/Walkdown.Server.dll --port $((port + 1)) --data "$data/in" --web web/dist >"$data/log2" 2>&1 &
  to=$!
  trap 'kill $to 2>/dev/null; [ -n "$server" ] && kill $server 2>/dev/null; rm -rf "$data"' EXIT
  for _ in $(seq 150); do curl -sf "http://localhost:$((port + 1))/healthz" >/dev/null && break; sleep 0.2; done
  dotnet "$bench" bundle "http://localhost:$port" "http://localhost:$((port + 1))" "$to"
  kill $to
  stop
fi
