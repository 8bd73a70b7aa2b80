#!/bin/sh
# Makes sure that there is a Chromium for the browser tests: Debian's own, installed where that is allowed.
set -eu
browser=${CHROMIUM:-/usr/bin/chromium}
[ -x "$browser" ] && exit 0
if [ "$(id -u)" = 0 ] && command -v apt-get >/dev/null; then
	echo "installing chromium for the browser tests"
	apt-get update -qq && DEBIAN_FRONTEND=noninteractive apt-get install -y -qq chromium >/dev/null
	[ -x "$browser" ] && exit 0
fi
echo "The browser tests need Chromium at $browser. Install it (Debian: sudo apt-get install chromium)," >&2
echo "or say where yours is: CHROMIUM=/path/to/chromium make test" >&2
exit 1
