# Two commands on a fresh machine: `make demo` and `make test`. Both set themselves up first.
SHELL := /bin/bash
PYTHON ?= python3
VENV := .venv
PY := $(VENV)/bin/python
STAMP := $(VENV)/.ready

# What is compiled at its first import is kept, for the many starts that follow.
unexport PYTHONDONTWRITEBYTECODE

.PHONY: setup demo test check bench shots long-test pages deb dist clean
.DEFAULT_GOAL := demo

$(STAMP): pyproject.toml constraints.txt tools/system_libraries.sh
	@$(PYTHON) -c 'import sys; sys.exit(0 if sys.version_info >= (3, 11) else "Awlmark needs Python 3.11 or newer; set PYTHON=python3.11")'
	@bash tools/system_libraries.sh venv
	@echo "Making an environment of its own in $(VENV)/ …"
	@$(PYTHON) -m venv $(VENV)
	@echo "Installing what pyproject.toml and constraints.txt name (a few hundred megabytes the first time) …"
	@$(PY) -m pip install --quiet --no-compile --disable-pip-version-check -c constraints.txt -e '.[check]'
	@touch $@
	@echo "Set up."

setup: $(STAMP)
	@bash tools/system_libraries.sh qt

demo: setup
	$(PY) tools/demo.py

test: setup
	@bash tools/system_libraries.sh xvfb
	$(PY) tools/run_tests.py
	$(PY) tools/real_window.py

long-test: setup
	@bash tools/system_libraries.sh desktop
	AWLMARK_LONG=1 $(PY) tools/run_tests.py
	$(PY) tools/real_window.py

check: setup
	$(VENV)/bin/ruff check .
	$(VENV)/bin/ruff format --check .
	$(VENV)/bin/mypy
	$(VENV)/bin/lint-imports
	@bash tools/check_packaging.sh

bench: setup
	$(PY) tools/bench.py

shots: setup
	$(PY) tools/shots.py docs/screenshots

pages: setup
	$(PY) tools/pages.py

deb: setup
	@bash tools/make_deb.sh

dist: setup
	$(PY) -m pip install --quiet --disable-pip-version-check build
	$(PY) -m build --outdir build/dist

clean:
	rm -rf build $(VENV)
