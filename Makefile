# make demo and make test set everything up by themselves; the rest is for work on Bead.

BIN := bin/bead
GO_FILES := $(shell find . -name '*.go' -not -path './web/node_modules/*' 2>/dev/null) $(shell find core formats store demo -name '*.json' -o -name '*.sql' 2>/dev/null)
WEB_FILES := $(shell find web/src web/public -type f 2>/dev/null) web/index.html web/vite.config.ts web/tsconfig.json

.PHONY: help demo serve build release test lint fmt types bench fuzz jobs screenshots setup chromium clean

help: ## print this list
	@grep -hE '^[a-z]+:.*##' $(MAKEFILE_LIST) | sed -E 's/:[^#]*## /\t/' | expand -t 14

demo: build ## set up, build and start with the kelp station's scenes
	$(BIN) demo

serve: build ## the same with your own scenes
	$(BIN) serve

build: $(BIN) ## build the page and the program into bin/bead

setup: web/node_modules/.installed ## install the front end's packages

web/node_modules/.installed: web/package.json web/package-lock.json
	cd web && npm ci --no-audit --no-fund
	touch $@

web/dist/index.html: web/node_modules/.installed $(WEB_FILES)
	cd web && npm run build

$(BIN): web/dist/index.html $(GO_FILES) go.mod go.sum
	go build -o $(BIN) ./cmd/bead

chromium: ## install Debian's headless Chromium where it is missing and may be
	@command -v chromium-headless-shell >/dev/null || (apt-get update -qq && apt-get install -y -qq chromium-headless-shell >/dev/null) || \
	  command -v chromium >/dev/null || (echo 'Chromium is missing and could not be installed: install it for the browser tests' && exit 1)

# What many use at once is tested again with the race detector, where there is a C compiler for it.
RACE := 'AtOnce|Queue|ArePure|CachedCompile|Overtakes|BakesAre'

# The browser fills the machine by itself but for short waits, into which the few tests with the race
# detector fit. Memory is collected less often than in use: that takes a tenth to a sixth off the heavy
# packages.
test: export GOGC = 400
test: build chromium ## set up and run all tests
	@command -v gcc >/dev/null || (echo 'gcc is missing: the race detector needs it' && exit 1)
	@failed=; \
	go test -timeout 60m $$(go list ./... | grep -v bead/browser) || failed=1; \
	go test -race -run $(RACE) ./store ./server ./core/rig & \
	go test -timeout 60m ./browser || failed=1; \
	wait $$! || failed=1; \
	test -z "$$failed"

lint: setup ## vet, staticcheck, deadcode, gofmt, tsc, eslint, prettier, knip
	@test -z "$$(gofmt -l $$(git ls-files '*.go'))" || (gofmt -l $$(git ls-files '*.go') && echo 'run make fmt' && exit 1)
	go vet ./...
	go tool staticcheck ./...
	@dead="$$(go tool deadcode -test ./...)"; test -z "$$dead" || (echo "$$dead" && exit 1)
	cd web && npm run lint

fmt: setup ## format everything
	gofmt -w $$(git ls-files '*.go')
	cd web && npm run format

types: setup ## make the front end's types and the reference of commands from the Go code
	go run ./cmd/bead reference > docs/commands.md
	go run ./cmd/bead reference checks > docs/checks.md
	go run ./cmd/bead schema --page > web/src/core/page.schema.json
	go run ./cmd/bead schema --forms > web/src/core/forms.json
	cd web && npm run types

bench: build ## measure speed; prints ratios beside the figures
	go test -run '^$$' -bench . -benchtime 1s ./core/motion ./core/path ./core/facing ./core/rig ./core/bend ./core/sim
	go test -run '^$$' -bench . -benchtime 1s ./bench ./server

fuzz: ## a minute of fuzzing for each reader
	go test -run '^$$' -fuzz FuzzDecode -fuzztime 60s ./core/scene
	go test -run '^$$' -fuzz FuzzProfile -fuzztime 60s ./core/scene
	go test -run '^$$' -fuzz FuzzRead -fuzztime 60s ./formats/svg
	go test -run '^$$' -fuzz FuzzReadPoints -fuzztime 60s ./formats/csvtab
	go test -run '^$$' -fuzz FuzzReadLines -fuzztime 60s ./formats/obj
	go test -run '^$$' -fuzz FuzzReadMesh -fuzztime 60s ./formats/obj
	go test -run '^$$' -fuzz FuzzRead -fuzztime 60s ./formats/gltf
	go test -run '^$$' -fuzz FuzzReadMaterials -fuzztime 60s ./formats
	go test -run '^$$' -fuzz FuzzPatched -fuzztime 60s ./server
	go test -run '^$$' -fuzz FuzzMutated -fuzztime 60s ./demo
	go test -run '^$$' -fuzz FuzzParts -fuzztime 60s ./formats
	go test -run '^$$' -fuzz FuzzReopen -fuzztime 60s ./formats

jobs: build chromium ## do the jobs of a day in the page and count the presses
	BEAD_JOBS=1 go test -count=1 -v ./browser -run TestJobs

screenshots: build chromium ## take the pictures in docs/screenshots anew
	go run ./browser/screenshots $(BIN) docs/screenshots

# Files for people without Go or Node: the page is inside, nothing is linked from outside.
RELEASES := linux/amd64 linux/arm64 windows/amd64 windows/arm64 darwin/amd64 darwin/arm64
VERSION ?= 0.1.0

release: web/dist/index.html ## build the program for every platform, with checksums, into release/
	rm -rf release && mkdir release
	for p in $(RELEASES); do \
	  os=$${p%/*}; arch=$${p#*/}; exe=; [ $$os = windows ] && exe=.exe; \
	  CGO_ENABLED=0 GOOS=$$os GOARCH=$$arch go build -trimpath -ldflags '-s -w -X main.version=$(VERSION)' -o release/bead-$(VERSION)-$$os-$$arch$$exe ./cmd/bead || exit 1; \
	done
	cd release && sha256sum bead-* > checksums.txt

clean: ## remove what was built
	rm -rf bin web/dist/* web/node_modules
