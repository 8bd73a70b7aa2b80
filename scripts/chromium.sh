#!/bin/sh
# Makes sure that there is a Chromium for the browser tests: Debian's own without a window, which takes a third less
# time than the whole browser, installed where that is allowed.
set -eu
browser=${CHROMIUM:-/usr/bin/chromium-headless-shell}
[ -x "$browser" ] && exit 0
if [ "$(id -u)" = 0 ] && command -v apt-get >/dev/null; then
	echo "installing chromium-headless-shell for the browser tests"
	apt-get update -qq && DEBIAN_FRONTEND=noninteractive apt-get install -y -qq chromium-headless-shell >/dev/null
	[ -x "$browser" ] && exit 0
fi
echo "The browser tests need Chromium at $browser. Install it (Debian: sudo apt-get install" >&2
echo "chromium-headless-shell), or say where yours is: CHROMIUM=/path/to/chromium make test" >&2
exit 1
