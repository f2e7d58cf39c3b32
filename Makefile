# Two commands do everything: `make demo` starts the app, `make test` runs the tests.
# `make quick` is for while you work; `make nightly` searches for hours.
SHELL := /bin/bash
PY := .venv/bin/python
STAMPS := .make
# Where a machine forbids Python to keep what it has compiled, every process compiles all of it anew:
# to collect the tests takes twice as long.
export PYTHONDONTWRITEBYTECODE :=

.PHONY: demo serve test quick nightly nightly-slice kernel-stamp check client bench wheel format clean
PYTEST := $(PY) -m pytest --numprocesses 2 --dist worksteal --durations 10

demo: $(STAMPS)/python $(STAMPS)/dist
	@exec .venv/bin/oddkettle demo

serve: $(STAMPS)/python $(STAMPS)/dist
	@exec .venv/bin/oddkettle serve

test: $(STAMPS)/dev $(STAMPS)/dist $(STAMPS)/debian
	cd web && npm test
	ODDKETTLE_TIER=test $(PYTEST)

quick: $(STAMPS)/dev
	ODDKETTLE_TIER=quick $(PYTEST)

# In slices: what was broken off goes on where it was.
nightly: $(STAMPS)/nightly $(STAMPS)/dist $(STAMPS)/debian
	$(PY) -m scripts.nightly
	$(PY) -m scripts.mutants

# One slice of the night, the one whose turn it is by the number of commits.
nightly-slice: $(STAMPS)/dev $(STAMPS)/dist $(STAMPS)/debian
	$(PY) -m scripts.nightly --turn

# After a change of the kernel: the tests of its compiling, which the day leaves out while it has its stamp.
kernel-stamp: $(STAMPS)/dev
	$(PY) -m tests.support.kernel_stamp

wheel: $(STAMPS)/dev $(STAMPS)/dist
	rm -rf build
	$(PY) -m build --wheel --outdir dist --no-isolation

check: $(STAMPS)/dev $(STAMPS)/client
	$(PY) -m ruff check .
	$(PY) -m ruff format --check .
	$(PY) -m mypy
	.venv/bin/lint-imports
	cd web && npm run --silent lint && npm run --silent types
	$(PY) scripts/check_tree.py
	$(PY) -m scripts.check_words

client: $(STAMPS)/client

bench: $(STAMPS)/dev $(STAMPS)/dist $(STAMPS)/debian
	$(PY) -m bench.kernel
	$(PY) -m bench.futures
	$(PY) -m bench.browser
	$(PY) -m bench.build

format: $(STAMPS)/dev $(STAMPS)/web
	$(PY) -m ruff check --fix . && $(PY) -m ruff format .
	cd web && npm run --silent format

clean:
	rm -rf .make web/dist web/node_modules .venv

# A stamp says when a step was last done; it is done again when what it reads has changed.
$(STAMPS)/venv:
	@mkdir -p $(STAMPS)
	python3 -m venv .venv
	@touch $@

$(STAMPS)/python: requirements.lock pyproject.toml $(STAMPS)/venv
	$(PY) -m pip install --quiet --require-hashes --requirement requirements.lock
	$(PY) -m pip install --quiet --no-deps --editable .
	@# Compile the stepping loop now, so that no start has to wait for it.
	.venv/bin/oddkettle simulate examples/plans/moth-season.json > /dev/null
	@touch $@

$(STAMPS)/dev: requirements-dev.lock $(STAMPS)/python
	$(PY) -m pip install --quiet --require-hashes --requirement requirements-dev.lock
	@touch $@

$(STAMPS)/nightly: requirements-nightly.lock $(STAMPS)/dev
	$(PY) -m pip install --quiet --require-hashes --requirement requirements-nightly.lock
	@touch $@

$(STAMPS)/web: web/package.json web/package-lock.json
	@mkdir -p $(STAMPS)
	@# Not `npm ci`: it wants every platform's binaries in the lock file, and a registry need not
	@# carry those of other systems. Versions come from the lock file all the same.
	cd web && npm install --no-save --no-audit --no-fund --loglevel=error
	@touch $@

# The types and the bounds that the pages read are written from the API, and kept nowhere else.
$(STAMPS)/client: $(STAMPS)/python $(STAMPS)/web web/limits.mjs $(shell find src/oddkettle -name '*.py')
	.venv/bin/oddkettle openapi > web/openapi.new.json
	@cmp --silent web/openapi.new.json web/openapi.json && test -f web/src/api/schema.gen.ts -a web/src/api/limits.gen.ts -nt web/limits.mjs \
	&& rm web/openapi.new.json || (mv web/openapi.new.json web/openapi.json && cd web && npm run --silent client)
	@touch $@

$(STAMPS)/dist: $(STAMPS)/client $(shell find web/src web/public -type f 2>/dev/null) web/index.html web/vite.config.ts
	cd web && npm run --silent build
	@touch $@

$(STAMPS)/debian: scripts/install_debian.sh
	@mkdir -p $(STAMPS)
	bash scripts/install_debian.sh
	@touch $@
