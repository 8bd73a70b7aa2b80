# make demo   builds everything and serves an invented yard
# make test   every check there is; ends non-zero on any failure
# make build  makes bin/hevrin
VERSION := 0.1.0
GO_SOURCES := $(shell find api app cmd core demo handlers live network phone push reports server simulator store training web/embed.go \
	-name '*.go' -o -name '*.sql' -o -name "*.yaml" -o -name "*.json") go.mod go.sum
WEB_SOURCES := $(shell find web/src web/public web/worker -type f) web/index.html web/package.json web/vite.config.ts \
	web/precompress.ts web/tsconfig.json
E2E_SOURCES := $(shell find web/e2e -type f) web/playwright.config.ts
MODULES := web/node_modules/.ready
# How tightly the phone's program is packed (brotli, 0 to 11). The tightest takes a minute: tests on a fresh clone do
# without; what was packed for a demo stays as it is.
PACKING := 11
PACKED := bin/.packed-$(PACKING)
DIST := $(PACKED) web/dist/index.html
# The phone's own program: core, use cases and handlers in WebAssembly. What takes little time is not inlined: it is an
# eighth smaller so.
PHONE := web/generated/phone.wasm
SMALL := $(addprefix hevrin/,app/... handlers api live core/calculator core/wetwork core/proving core/teardown \
	core/maintenance core/inventory core/datalog core/nmea core/eventlog core/workbench core/practice core/coaching training \
	core/enginestate core/hindsight core/catalogue core/drawings core/people core/validation core/units phone/...) github.com/hashicorp/... \
	gonum.org/... golang.org/... \
	net net/... image/... compress/... regexp/... log/... encoding/csv encoding/hex crypto/... bufio time text/... \
	fmt errors sort strings io/... os/... path/... context unicode/... syscall/... iter unique weak hash/... container/... \
	math/cmplx math/rand/... encoding
PHONE_SOURCES := $(shell find api app core handlers phone cmd/phone live training -name '*.go' -o -name '*.yaml') go.mod
# All builds alike, so that each package is compiled once for program, tests and checks.
export GOFLAGS += -trimpath
TOOL := go tool -modfile=$(CURDIR)/tools.mod
NPX := npx --no-install

.DEFAULT_GOAL := build
.PHONY: build demo test format vet vet-phone contract go-test web-test e2e bench pictures generate clean

build: bin/hevrin

demo: bin/hevrin
	./bin/hevrin demo

bin/hevrin: $(GO_SOURCES) $(DIST)
	go build -ldflags "-X main.version=$(VERSION)" -o $@ ./cmd/hevrin

$(MODULES): web/package-lock.json
	cd web && npm ci --no-fund --no-audit
	touch $@

$(PHONE): $(PHONE_SOURCES)
	mkdir -p $(@D)
	go run ./phone/ship
	GOOS=js GOARCH=wasm go build $(patsubst %,-gcflags=%=-l,$(SMALL)) -ldflags "-s -w" -o $@ ./cmd/phone
	cp "$$(go env GOROOT)/lib/wasm/wasm_exec.js" $(@D)/
	touch $@

$(DIST) &: $(WEB_SOURCES) $(MODULES) $(PHONE)
	cd web && PACKING=$(PACKING) $(NPX) vite build
	mkdir -p bin && rm -f bin/.packed-* && touch $(DIST)

# The whole of it, the quick checks first; what does not wait for another runs beside it.
test: export PACKING := $(if $(wildcard $(PACKED)),$(PACKING),5)
test:
	$(MAKE) -j2 --output-sync=target PACKING=$(PACKING) format vet vet-phone contract web-test go-test bin/hevrin
	$(MAKE) PACKING=$(PACKING) e2e
	@echo "make test: all passed"

format: $(MODULES)
	@unformatted=$$(gofmt -l $$(git ls-files '*.go')); test -z "$$unformatted" || \
	{ echo "run make fix: gofmt would change:"; echo "$$unformatted"; exit 1; }
	cd web && $(NPX) prettier --check --log-level warn .

.PHONY: fix
fix: $(MODULES)
	gofmt -w $$(git ls-files '*.go')
	cd web && $(NPX) prettier --write --log-level warn .

vet:
	go vet ./...
	$(TOOL) staticcheck ./...

vet-phone: $(PHONE)
	GOOS=js GOARCH=wasm go vet ./cmd/phone

# The Go and TypeScript types must be those of api/openapi.yaml.
contract: $(MODULES)
	@t=$$(mktemp -d); trap 'rm -rf "$$t"' EXIT; \
	sed "s|^output:.*|output: $$t/contract.gen.go|" api/oapi-codegen.yaml > "$$t/types.yaml" && \
	sed "s|^output:.*|output: $$t/routes.gen.go|" api/routes/oapi-codegen.yaml > "$$t/routes.yaml" && \
	(cd api && $(TOOL) oapi-codegen -config "$$t/types.yaml" openapi.yaml) && \
	(cd api/routes && $(TOOL) oapi-codegen -config "$$t/routes.yaml" ../openapi.yaml) && \
	(cd web && $(NPX) openapi-typescript ../api/openapi.yaml -o "$$t/schema.gen.ts" >/dev/null) && \
	diff -q "$$t/contract.gen.go" api/contract.gen.go && diff -q "$$t/routes.gen.go" api/routes/routes.gen.go && \
	diff -q "$$t/schema.gen.ts" web/src/api/schema.gen.ts || \
	{ echo "the types are not those of api/openapi.yaml: run make generate"; exit 1; }

generate: $(MODULES)
	cd api && go generate ./...
	cd web && $(NPX) openapi-typescript ../api/openapi.yaml -o src/api/schema.gen.ts

# Vetted by itself already. The race detector takes five to ten times as long: here it looks at the tests that do several
# things at once, found by what they are written with, and at those named; make race looks at all.
AT_ONCE := Faults|Feed|Recording|$(shell sh scripts/at-once.sh)
AT_ONCE_IN := ./app/... ./live/... ./push/... ./simulator/... ./server/... ./store/... ./training/... ./core/plant
go-test: $(PHONE)
	go test -vet=off ./...
	go test -vet=off -race -run '$(AT_ONCE)' $(AT_ONCE_IN)

.PHONY: race
race:
	go test -vet=off -race -timeout 60m $(AT_ONCE_IN)

# TypeScript 7 takes a fifth of the time; what makes the contract's types uses 6 as a library.
TSC := node node_modules/typescript7/bin/tsc
web-test: $(MODULES)
	cd web && $(TSC) && $(TSC) -p worker && $(NPX) oxlint --deny-warnings && $(NPX) vitest run

# Browser tests drive the built program, all of them at both widths with ALL_BROWSER_TESTS=1; they run again only when it
# or they have changed.
e2e: bin/.browser-tests-passed

bin/.browser-tests-passed: bin/hevrin $(E2E_SOURCES) $(MODULES)
	sh scripts/chromium.sh
	cd web && $(NPX) playwright test || { \
	  echo 'What the page said where a test failed:'; \
	  grep -rhE '^ *- (status|alert|heading|dialog|article|complementary|group|waiting for get|locator resolved|.*intercepts|unexpected)' \
	    test-results --include=error-context.md | uniq | cut -c1-160 | tail -30; \
	  exit 1; }
	touch $@

bench:
	go test -run '^$$' -bench . -benchmem ./core/... ./server

# Draws inputs for every importer and reader, and requests from the contract: a million each, and a hundred thousand.
FUZZ ?= 1000000x
.PHONY: fuzz
fuzz:
	go test -run '^$$' -fuzz FuzzRead$$ -fuzzminimizetime 20x -fuzztime $(FUZZ) ./core/datalog
	go test -run '^$$' -fuzz FuzzLines -fuzzminimizetime 20x -fuzztime $(FUZZ) ./core/nmea
	go test -run '^$$' -fuzz FuzzReadBundle -fuzzminimizetime 20x -fuzztime $(FUZZ) ./reports
	go test -run '^$$' -fuzz FuzzPictures -fuzzminimizetime 20x -fuzztime $(FUZZ) ./app/job
	go test -run '^$$' -fuzz FuzzList -fuzzminimizetime 20x -fuzztime $(FUZZ) ./app/yardlist
	HEVRIN_REQUESTS=100000 go test -run DrawnRequests -timeout 60m ./server

# The program as it is given away: stripped, and the same bytes wherever the same source is built with the same tools.
.PHONY: release
release: $(GO_SOURCES) $(DIST)
	go build -trimpath -buildvcs=false -ldflags "-s -w -buildid= -X main.version=$(VERSION)" -o bin/hevrin-release ./cmd/hevrin
	sha256sum bin/hevrin-release

# What the program is made of (docs/sbom.json, CycloneDX) under which licences, and what is known against any of it; the
# lists of known weaknesses are asked over the network, and it is said where they cannot be reached.
.PHONY: audit
audit: $(MODULES)
	sh scripts/audit.sh

# Draws docs/screenshots afresh from the demo.
pictures: bin/hevrin $(MODULES)
	sh scripts/chromium.sh
	cd web && PICTURES=1 $(NPX) playwright test pictures --project=desk

clean:
	rm -rf bin web/node_modules web/test-results web/dist/assets web/dist/index.html

# Judges drawn rounds of drawn engines and prints the table of docs/benchmark-readings.md.
.PHONY: bench-readings
bench-readings:
	go run ./benchmarks/readings -cases 500 -seed 7

# Makes a yard of 2,000 engines, ten seasons and five million readings, and times every page on it.
.PHONY: bench-yard
bench-yard: $(DIST)
	go run ./benchmarks/yard

# Lets fifty people work at once for ten minutes and prints how they are answered.
.PHONY: bench-users
bench-users: $(DIST)
	go run ./benchmarks/users

# Follows the strategies through drawn jobs and prints the table of docs/benchmark-diagnosis.md.
.PHONY: bench-diagnosis
bench-diagnosis:
	go run ./benchmarks/diagnosis -cases 1000 -seed 7

# Changes the rules one by one, counts which changes no test sees, and prints the table of docs/mutation.md.
.PHONY: mutation
mutation:
	go run ./benchmarks/mutation
