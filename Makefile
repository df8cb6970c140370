# Two commands: `make demo` and `make test`. Each sets up what it needs.

VENV := .venv
PYTHON := $(VENV)/bin/python
STAMP := $(VENV)/.installed
TEST_STAMP := $(VENV)/.installed-for-tests
BENCH_STAMP := $(VENV)/.installed-for-benchmarks
PIP := $(PYTHON) -m pip install --quiet --disable-pip-version-check

.PHONY: setup demo serve test tests bench screenshots fmt lint css schemas vendor lock

setup: $(STAMP)

$(VENV)/bin/python:
	python3 -m venv $(VENV) || (apt-get update -q && apt-get install -qy python3-venv && python3 -m venv $(VENV))

$(STAMP): requirements/base.txt pyproject.toml | $(VENV)/bin/python
	$(PIP) -r requirements/base.txt
	$(PIP) --no-deps --no-build-isolation --editable .
	$(PYTHON) -m compileall -q src
	touch $@

$(TEST_STAMP): requirements/test.txt $(STAMP)
	$(PIP) -r requirements/test.txt
	command -v chromium-headless-shell >/dev/null || command -v chromium >/dev/null || apt-get update -q
	command -v chromium-headless-shell >/dev/null || apt-get install -qy chromium-headless-shell \
	  || command -v chromium >/dev/null || apt-get install -qy chromium
	touch $@

$(BENCH_STAMP): requirements/bench.txt $(TEST_STAMP)
	$(PIP) -r requirements/bench.txt
	touch $@

demo: setup
	$(VENV)/bin/ypsil demo

serve: setup
	$(VENV)/bin/ypsil serve

lint: $(TEST_STAMP)
	$(VENV)/bin/ruff check src tests benchmarks vendoring
	$(VENV)/bin/ruff format --check src tests benchmarks vendoring
	$(VENV)/bin/mypy
	$(VENV)/bin/lint-imports

# Style, types and layers are looked at while the first tests run.
test: $(TEST_STAMP)
	$(MAKE) --no-print-directory -j 2 lint tests

tests: $(TEST_STAMP)
	$(VENV)/bin/pytest -n 2 --dist worksteal

bench: $(BENCH_STAMP)
	$(PYTHON) -m benchmarks

screenshots: $(TEST_STAMP)
	$(PYTHON) -m tests.browser.screenshots

fmt: $(TEST_STAMP)
	$(VENV)/bin/ruff check --fix src tests benchmarks vendoring
	$(VENV)/bin/ruff format src tests benchmarks vendoring

css: setup
	$(PYTHON) -m ypsil.web.static_css

schemas: setup
	$(PYTHON) -m ypsil.core.schemas docs/formats

# The two targets below are for changing what is shipped; they need npm and pip-tools.
vendor: setup
	cd vendoring && npm ci --ignore-scripts
	$(PYTHON) vendoring/vendor.py

lock:
	cd requirements && for part in base test bench; do \
	  pip-compile --quiet --no-header --strip-extras --allow-unsafe --no-emit-index-url --no-emit-find-links \
	    --no-emit-trusted-host --output-file $$part.txt $$part.in; done
