.PHONY: demo test night explore lint bench screenshots setup

demo:
	@scripts/setup.sh demo
	@scripts/demo.sh

test:
	@scripts/setup.sh
	@.venv/bin/python scripts/test.py

night:
	@scripts/setup.sh
	@.venv/bin/python scripts/test.py night

explore:
	@scripts/setup.sh
	@.venv/bin/python scripts/test.py explore $(MINUTES)

lint:
	@scripts/setup.sh
	@scripts/lint.sh

bench:
	@scripts/setup.sh
	@QT_QPA_PLATFORM=offscreen .venv/bin/python -m bench

screenshots:
	@scripts/setup.sh
	@xvfb-run -a -s "-screen 0 1280x800x24" env QT_QPA_PLATFORM=xcb .venv/bin/python scripts/screenshots.py

setup:
	@scripts/setup.sh
