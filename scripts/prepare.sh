# Sourced by start, test and tambur: brings a fresh machine to the point where Tambur runs. Words go to stderr only.
# Does nothing, quickly, when nothing changed. Two at a time wait for each other.

say() { echo "$@" >&2; }

# Debian packages, where something is missing and this may be mended from here.
debian_install() {
  if ! command -v apt-get >/dev/null; then
    say "Please install: $*"
    exit 1
  fi
  local as_root=""
  if [ "$(id -u)" -ne 0 ]; then as_root="sudo"; fi
  say "Installing Debian packages: $*"
  $as_root apt-get update -qq >&2 || exit 1
  DEBIAN_FRONTEND=noninteractive $as_root apt-get install -y -qq --no-install-recommends "$@" >&2 || exit 1
}

need_node() {
  if ! command -v node >/dev/null || ! node -e 'const [a, b] = process.versions.node.split(".").map(Number); process.exit(a > 20 || (a === 20 && b >= 19) ? 0 : 1)'; then
    say "Tambur needs Node 20.19 or later; install it and run this again."
    exit 1
  fi
}

# node_modules is current if it was made from this lock file by this version of Node.
install_packages() {
  local wanted have
  wanted="$(node -p process.versions.modules) $(sha256sum package-lock.json | cut -d' ' -f1)"
  have="$(cat node_modules/.installed 2>/dev/null || true)"
  if [ "$wanted" = "$have" ]; then return; fi
  local missing=""
  command -v python3 >/dev/null || missing="$missing python3"
  command -v make >/dev/null || missing="$missing make"
  command -v g++ >/dev/null || missing="$missing g++"
  # shellcheck disable=SC2086
  if [ -n "$missing" ]; then debian_install $missing; fi
  say "Installing packages. The database library is compiled here, which takes two to four minutes ..."
  # Spelled out, as errexit does not reach into functions that stand in a condition.
  JOBS=max npm ci --no-audit --no-fund --loglevel=error >&2 || exit 1
  echo "$wanted" >node_modules/.installed
}

is_built() {
  local stamp=build/.built
  [ -f "$stamp" ] && [ -z "$(find core codecs disk speech server web cli scripts package-lock.json -newer "$stamp" -not -path '*/node_modules/*' -print -quit)" ]
}

build_if_changed() {
  local stamp=build/.built
  if is_built; then return; fi
  say "Building ..."
  mkdir -p build
  touch build/.building
  node scripts/build.mjs >&2 || exit 1
  # As old as the beginning of the build: a change made meanwhile counts as new.
  mv build/.building "$stamp"
}

# The Node and the lock file that all of it was made ready with, told without starting that Node.
made_with() { stat -L -c '%n %s %Y' "$(command -v node)" package-lock.json node_modules/.installed 2>/dev/null; }
is_ready() { [ -f build/.ready ] && [ "$(made_with)" = "$(<build/.ready)" ] && is_built; }

# Everything, under a lock.
prepare() {
  if is_ready; then return; fi
  need_node
  exec 9>.prepare.lock
  flock 9
  install_packages
  build_if_changed
  made_with >build/.ready
  exec 9>&-
}
