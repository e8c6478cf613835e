# Everything a fresh machine needs is done by `make demo` and `make test`; both are quick the second time.
SHELL := /bin/bash
.SHELLFLAGS := -eu -o pipefail -c
.DEFAULT_GOAL := help
.PHONY: help demo demo-reset serve workshop test bench setup browser schema lint lint-core lint-interface unit unit-tests screenshots clean backup restore sweep abuse

PORT ?= 8377
TABLET ?= 8379
PY := .venv/bin/python
DEMO := YPSICLINE_DEMO=1 YPSICLINE_DATA=$(CURDIR)/var/demo
SOURCES := $(shell find frontend/src -type f ! -name schema.ts 2>/dev/null) frontend/index.html frontend/package-lock.json frontend/vite.config.ts

help:
	@echo "make demo        the demo workshop on http://127.0.0.1:$(PORT)/"
	@echo "make demo-reset  the demo made afresh"
	@echo "make serve       a real workshop on http://127.0.0.1:$(PORT)/ (first: make workshop NAME=... USER=...)"
	@echo "                 (LAN=1 lets phones on this network send photos; TABLET=port listens for a digitising tablet)"
	@echo "make backup      a checked copy of the workshop (TO=folder KEEP=count; EVERY=hours goes on)"
	@echo "make restore     a copy put into a new place: FILE=... INTO=folder"
	@echo "make sweep       takes away files that nothing refers to any more (DRY=1 only counts them)"
	@echo "make test        all checks and tests"
	@echo "make abuse       the long form of the tests by lot, by killing and by hostile calls (LOTS=20000)"
	@echo "make bench       accuracy and time, as a table in docs/bench.md"

.venv/ready: requirements/dev.lock pyproject.toml
	@command -v python3.11 >/dev/null || { echo "Python 3.11 is needed and was not found."; exit 1; }
	@echo "Setting up Python's packages in .venv ..."
	@test -x $(PY) || python3.11 -m venv .venv
	@.venv/bin/pip install -q --disable-pip-version-check --require-hashes -r requirements/dev.lock
	@.venv/bin/pip install -q --disable-pip-version-check --no-deps --no-build-isolation -e .
	@touch $@

frontend/node_modules/ready: frontend/package-lock.json
	@command -v npm >/dev/null || { echo "Node 20 with npm is needed and was not found."; exit 1; }
	@echo "Setting up the interface's packages ..."
	@cd frontend && npm ci --ignore-scripts --no-audit --no-fund --loglevel=error
	@touch $@

frontend/src/api/schema.ts: docs/openapi.json frontend/node_modules/ready
	@cd frontend && npm run --silent types >/dev/null

frontend/dist/index.html: frontend/src/api/schema.ts $(SOURCES)
	@echo "Building the interface ..."
	@cd frontend && npm run --silent build -- --logLevel warn
	@touch $@

# Python's and the interface's parts are set up and checked beside one another
BESIDE := +@$(MAKE) -s --no-print-directory -j2

setup:
	$(BESIDE) .venv/ready frontend/dist/index.html

demo: setup
	@mkdir -p var/demo
	@$(DEMO) $(PY) -m demo
	@$(DEMO) exec $(PY) manage.py serve --port $(PORT) $(if $(LAN),--lan) --tablet $(TABLET)

demo-reset:
	@rm -rf var/demo
	@$(MAKE) --no-print-directory demo

workshop: setup
	@test -n "$(NAME)" -a -n "$(USER)" || { echo 'Say which: make workshop NAME="Our workshop" USER=anna'; exit 1; }
	@$(PY) manage.py upgrade
	@$(PY) manage.py new_workshop "$(NAME)" "$(USER)"

serve: setup
	@$(PY) manage.py upgrade
	@$(PY) manage.py collectstatic --noinput -v 0
	@exec $(PY) manage.py serve --port $(PORT) $(if $(LAN),--lan) --tablet $(TABLET)

backup: setup
	@$(PY) manage.py backup $(if $(TO),--to "$(TO)") $(if $(KEEP),--keep $(KEEP)) $(if $(EVERY),--every $(EVERY))

restore: setup
	@test -n "$(FILE)" -a -n "$(INTO)" || { echo 'Say which copy, and where to: make restore FILE=... INTO=folder'; exit 1; }
	@$(PY) manage.py restore "$(FILE)" "$(INTO)"

sweep: setup
	@$(PY) manage.py sweep $(if $(DRY),--dry-run)

browser:
	@test -x /usr/bin/chromium || { test "$$(id -u)" = 0 && command -v apt-get >/dev/null || \
	  { echo "The browser tests need Debian's Chromium at /usr/bin/chromium: apt-get install chromium"; exit 1; }; \
	  echo "Installing Chromium ..."; apt-get update -qq; \
	  DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends chromium >/dev/null; }

schema: .venv/ready
	@YPSICLINE_DATA=$(CURDIR)/var/test $(PY) manage.py export_schema docs/openapi.json

lint-core:
	@echo "Checking the code ..."
	@.venv/bin/ruff check . && .venv/bin/ruff format --check .
	@YPSICLINE_DATA=$(CURDIR)/var/test .venv/bin/mypy
	@.venv/bin/lint-imports

lint-interface:
	@echo "Checking the interface's code ..."
	@cd frontend && npm run --silent lint && npm run --silent check

unit-tests:
	@cd frontend && npm run --silent test

lint: setup
	$(BESIDE) --output-sync=target lint-core lint-interface

unit: setup unit-tests

test: setup browser
	$(BESIDE) --output-sync=target lint-core lint-interface unit-tests
	@YPSICLINE_DATA=$(CURDIR)/var/test DJANGO_ALLOW_ASYNC_UNSAFE=1 .venv/bin/pytest -n auto --dist worksteal

bench: setup
	@$(PY) -m bench

abuse: setup
	@YPSICLINE_LOTS=$(or $(LOTS),20000) YPSICLINE_KILLS=50 YPSICLINE_CALLS=40 YPSICLINE_DATA=$(CURDIR)/var/test \
	  DJANGO_ALLOW_ASYNC_UNSAFE=1 .venv/bin/pytest -n auto --dist worksteal tests/core/test_panels_by_lot.py tests/server/test_backup.py \
	  tests/server/test_killed.py tests/server/test_hostile.py tests/server/test_schema.py

screenshots: setup
	@$(DEMO) $(PY) -m demo.screenshots

clean:
	@rm -rf .venv frontend/node_modules frontend/dist var
