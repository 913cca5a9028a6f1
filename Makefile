PORT ?= 8750
DATA ?= demo.db
PYTHON ?= python3
BIN := .venv/bin
STAMPS := .stamps
WEB := src/zesty_grid/web/index.html
WEB_SOURCES := $(shell find frontend/src frontend/public -type f) frontend/index.html frontend/vite.config.ts

.PHONY: setup demo test dev bench fuzz api-types screenshots

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

$(WEB): $(STAMPS)/node $(WEB_SOURCES)
	cd frontend && npm run build --silent -- --logLevel warn
	@touch $@

demo: setup
	$(BIN)/zesty-grid serve --demo --data $(DATA) --port $(PORT)

test: setup
	.ci/chromium
	$(BIN)/ruff check .
	$(BIN)/ruff format --check .
	$(BIN)/mypy --strict -p zesty_grid.core
	$(BIN)/mypy -p zesty_grid
	$(BIN)/lint-imports --no-cache
	cd frontend && npm run lint --silent && npm run types --silent && npm run api-types-fresh --silent && npm test --silent
	$(BIN)/python -m pytest -n auto --maxprocesses 4

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

api-types: setup
	$(BIN)/zesty-grid openapi > frontend/openapi.json
	cd frontend && npm run api-types --silent

screenshots: setup
	.ci/chromium
	$(BIN)/python docs/take_screenshots.py
