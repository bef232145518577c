# Sourced by bin/demo, bin/start and bin/test: everything they need, installed where we may, said where we may not.
say() { printf '  %s\n' "$1"; }
die() { printf '%s\n' "$1" >&2; exit 1; }

root=$(cd "$(dirname "${BASH_SOURCE[0]}")/../.." && pwd)
cd "$root"

command -v node >/dev/null 2>&1 || die "Node 20.19 or newer is needed: install nodejs, then run this again."
node -e 'const [a,b]=process.versions.node.split(".").map(Number); process.exit(a>20||(a===20&&b>=19)?0:1)' ||
  die "Node 20.19 or newer is needed; this is $(node --version)."

# glibc gives every thread a heap of its own that it hardly hands back; two for all keep a busy server a fifth smaller (mallopt(3)).
export MALLOC_ARENA_MAX="${MALLOC_ARENA_MAX:-2}"

have_postgres() { command -v initdb >/dev/null 2>&1 || ls /usr/lib/postgresql/*/bin/initdb >/dev/null 2>&1; }

# Installs Debian packages as root or with sudo. apt_install "why" package...
apt_install() {
  why=$1; shift
  as=""
  if [ "$(id -u)" != 0 ]; then
    if command -v sudo >/dev/null 2>&1 && sudo -n true 2>/dev/null; then as="sudo -n"; else
      die "$why is missing. Install it once with: sudo apt-get install $*"
    fi
  fi
  command -v apt-get >/dev/null 2>&1 || die "$why is missing, and there is no apt-get here: install $* by hand."
  say "installing $why ($*)"
  export DEBIAN_FRONTEND=noninteractive
  $as apt-get install -y --no-install-recommends "$@" >"${TMPDIR:-/tmp}/versipel-apt.$$" 2>&1 ||
    { $as apt-get update >/dev/null 2>&1 && $as apt-get install -y --no-install-recommends "$@" >"${TMPDIR:-/tmp}/versipel-apt.$$" 2>&1; } ||
    { tail -n 5 "${TMPDIR:-/tmp}/versipel-apt.$$" >&2; die "$why could not be installed with apt-get."; }
  rm -f "${TMPDIR:-/tmp}/versipel-apt.$$"
}

need_postgres() {
  [ -n "${DATABASE_URL:-}" ] && return
  have_postgres && return
  # Debian's package would start a server of its own; ours is private.
  if [ "$(id -u)" = 0 ]; then
    mkdir -p /etc/postgresql-common/createcluster.d
    [ -e /etc/postgresql-common/createcluster.d/no-main.conf ] ||
      echo "create_main_cluster = false" >/etc/postgresql-common/createcluster.d/no-main.conf
  elif command -v sudo >/dev/null 2>&1 && sudo -n true 2>/dev/null; then
    sudo -n sh -c 'mkdir -p /etc/postgresql-common/createcluster.d; [ -e /etc/postgresql-common/createcluster.d/no-main.conf ] || echo "create_main_cluster = false" >/etc/postgresql-common/createcluster.d/no-main.conf'
  fi
  apt_install PostgreSQL postgresql
}

need_chromium() {
  command -v chromium >/dev/null 2>&1 && command -v chromedriver >/dev/null 2>&1 && return
  apt_install Chromium chromium chromium-driver
}

# A proxy that ends TLS, as stands in front of a server that is reached from outside. Where it may not be installed, its story is skipped.
need_proxy() {
  command -v haproxy >/dev/null 2>&1 && command -v openssl >/dev/null 2>&1 && return
  (apt_install "a TLS proxy" haproxy openssl) || say "going on without it"
}

# Node packages, again only when the lock file has changed.
need_packages() {
  stamp=node_modules/.versipel-lock
  want=$(sha256sum package-lock.json | cut -d' ' -f1)
  [ -f "$stamp" ] && [ "$(cat "$stamp")" = "$want" ] && return
  say "installing Node packages (about half a minute)"
  npm ci --no-audit --no-fund --loglevel=error >&2
  echo "$want" >"$stamp"
}

# The build, again only when something it is made from has changed.
need_build() {
  stamp=build/.versipel-source
  want=$(find app bench bin core demo store work workers public package-lock.json vite.config.ts react-router.config.ts -type f -print0 | LC_ALL=C sort -z | xargs -0 sha256sum | sha256sum | cut -d' ' -f1)
  [ -f "$stamp" ] && [ "$(cat "$stamp")" = "$want" ] && return
  say "building (about 15 seconds)"
  mkdir -p .run
  NODE_ENV=production node_modules/.bin/react-router build >.run/build.log 2>&1 || { cat .run/build.log >&2; die "The build failed."; }
  node --import tsx bin/lib/packAssets.ts
  node --import tsx bin/lib/bundle.ts
  echo "$want" >"$stamp"
}

# Other programs that read our files: an SVG renderer, an HP-GL and a DXF reader, PDF text and codes. Where they may not be installed, their checks
# are skipped and counted so.
need_readers() {
  command -v rsvg-convert >/dev/null 2>&1 && command -v hp2xx >/dev/null 2>&1 && command -v pdftotext >/dev/null 2>&1 && command -v zbarimg >/dev/null 2>&1 && /usr/bin/python3 -c "import ezdxf" 2>/dev/null && return
  (apt_install "readers of SVG, HP-GL, DXF, PDF and QR codes" librsvg2-bin hp2xx python3-ezdxf poppler-utils zbar-tools) || say "going on without them"
}
