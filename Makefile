# The two commands are `make demo` and `make test`; the others are their parts.
PORT ?= 5178
DATA ?= data
PY := .venv/bin/python

.PHONY: demo test test-core test-browser setup bench lint format shots types check-browser

demo: setup
	.venv/bin/gray-quill demo --port $(PORT) --data $(DATA) $(if $(RESET),--reset)

setup: .venv/.ready .venv/.kernels web/dist/index.html

.venv/.ready: requirements.lock pyproject.toml
	test -x $(PY) || python3 -m venv .venv
	.venv/bin/pip install -q -r requirements.lock
	.venv/bin/pip install -q --no-deps -e .
	touch $@

# A compiled kernel is kept beside its file and does not notice when one that it calls has changed.
.venv/.kernels: .venv/.ready $(shell grep -rl --include=*.py numba src)
	find src -name '*.nb[ci]' -delete
	.venv/bin/gray-quill warm
	touch $@

.venv/.dev: .venv/.ready requirements-dev.lock
	.venv/bin/pip install -q -r requirements-dev.lock
	touch $@

web/node_modules/.ready: web/package-lock.json
	cd web && npm ci --no-audit --no-fund --loglevel=error
	touch $@

WEB_SOURCES := $(shell find web/src -type f) web/index.html web/vite.config.ts web/package.json
web/dist/index.html: web/node_modules/.ready $(WEB_SOURCES)
	cd web && npm run --silent build

web/dist-parity/live-ink.js: web/node_modules/.ready $(WEB_SOURCES) web/vite.parity.config.ts
	cd web && npm run --silent build:parity

# The front end's types follow the API; the OpenAPI document is kept beside them.
types: .venv/.ready web/node_modules/.ready
	$(PY) -m gray_quill.web.openapi > web/src/api/openapi.json
	cd web && npm run --silent types

check-browser:
	@command -v chromium >/dev/null && command -v chromedriver >/dev/null || (apt-get update -qq && apt-get install -y -qq chromium chromium-driver)

lint: .venv/.dev web/node_modules/.ready
	.venv/bin/ruff check src tests bench tools
	.venv/bin/ruff format --check -q src tests bench tools
	.venv/bin/mypy
	cd web && npm run --silent check && npm run --silent lint

# The formatters decide the shape of lines.
format: .venv/.dev web/node_modules/.ready
	.venv/bin/ruff format -q src tests bench tools
	cd web && npm run --silent format

# Two halves beside each other, one for each core: tests in the browser, and all others.
UNITTEST := $(PY) -W error::RuntimeWarning -m unittest -v
test: setup .venv/.dev check-browser lint web/dist-parity/live-ink.js
	$(MAKE) --no-print-directory --keep-going --jobs=2 --output-sync=target test-core test-browser

test-core: .venv/.dev
	$(UNITTEST) $(filter-out tests/browser/%,$(wildcard tests/*/test_*.py))

test-browser: setup .venv/.dev check-browser web/dist-parity/live-ink.js
	$(UNITTEST) $(wildcard tests/browser/test_*.py)

bench: setup .venv/.dev check-browser web/dist-parity/live-ink.js
	$(PY) bench/run.py

shots: setup .venv/.dev check-browser
	$(PY) tools/shots.py
