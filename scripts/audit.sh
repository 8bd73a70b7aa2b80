#!/bin/sh
# What the program is made of, under which licences, and what is known against any of it.
set -u
tool="go tool -modfile=$PWD/tools.mod"
failed=0
$tool cyclonedx-gomod app -json -licenses -output docs/sbom.json -main cmd/hevrin . || failed=1
echo "docs/sbom.json: $(grep -c '"purl": "pkg:golang' docs/sbom.json) Go modules"
(cd web && npm query ':root > .prod, .prod' --json 2>/dev/null) | node -e '
  const fs = require("fs");
  const by = {};
  const add = (licence, name) => (by[licence] ??= new Set()).add(name);
  for (const p of JSON.parse(fs.readFileSync(0, "utf8") || "[]"))
    if (p.name !== "hevrin-web") add(p.license ?? "not told by the package", p.name);
  for (const c of JSON.parse(fs.readFileSync("docs/sbom.json", "utf8")).components ?? []) {
    const list = (c.evidence?.licenses ?? c.licenses ?? []).map((l) => l.license?.id ?? l.license?.name ?? l.expression);
    add(list.length > 0 ? list.join(", ") : "not recognised: see the module", c.name);
  }
  const lines = Object.keys(by).sort().map((l) => `- **${l}**: ${[...by[l]].sort().join(", ")}`);
  fs.writeFileSync("docs/licences.md", "# Licences of what the program is made of\n\nWritten by `make audit`.\n\n" + lines.join("\n") + "\n");
'
echo "docs/licences.md: $(grep -c '^- ' docs/licences.md) licences"
# an answer of 1 is a finding; anything else is a list that could not be asked
if out=$($tool govulncheck ./... 2>&1); then
	echo "govulncheck: nothing known"
elif echo "$out" | grep -q "Your code is affected"; then
	echo "$out"
	failed=1
else
	echo "govulncheck: the list of known weaknesses could not be reached"
fi
if out=$(cd web && npm audit --omit=dev 2>&1); then
	echo "npm audit: nothing known"
elif echo "$out" | grep -q "vulnerabilities"; then
	echo "$out"
	failed=1
else
	echo "npm audit: the list of known weaknesses could not be reached"
fi
exit $failed
