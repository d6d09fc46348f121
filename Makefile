# Wedge's front door. `make demo` and `make test` are enough on a fresh machine.

.PHONY: demo run test lint-rust lint-web bench shots fmt web api packages

demo: web
	cargo run -p wedge-server -- demo

run: web
	cargo run -p wedge-server -- serve $(if $(DATA),--data "$(DATA)")

# Everything: formatting, lints, types, the core, the store, the server, and the interface in a browser. The two lints run
# side by side; the front end is built before the server that carries it.
test:
	@$(MAKE) --no-print-directory -j2 lint-rust lint-web
	cargo test --workspace

lint-rust:
	cargo fmt --all --check
	cargo clippy -q --workspace --all-targets -- -D warnings

lint-web: web chromium
	npm run -s check --workspaces
	@tools/same-client

# What is handed out, in target/dist-out: a binary, a Debian package, licences, sums.
.PHONY: dist soak
dist: web
	@tools/dist

# Readers that are not ours, pinned, over files of every format that is written.
.PHONY: readers
readers: web
	cargo build -q -p wedge-server
	@tools/readers

# Hours of ill treatment, one table at the end; see tools/soak for what it needs and how long each part takes.
soak: web
	cargo build -q -p wedge-server
	@tools/soak

bench: web
	cargo bench -p wedge-core -p wedge-devices
	tools/load

# Whole fits of a hundred hidden riders by every way, and foresight's own score: the table of the page "How good is Wedge?".
.PHONY: hundred
hundred: web
	cargo build -q --release -p wedge-server
	target/release/wedge hundred --proof > target/hundred.json
	mv target/hundred.json crates/wedge-devices/hundred.json
	target/release/wedge hundred

# The pictures of the README, from the demo studio.
shots: web chromium
	cargo build -q -p wedge-server
	cd e2e && npx tsx shots.ts

# How fast the pages are, in the debug build: first paint, and a step on a short and on a long fit.
pace: web chromium
	cargo build -q -p wedge-server
	cd e2e && npx tsx pace.ts

fmt:
	cargo fmt --all
	npm run -s format --workspaces

# The API's description, the client made from it and the schemas of the open formats, after a route or a type has changed.
api:
	cargo run -q -p wedge-server -- openapi > web/src/api/openapi.json
	mkdir -p docs/schemas
	cargo run -q -p wedge-server -- schema position > docs/schemas/wedge.position-1.schema.json
	cargo run -q -p wedge-server -- schema rider > docs/schemas/wedge.rider-17.schema.json
	cargo run -q -p wedge-server -- schema studio > docs/schemas/wedge.studio-16.schema.json
	cargo run -q -p wedge-server -- schema case > docs/schemas/wedge.case-1.schema.json
	cargo run -q -p wedge-server -- schema ledger > docs/schemas/wedge.ledger-1.schema.json
	npm run -s api --workspace web

web: packages
	@tools/build-web

packages: node_modules/.package-lock.json

node_modules/.package-lock.json: package.json package-lock.json web/package.json e2e/package.json
	npm ci --no-audit --no-fund
	@touch $@

.PHONY: chromium
chromium:
	@tools/chromium
