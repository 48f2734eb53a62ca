# The two commands are `make demo` and `make test`; the others are their parts.
HOST ?= 127.0.0.1
PORT ?= 5178
DATA ?= data
PY := .venv/bin/python

.PHONY: demo test setup side-by-side bench lint lint-core lint-screens format shots types check-browser \
	trial-kills trial-fuzz trial-recipes trial-advice trial-hands trial-films trial-feel trial-meant trial-choosing trial-clients trial-cancelled wheel audit third-party lock

demo: side-by-side
	.venv/bin/gray-quill demo --host $(HOST) --port $(PORT) --data $(DATA) $(if $(RESET),--reset)

# Packages and kernels need no screens, and screens no kernels.
side-by-side:
	@$(MAKE) --no-print-directory --jobs=3 --output-sync=target setup

setup: .venv/.ready .venv/.kernels web/dist/index.html

# What was fetched is kept in .wheels, so that another environment can be made of it without a network.
.venv/.ready: requirements.lock requirements-build.lock pyproject.toml
	test -x $(PY) || python3 -m venv .venv
	.venv/bin/pip download -q --require-hashes --only-binary=:all: -d .wheels -r requirements.lock -r requirements-build.lock
	.venv/bin/pip install -q --no-index --find-links .wheels --require-hashes -r requirements.lock -r requirements-build.lock
	.venv/bin/pip install -q --no-deps --no-build-isolation -e .
	touch $@

# A compiled kernel is kept beside its file and does not notice when one that it calls has changed.
.venv/.kernels: .venv/.ready $(shell grep -rl --include=*.py numba src)
	find src -name '*.nb[ci]' -delete
	.venv/bin/gray-quill warm
	touch $@

.venv/.dev: .venv/.ready requirements-dev.lock
	.venv/bin/pip install -q --require-hashes -r requirements-dev.lock
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
	mkdir -p build
	$(PY) -m gray_quill.web.openapi > build/openapi.json
	cd web && npm run --silent types < ../build/openapi.json

check-browser:
	@command -v chromium >/dev/null && command -v chromedriver >/dev/null && command -v certutil >/dev/null || \
		(apt-get update -qq && apt-get install -y -qq chromium chromium-driver libnss3-tools)

lint: lint-core lint-screens

lint-core: .venv/.dev
	.venv/bin/ruff check src tests bench tools
	.venv/bin/ruff format --check -q src tests bench tools
	.venv/bin/mypy

lint-screens: web/node_modules/.ready
	cd web && npm run --silent check && npm run --silent lint

# The formatters decide the shape of lines.
format: .venv/.dev web/node_modules/.ready
	.venv/bin/ruff format -q src tests bench tools
	cd web && npm run --silent format

# On all cores; what is not stale is not compiled, and a kernel that has to be compiled all the same is a failure.
test: side-by-side .venv/.dev check-browser web/dist-parity/live-ink.js build/.wheel
	$(MAKE) --no-print-directory --jobs=2 --output-sync=target lint
	$(PY) -W error::RuntimeWarning -m tests.run --warmed

bench: setup .venv/.dev check-browser web/dist-parity/live-ink.js
	.venv/bin/gray-quill bench

shots: setup .venv/.dev check-browser
	$(PY) tools/shots.py

# Campaigns against ourselves; bounded, on this machine only, and they stop by themselves.
N ?= 1000
SEED ?= 1
trial-kills: setup .venv/.dev
	$(PY) -m tests.trials.kills $(N) --seed $(SEED)

trial-recipes: setup .venv/.dev check-browser web/dist-parity/live-ink.js
	$(PY) -m tests.trials.recipes $(N) --seed $(SEED)

trial-advice: setup .venv/.dev
	$(PY) -m tests.trials.advice $(N) --seed $(SEED)

trial-hands: setup .venv/.dev
	$(PY) -m tests.trials.hands $(N) --seed $(SEED)

trial-films: setup .venv/.dev
	$(PY) -m tests.trials.films $(N) --seed $(SEED)

trial-feel: setup .venv/.dev
	$(PY) -m tests.trials.feel $(N) --seed $(SEED)

trial-meant: setup .venv/.dev
	$(PY) -m tests.trials.meant $(N) --seed $(SEED)

DIRECTIONS ?= 4
trial-choosing: setup .venv/.dev
	$(PY) -m tests.trials.preference_tuning $(N) --seed $(SEED) --directions $(DIRECTIONS)

trial-fuzz: setup .venv/.dev
	$(PY) -m tests.trials.fuzz $(N) --seed $(SEED)

trial-cancelled: setup .venv/.dev
	$(PY) -m tests.trials.cancelled $(N) --seed $(SEED)

SECONDS ?= 30
trial-clients: setup .venv/.dev
	$(PY) -m tests.trials.clients $(N) --seconds $(SECONDS)

# A wheel that carries the built screens: what it is installed into needs no Node.
WHEEL_SOURCES := $(shell find src -name '*.py' -o -name '*.sql') pyproject.toml requirements.in README.md THIRD-PARTY.md
wheel: build/.wheel
build/.wheel: .venv/.ready web/dist/index.html $(WHEEL_SOURCES)
	rm -rf build/wheel build/*.whl
	mkdir -p build/wheel
	cp -r src pyproject.toml requirements.in README.md LICENSE build/wheel
	find build/wheel -name __pycache__ -prune -exec rm -rf {} + -o -name '*.egg-info' -prune -exec rm -rf {} +
	cp -r web/dist build/wheel/src/gray_quill/screens
	cp THIRD-PARTY.md build/wheel/src/gray_quill
	.venv/bin/pip wheel -q --no-deps --no-build-isolation --no-index -w build build/wheel
	touch $@

# What it stands on: versions and licences as installed; no network is asked.
audit: .venv/.ready web/node_modules/.ready
	$(PY) tools/third_party.py

third-party: .venv/.ready web/node_modules/.ready
	$(PY) tools/third_party.py > THIRD-PARTY.md

# After a change of requirements*.in: versions pinned with the hashes of their files.
LOCK := build/lock/bin/uv pip compile --python-version 3.11 --universal --generate-hashes --no-annotate --no-header -q
lock:
	test -x build/lock/bin/uv || (python3 -m venv build/lock && build/lock/bin/pip install -q uv==0.13.9)
	$(LOCK) requirements.in -o requirements.lock
	$(LOCK) requirements-build.in -o requirements-build.lock
	$(LOCK) requirements-dev.in -c requirements.lock -o requirements-dev.lock
