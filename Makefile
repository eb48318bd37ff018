PYTHON ?= $(shell command -v python3.11 || command -v python3)

.PHONY: demo backup restore test lint bench shots hunt golden lock
demo test lint bench shots lock:
	@$(PYTHON) tools/ground.py $@
backup restore:
	@$(PYTHON) tools/ground.py $@ $(FILE)
golden:
	@.venv/bin/python tools/golden.py $(DO) $(FILE)
hunt:
	@$(PYTHON) tools/ground.py hunt $(MINUTES)
