PORT ?= 8750
DATA ?= demo.db
PYTHON ?= python3
BIN := .venv/bin
STAMPS := .stamps
WEB := src/zesty_grid/web/index.html
WEB_SOURCES := $(shell find frontend/src frontend/public -type f) frontend/index.html frontend/vite.config.ts
API_SOURCES := $(shell find src/zesty_grid -name '*.py')
API_TYPES := frontend/src/api/schema.d.ts
# Data files of the tests lie in memory where there is such a place: each of them is synced to the disk often.
# One thread of the matrix library for each worker: it is loaded before ours could say so.
PYTEST := OPENBLAS_NUM_THREADS=1 TMPDIR=$(firstword $(wildcard /dev/shm /tmp)) $(BIN)/python -m pytest -n auto --maxprocesses 4 --dist worksteal

.PHONY: setup demo test test-components test-python test-core test-long check lint lint-python lint-frontend dev bench fuzz screenshots

setup: $(STAMPS)/python $(WEB)

$(STAMPS)/python: requirements.lock pyproject.toml
	@mkdir -p $(STAMPS)
	test -x $(BIN)/python || $(PYTHON) -m venv .venv
	$(BIN)/pip install --quiet --disable-pip-version-check --require-hashes -r requirements.lock
	$(BIN)/pip install --quiet --disable-pip-version-check --no-deps --no-build-isolation -e .
	@touch $@

$(STAMPS)/node: frontend/package-lock.json frontend/package.json
	@mkdir -p $(STAMPS)
	cd frontend && npm ci --no-audit --no-fund --loglevel=error
	@touch $@

# The API's description and its types in TypeScript, made by the code; anew only where they would be others.
$(STAMPS)/api-types: $(STAMPS)/python $(STAMPS)/node $(API_SOURCES)
	$(BIN)/zesty-grid openapi > frontend/openapi.json.new
	cmp -s frontend/openapi.json.new frontend/openapi.json && test -f $(API_TYPES) || \
	{ mv frontend/openapi.json.new frontend/openapi.json && cd frontend && npm run api-types --silent; }
	@rm -f frontend/openapi.json.new
	@touch $@

$(API_TYPES): $(STAMPS)/api-types ;

$(WEB): $(API_TYPES) $(WEB_SOURCES)
	cd frontend && npm run build --silent -- --logLevel warn
	@touch $@

demo: setup
	$(BIN)/zesty-grid serve --demo --data $(DATA) --port $(PORT)

lint: setup
	$(MAKE) --no-print-directory -j2 --output-sync lint-python lint-frontend

lint-python:
	$(BIN)/ruff check .
	$(BIN)/ruff format --check .
	$(BIN)/mypy
	$(BIN)/lint-imports --no-cache

lint-frontend:
	cd frontend && npm run lint --silent && npm run types --silent

# Components are tested beside the others, which leave some of two cores idle.
test: lint
	.ci/chromium
	$(MAKE) --no-print-directory -j2 test-components test-python

# For the inner loop: lint, types, components and the core.
check: lint
	$(MAKE) --no-print-directory -j2 test-components test-core

test-components:
	cd frontend && npm test --silent

test-python:
	$(PYTEST)

test-core:
	$(PYTEST) tests/core -m "not slow"

test-long: setup
	.ci/chromium
	TEST_DEPTH=long $(PYTEST)

dev: setup
	$(BIN)/zesty-grid serve --demo --data $(DATA) --port 8750 & \
	cd frontend && npm run dev; kill %1

bench: setup
	$(BIN)/python bench/measure_photo.py
	$(BIN)/python bench/conditions.py
	$(BIN)/python bench/thousand_cells.py
	$(BIN)/python bench/day_plans.py
	$(BIN)/python bench/differences.py
	$(BIN)/python bench/fading.py
	$(BIN)/python bench/comparing.py
	$(BIN)/python bench/many_studies.py
	$(BIN)/python bench/large_study.py
	$(BIN)/python bench/first_look.py
	$(BIN)/python bench/dragging.py

fuzz: setup
	$(BIN)/python bench/fuzz_api.py

screenshots: setup
	.ci/chromium
	$(BIN)/python docs/take_screenshots.py
