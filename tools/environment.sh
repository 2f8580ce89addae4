# Sourced by ./korbent and ./test, with $here set: makes .venv from the lock file
# when it is missing or the lock changed, and finds the system libraries that Qt and the mesher need.

say() { printf 'korbent: %s\n' "$*" >&2; }

apt_or_tell() {
  # Installs Debian packages when root, else names the one line to run and stops.
  if [ "$(id -u)" = 0 ] && command -v apt-get >/dev/null 2>&1; then
    say "installing $*"
    apt-get update -q >/dev/null && DEBIAN_FRONTEND=noninteractive apt-get install -y -q --no-install-recommends "$@" >/dev/null
  else
    say "missing on this machine. Run this line, then start again:"
    say "  sudo apt-get install -y $*"
    exit 1
  fi
}

need_environment() {
  command -v python3 >/dev/null 2>&1 || apt_or_tell python3 python3-venv
  python3 -c 'import sys; sys.exit(sys.version_info < (3, 11))' || {
    say "Python 3.11 or newer is needed; this machine has $(python3 -V)."
    exit 1
  }
  python3 -c 'import ensurepip, venv' 2>/dev/null || apt_or_tell python3-venv
  say "setting up the environment in .venv (once) ..."
  rm -f "$here/.venv/.ready"
  python3 -m venv --clear "$here/.venv"
  "$here/.venv/bin/python" -m pip install --quiet --disable-pip-version-check --no-compile --require-hashes -r "$here/requirements.lock"
  cp "$here/requirements.lock" "$here/.venv/.ready"
}

need_libraries() {
  [ -e "$here/.venv/.libraries" ] && return 0
  known=$(/sbin/ldconfig -p 2>/dev/null || true)
  missing=""
  while read -r library package; do
    case "$known" in *"$library"*) ;; *) missing="$missing $package" ;; esac
  done <<LIST
libEGL.so.1 libegl1
libGL.so.1 libgl1
libxkbcommon.so.0 libxkbcommon0
libdbus-1.so.3 libdbus-1-3
libfontconfig.so.1 libfontconfig1
libglib-2.0.so.0 libglib2.0-0
libxkbcommon-x11.so.0 libxkbcommon-x11-0
libxcb-cursor.so.0 libxcb-cursor0
libxcb-icccm.so.4 libxcb-icccm4
libxcb-image.so.0 libxcb-image0
libxcb-keysyms.so.1 libxcb-keysyms1
libxcb-render-util.so.0 libxcb-render-util0
libxcb-shape.so.0 libxcb-shape0
libGLU.so.1 libglu1-mesa
libXcursor.so.1 libxcursor1
libXft.so.2 libxft2
libXinerama.so.1 libxinerama1
libXrender.so.1 libxrender1
libXfixes.so.3 libxfixes3
libgomp.so.1 libgomp1
LIST
  [ -z "$missing" ] || apt_or_tell $missing
  touch "$here/.venv/.libraries"
}

cmp -s "$here/requirements.lock" "$here/.venv/.ready" 2>/dev/null || need_environment
PYTHONPATH="$here/src${PYTHONPATH:+:$PYTHONPATH}"
export PYTHONPATH
