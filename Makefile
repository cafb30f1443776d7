# Two commands do everything on a fresh machine: make demo, make test.
# Each installs what is missing first, says what it does, and is quick the
# second time.

SHELL := /bin/bash
.DEFAULT_GOAL := help
.PHONY: help demo test running long fuzz mixed build bench company shape lint shots setup api licences sbom clean

GO_FILES   := $(shell find core library store server demo cmd wasm -name '*.go' -o -name '*.yaml' -o -name '*.sql' 2>/dev/null)
CORE_FILES := $(shell find core wasm -name '*.go' ! -name '*_test.go' 2>/dev/null) go.mod go.sum
PAGE_FILES := $(shell find web/src web/public -type f ! -name '*.wasm' ! -name 'wasm_exec.js' 2>/dev/null) web/index.html web/vite.config.ts web/tsconfig.json web/package.json

help: ## what there is
	@grep -hE '^[a-z-]+:.*##' $(MAKEFILE_LIST) | sed -E 's/:.*## /\t/' | expand -t 14

demo: build ## start the program with demo data, with a database of its own
	@bin/evensteps demo $(DEMO)

test: build lint ## all tests: the core, the store, the server, the pages, the whole in a browser
	@echo "== tests of the pages"
	@cd web && npm test --silent
	@echo "== tests of the program"
	@go test -timeout 25m ./...

running: build ## docs/running.md tried word by word, in an empty Debian, with a browser through the proxy (root, debootstrap)
	@e2e/running/try.sh

long: ## what takes too long for every test: 2,000 jobs with one step made wrong, the fold and the planner for longer
	@go test -timeout 60m ./core/job -run TestOneStepMadeWrong -wrongs 2000 -v | tail -4
	@go test -timeout 60m ./core/record -run TestTheFoldAgainstAPlainModel -rapid.checks=20000
	@go test -timeout 60m ./core/plan -run Exhaustive -rapid.checks=4000

FUZZ_TIME ?= 1m
fuzz: .data/setup ## random input at every door, a minute each (FUZZ_TIME=10m for longer)
	@set -o pipefail; for at in core/record:FuzzRead core/reading:FuzzParse core/machine/mapfile:FuzzRead server:FuzzPhoto server/meter:FuzzMeter; do echo "== $$at"; go test ./$${at%%:*} -run XXX -fuzz $${at##*:} -fuzztime $(FUZZ_TIME) | tail -3 || exit 1; done

build: bin/evensteps ## the program with its pages

bin/evensteps: .data/setup web/dist/index.html $(GO_FILES) go.mod
	@echo "== building the program"
	@go build -o $@ ./cmd/evensteps

web/dist/index.html: web/node_modules/.package-lock.json web/src/offline/core.wasm $(PAGE_FILES)
	@echo "== building the pages"
	@cd web && npm run build --silent && node pack.mjs

web/src/offline/core.wasm: .data/setup $(CORE_FILES)
	@echo "== building the core for the browser"
	@GOOS=js GOARCH=wasm go build -trimpath -ldflags='-s -w' -gcflags='evensteps/...=-l' -o $@ ./wasm
	@cp "$$(go env GOROOT)/lib/wasm/wasm_exec.js" web/src/offline/wasm_exec.js

web/node_modules/.package-lock.json: .data/setup web/package-lock.json
	@echo "== installing the packages of the pages"
	@cd web && npm ci --ignore-scripts --no-audit --no-fund --loglevel=error
	@touch $@

.data/setup: setup.sh
	@./setup.sh
	@mkdir -p .data && touch $@

setup: ## install what the program needs from Debian
	@./setup.sh

lint: .data/setup web/node_modules/.package-lock.json web/src/offline/core.wasm ## formatting and the linters
	@echo "== lint"
	@out="$$(go tool gofumpt -l bench cmd core demo e2e library server store wasm stand-ins web/asks web/licences)"; if [ -n "$$out" ]; then echo "not formatted (run: go tool gofumpt -w .): $$out"; exit 1; fi
	@go vet ./...
	@GOOS=js GOARCH=wasm go vet ./wasm
	@go tool staticcheck ./...
	@cd web && npm run lint --silent && npx tsc --noEmit
	@go run ./bench/shape -check >.data/shape.txt || { cat .data/shape.txt; exit 1; }

shape: ## the shape of the core, with what stands behind each figure
	@go run ./bench/shape -v

api: ## make the API document, the web client types and the map schema again
	@go run ./cmd/evensteps openapi > .data/openapi.json && mv .data/openapi.json server/openapi.json
	@cd web && npm run api --silent
	@go run ./web/asks > .data/asks.ts && mv .data/asks.ts web/src/offline/asks.ts
	@EVENSTEPS_WRITE=1 go test ./library/schema ./server -run "Types|TheLimitsOfABatch" >/dev/null

licences: web/node_modules/.package-lock.json ## the licences of what ships, again
	@go run ./web/licences web/public/licences.txt

OLD ?= HEAD~1
MIXED ?= TestAWholeJobFromSignInToEven|TestFromTheCallToEven|TestTodayMineFirst|TestTwoOnOneStep
mixed: build ## pages of the version OLD (a commit) with this server, and the other way: whole jobs in a browser
	@rm -rf .data/old && git worktree prune && git worktree add -q --detach .data/old $(OLD)
	@mkdir -p .data/old/.data && touch .data/old/.data/setup
	@if cmp -s web/package-lock.json .data/old/web/package-lock.json; then cp -a web/node_modules .data/old/web/ && touch .data/old/web/node_modules/.package-lock.json; fi
	@$(MAKE) -s -C .data/old build
	@echo "== pages of $(OLD), this server"
	@EVENSTEPS_OTHER_PAGES="$(CURDIR)/.data/old/bin/evensteps" go test ./e2e -count=1 -run "$(MIXED)"
	@echo "== this version's pages, the server of $(OLD)"
	@EVENSTEPS_OTHER_SERVER="$(CURDIR)/.data/old/bin/evensteps" go test ./e2e -count=1 -run "$(MIXED)"
	@git worktree remove --force .data/old

bench: build ## the benchmarks; docs/performance.md keeps their figures
	@go test ./bench -run XXX -bench . -benchtime 2s | grep -E "Benchmark|^(goos|cpu)"
	@go run ./e2e/measure

company: .data/setup ## a company at work on the real program: load with a million facts, ten minutes of kills and cuts, a database put back
	@go run ./bench/company load -people 50 -jobs 27000 -events 1000000
	@go run ./bench/company load -people 200 -jobs 27000 -events 1000000 -servers 2 -live
	@go run ./bench/company load -people 500 -servers 2 -live
	@go run ./bench/company chaos -for 10m -pace 1s -servers 2 -live
	@go run ./bench/company restore -people 20 -pace 500ms

shots: build ## make the pictures in docs/screenshots again
	@go run ./e2e/shots docs/screenshots

sbom: web/node_modules/.package-lock.json ## all packages that ship, as CycloneDX, in .data/sbom (asks the registries)
	@mkdir -p .data/sbom
	@go run github.com/CycloneDX/cyclonedx-gomod/cmd/cyclonedx-gomod@v1.10.0 app -json -main cmd/evensteps -output .data/sbom/program.json .
	@cd web && npm exec --yes --package=@cyclonedx/cyclonedx-npm@6.0.0 -- cyclonedx-npm --omit dev --output-file ../.data/sbom/pages.json
	@ls -l .data/sbom

clean: ## take away what was built
	rm -rf bin .data web/node_modules web/src/offline/core.wasm web/src/offline/wasm_exec.js
	find web/dist -mindepth 1 ! -name .gitkeep -delete
