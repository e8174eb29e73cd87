# Sourced by ./demo, ./check and ./bench: makes the environment and the system libraries ready.
# Sets PYTHON to an interpreter with everything from the lock files that were asked for.
#
#   locks='LOCKFILE ...'; . tools/setup.sh

set -eu
root=$(CDPATH='' cd -- "$(dirname -- "$0")" && pwd)
cd "$root"
# What is compiled is kept, or each process would compile all of it again.
unset PYTHONDONTWRITEBYTECODE

say() { printf '%s\n' "$*" >&2; }

# Runs apt-get where this user may, else names the one command to run.
install_debian() {
    missing=$*
    if ! command -v apt-get >/dev/null 2>&1; then
        say "Missing: $missing. Install them with your system's package manager, then try again."
        return 1
    fi
    if [ "$(id -u)" = 0 ]; then
        runner=""
    elif sudo -n true 2>/dev/null; then
        runner="sudo -n"
    else
        say "Missing system packages. Run this once, then try again:"
        say "    sudo apt-get install $missing"
        return 1
    fi
    say "Installing system packages: $missing"
    $runner apt-get update -qq >/dev/null 2>&1 || true
    # shellcheck disable=SC2086
    if ! DEBIAN_FRONTEND=noninteractive $runner apt-get install -y -qq $missing >/dev/null; then
        say "Installing failed. Run this once, then try again:"
        say "    apt-get install $missing"
        return 1
    fi
}

python_serves() { "$1" -c 'import sys; sys.exit(sys.version_info < (3, 11))' 2>/dev/null; }
venv_serves() { "$1" -c 'import ensurepip, venv' 2>/dev/null; }

find_python() {
    fallback=""
    for name in python3 python3.13 python3.12 python3.11 /usr/bin/python3; do
        if python_serves "$name"; then
            if venv_serves "$name"; then echo "$name"; return 0; fi
            [ -n "$fallback" ] || fallback=$name
        fi
    done
    echo "$fallback"
    return 1
}

make_venv() {
    if ! base=$(find_python); then
        if [ -n "$base" ]; then
            version=$("$base" -c 'import sys; print("python%d.%d" % sys.version_info[:2])')
            install_debian "$version-venv" || exit 1
        else
            install_debian python3 python3-venv || exit 1
        fi
        base=$(find_python) || { say "Python 3.11 or newer with venv is needed."; exit 1; }
    fi
    say "Making the environment in $venv"
    rm -rf "$venv"
    "$base" -m venv "$venv" || exit 1
}

# Says how far an installation is: in one line on a terminal, else every tenth package.
show_progress() {
    at=0
    while read -r word name rest; do
        case $word in
        Collecting)
            at=$((at + 1))
            if [ -t 2 ]; then
                printf '\r  %s of %s: %s\033[K' "$at" "$1" "${name%%==*}" >&2
            elif [ $((at % 10)) = 0 ]; then
                say "  $at of $1"
            fi
            ;;
        Installing) [ ! -t 2 ] || printf '\r  putting them in place\033[K' >&2 ;;
        esac
    done
    [ ! -t 2 ] || printf '\r\033[K' >&2
}

# The environment lies in the project, or in the user's cache where the project is not theirs.
# shellcheck disable=SC2086
stamp=$(cat $locks | cksum | tr ' ' '-')
venv=$root/.venv
ready() { "$1/bin/python" -c '' 2>/dev/null && [ -f "$1/lumvak-$stamp" ]; }
if ! ready "$venv" && { [ ! -w "$root" ] || { [ -e "$venv" ] && [ ! -w "$venv" ]; }; }; then
    venv=${XDG_CACHE_HOME:-$HOME/.cache}/lumvak/venv
    mkdir -p "$(dirname "$venv")"
fi
if ! ready "$venv"; then
    "$venv/bin/python" -c 'import sys, pip; sys.exit(sys.version_info < (3, 11))' 2>/dev/null ||
        make_venv
    wanted=""
    for lock in $locks; do wanted="$wanted -r $lock"; done
    # shellcheck disable=SC2086
    count=$(cat $locks | grep -c '==')
    say "Installing $count Python packages (once)"
    # shellcheck disable=SC2086
    {
        "$venv/bin/python" -m pip install --disable-pip-version-check $wanted 2>"$venv/pip.log" ||
            touch "$venv/pip.failed"
    } | show_progress "$count"
    [ ! -e "$venv/pip.failed" ] || {
        rm -f "$venv/pip.failed"
        grep -v '^WARNING' "$venv/pip.log" >&2
        say "Installing the Python packages failed; see above."
        exit 1
    }
    : >"$venv/lumvak-$stamp"
fi
PYTHON=$venv/bin/python
export PYTHONPATH="$root/src${PYTHONPATH:+:$PYTHONPATH}"

# Shared libraries that Qt's platform plugins want, each with the Debian package that has it.
library_package() {
    case $1 in
        libxcb-cursor.so*) echo libxcb-cursor0 ;;
        libxcb-icccm.so*) echo libxcb-icccm4 ;;
        libxcb-image.so*) echo libxcb-image0 ;;
        libxcb-keysyms.so*) echo libxcb-keysyms1 ;;
        libxcb-randr.so*) echo libxcb-randr0 ;;
        libxcb-render-util.so*) echo libxcb-render-util0 ;;
        libxcb-render.so*) echo libxcb-render0 ;;
        libxcb-shape.so*) echo libxcb-shape0 ;;
        libxcb-shm.so*) echo libxcb-shm0 ;;
        libxcb-sync.so*) echo libxcb-sync1 ;;
        libxcb-util.so*) echo libxcb-util1 ;;
        libxcb-xfixes.so*) echo libxcb-xfixes0 ;;
        libxcb-xkb.so*) echo libxcb-xkb1 ;;
        libxcb.so*) echo libxcb1 ;;
        libxkbcommon-x11.so*) echo libxkbcommon-x11-0 ;;
        libxkbcommon.so*) echo libxkbcommon0 ;;
        libX11-xcb.so*) echo libx11-xcb1 ;;
        libX11.so*) echo libx11-6 ;;
        libEGL.so*) echo libegl1 ;;
        libGL.so*) echo libgl1 ;;
        libGLX.so*) echo libglx0 ;;
        libOpenGL.so*) echo libopengl0 ;;
        libfontconfig.so*) echo libfontconfig1 ;;
        libfreetype.so*) echo libfreetype6 ;;
        libdbus-1.so*) echo libdbus-1-3 ;;
        libglib-2.0.so* | libgthread-2.0.so*) echo libglib2.0-0 ;;
        libz.so*) echo zlib1g ;;
        libzstd.so*) echo libzstd1 ;;
        *) say "Qt wants $1, and no package is known for it." ;;
    esac
}

# The libraries Qt lacks here, as Debian packages; empty where it has all.
qt_missing() {
    qt=$("$PYTHON" -c 'import importlib.util as u, pathlib as p
print(p.Path(u.find_spec("PyQt6").origin).parent / "Qt6")')
    ldd "$qt/plugins/platforms/libqxcb.so" "$qt/plugins/platforms/libqoffscreen.so" \
        "$qt/lib/libQt6Widgets.so.6" 2>/dev/null |
        awk '/not found/ {print $1}' | sort -u |
        while read -r library; do library_package "$library"; done | sort -u | tr '\n' ' '
}

ready_qt() {
    wanted=$(qt_missing)
    # shellcheck disable=SC2086
    [ -z "$wanted" ] || install_debian $wanted || exit 1
}

# What the tests ask the accessibility bus with.
ready_by_ear() {
    wanted=""
    command -v dbus-run-session >/dev/null 2>&1 || wanted=dbus-daemon
    [ -x /usr/libexec/at-spi-bus-launcher ] || wanted="$wanted at-spi2-core"
    # shellcheck disable=SC2086
    [ -z "$wanted" ] || install_debian $wanted || exit 1
}

ready_xvfb() {
    wanted=""
    command -v Xvfb >/dev/null 2>&1 || wanted=xvfb
    command -v xauth >/dev/null 2>&1 || wanted="$wanted xauth"
    # shellcheck disable=SC2086
    [ -z "$wanted" ] || install_debian $wanted || exit 1
}
