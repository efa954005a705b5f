# Dorbin. "make demo" and "make test" install what is missing and do everything.

VERSION := $(shell git describe --tags --always --dirty 2>/dev/null || echo development)
GO_FILES := $(shell find cmd core internal -name '*.go')
GO_PACKAGES := ./cmd/... ./core/... ./internal/...
WEB_FILES := $(shell find web/src web/public -type f) web/index.html web/vite.config.ts web/package-lock.json
DEMO_LISTEN ?= 127.0.0.1:8181
DEMO_DATA ?= .data/demo

export CGO_ENABLED ?= 0
# HEIC is read in a sandbox, never by a library of the machine.
export GOFLAGS ?= -tags=nodynamic

.PHONY: build demo test unit race lint e2e fuzz bench api screenshots tools clean

build: bin/dorbin ## the program, front end included

demo: build ## start with the demo packet
	./bin/dorbin demo --data $(DEMO_DATA) --listen $(DEMO_LISTEN)

bin/dorbin: $(GO_FILES) go.mod go.sum internal/server/dist/index.html
	go build -trimpath -ldflags '-s -w -X main.version=$(VERSION)' -o $@ ./cmd/dorbin

web/node_modules/.package-lock.json: web/package-lock.json
	cd web && npm ci --no-audit --no-fund

e2e/node_modules/.package-lock.json: e2e/package-lock.json
	cd e2e && npm ci --no-audit --no-fund

internal/server/dist/index.html: web/node_modules/.package-lock.json $(WEB_FILES)
	rm -rf internal/server/dist/assets
	cd web && npm run --silent build

test: tools lint unit e2e ## everything

tools: ## Debian packages that the tests need
	scripts/install-test-tools

lint: web/node_modules/.package-lock.json e2e/node_modules/.package-lock.json internal/server/dist/index.html
	scripts/lint

unit: build
	go test $(GO_PACKAGES)
	CGO_ENABLED=1 go test -race ./core/packet ./internal/render ./internal/server ./internal/store
	cd web && npm test

e2e: build e2e/node_modules/.package-lock.json
	cd e2e && npm test

fuzz: ## each fuzz target for a short while
	scripts/fuzz

bench: build ## the numbers of docs/benchmarks.md
	bench/run

api: ## the OpenAPI description and the client's types
	UPDATE_OPENAPI=1 go test ./internal/server -run TestDescriptionIsCurrent -count 1
	cd web && npm run --silent api

screenshots: build e2e/node_modules/.package-lock.json ## docs/screenshots, from the demo
	cd e2e && npm run screenshots

clean:
	rm -rf bin .data web/node_modules e2e/node_modules internal/server/dist/assets internal/server/dist/index.html
