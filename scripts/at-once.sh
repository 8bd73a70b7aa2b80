#!/bin/sh
# Names the tests that do several things at once, by what they are written with, as a pattern for go test -run.
git ls-files '*_test.go' | xargs awk '
	/^func / { test = "" }
	/^func Test/ { test = $2; sub(/\(.*/, "", test) }
	/go func|\.Go\(|NewServer\(/ && test { print test }
' | sort -u | paste -sd '|' -
