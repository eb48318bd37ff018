PYTHON ?= $(shell command -v python3.11 || command -v python3)

.PHONY: demo test lint bench shots hunt lock
demo test lint bench shots lock:
	@$(PYTHON) tools/ground.py $@
hunt:
	@$(PYTHON) tools/ground.py hunt $(MINUTES)
