# Dorbin. "make demo" and "make test" install what is missing and do everything.

VERSION := $(shell git describe --tags --always --dirty 2>/dev/null || echo development)
GO_FILES := $(shell find cmd core internal -name '*.go')
GO_PACKAGES := ./cmd/... ./core/... ./internal/...
WEB_FILES := $(shell find web/src web/public -type f) web/index.html web/vite.config.ts web/package-lock.json
DEMO_LISTEN ?= 127.0.0.1:8181
DEMO_DATA ?= .data/demo

export CGO_ENABLED ?= 0
# HEIC is read in a sandbox, never by a library of the machine. The program, its tests and the linters are built alike,
# so that nothing is compiled twice.
export GOFLAGS ?= -tags=nodynamic -trimpath

# Only what hangs takes so long, also on a slow machine. Vet is run by scripts/lint; debuggers are not.
GO_TEST := go test -timeout 60m -vet=off -ldflags=-w

# What takes long takes turns in "make test": each commit has the next. "make everything" has all.
TURN ?= $(shell git rev-list --count HEAD 2>/dev/null || echo 0)

.PHONY: build demo dev check test everything unit unit-quick unit-web race lint e2e corpus fuzz bench api screenshots tools clean

build: bin/dorbin ## the program, front end included

demo: build ## start with the demo packet
	scripts/install-reader
	./bin/dorbin demo --data $(DEMO_DATA) --listen $(DEMO_LISTEN)

bin/dorbin: $(GO_FILES) go.mod go.sum internal/server/dist/index.html
	go build -ldflags '-s -w -X main.version=$(VERSION)' -o $@ ./cmd/dorbin

web/node_modules/.package-lock.json: web/package-lock.json
	cd web && npm ci --no-audit --no-fund

e2e/node_modules/.package-lock.json: e2e/package-lock.json
	cd e2e && npm ci --no-audit --no-fund

internal/server/dist/index.html: web/node_modules/.package-lock.json $(WEB_FILES)
	rm -rf internal/server/dist/assets
	cd web && npm run --silent build

dev: build ## the demo at its address, and the front end with hot reload at another
	scripts/dev $(DEMO_DATA) $(DEMO_LISTEN)

check: web/node_modules/.package-lock.json e2e/node_modules/.package-lock.json internal/server/dist/index.html ## what can be told in a minute
	scripts/lint --cached
	$(MAKE) --no-print-directory --jobs 2 unit-quick unit-web

unit-quick:
	$(GO_TEST) -short $(GO_PACKAGES)

unit-web:
	cd web && npm test

# Every third turn is that of the race detector, for which everything is compiled once more: heavy tests rest then.
ifeq ($(shell expr $(TURN) % 3),0)
IN_TURN := race
HEAVY := none
else
IN_TURN := heavy
HEAVY := $(shell expr $(TURN) \* 2 / 3)
endif

test: export DORBIN_TURN = $(HEAVY)
test: tools ## as a change lands: all that is quick, and what is heavy and has its turn
	@echo "Turn $(TURN): $(IN_TURN) tests."
	$(MAKE) --no-print-directory --jobs 2 e2e unit lint $(filter race,$(IN_TURN))

tools: ## Debian packages that the tests need
	scripts/install-test-tools

lint: web/node_modules/.package-lock.json e2e/node_modules/.package-lock.json internal/server/dist/index.html
	scripts/lint

unit: build
	$(GO_TEST) $(GO_PACKAGES)
	$(MAKE) --no-print-directory unit-web

# Where several things happen at once. "make everything" has all rooms under the race detector.
AT_ONCE_ROOMS := ./internal/confine ./internal/jobs ./internal/scanning ./internal/store ./internal/server ./internal/app
AT_ONCE := Job|Soak|While|OwnerIsDeleted|AtOnce|Cancel|GivenUp|SurvivesARestart|Events

# Workers do one thing at a time: they are the program itself, which starts more quickly.
race: export DORBIN_TEST_WORKER := $(CURDIR)/bin/dorbin
race: build ## what happens at once, under the race detector
	CGO_ENABLED=1 $(GO_TEST) -race -short -run '$(AT_ONCE)' $(AT_ONCE_ROOMS)

everything: tools lint e2e corpus unit-web ## every test; takes more than an hour

corpus: build ## every Go test with every case of the large corpora, and all rooms under the race detector
	DORBIN_CORPUS=all $(GO_TEST) -timeout 4h $(GO_PACKAGES)
	CGO_ENABLED=1 $(GO_TEST) -race -short ./internal/...

e2e: build e2e/node_modules/.package-lock.json
	cd e2e && npm test

fuzz: ## each fuzz target for a short while
	scripts/fuzz

bench: build ## the numbers of docs/benchmarks.md
	bench/run

api: ## the OpenAPI description, the client's types, the rules that it shares, and the catalogue of the server's texts
	UPDATE_OPENAPI=1 go test ./internal/server ./internal/architecture -run 'AreCurrent|IsCurrent' -count 1
	cd web && npm run --silent api

screenshots: build e2e/node_modules/.package-lock.json ## docs/screenshots, from the demo
	cd e2e && npm run screenshots

clean:
	rm -rf bin .data web/node_modules e2e/node_modules internal/server/dist/assets internal/server/dist/index.html
