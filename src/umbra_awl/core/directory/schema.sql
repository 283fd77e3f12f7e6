CREATE TABLE batch (
  id INTEGER PRIMARY KEY, what TEXT NOT NULL, source TEXT NOT NULL, file TEXT NOT NULL, at TEXT NOT NULL,
  taken INTEGER NOT NULL, mended INTEGER NOT NULL, refused INTEGER NOT NULL,
  added INTEGER NOT NULL, changed INTEGER NOT NULL, vanished INTEGER NOT NULL, undone INTEGER NOT NULL DEFAULT 0
);
CREATE TABLE entry (
  id INTEGER PRIMARY KEY, key TEXT NOT NULL UNIQUE, source TEXT NOT NULL, batch INTEGER NOT NULL, body TEXT NOT NULL, own TEXT,
  call TEXT NOT NULL, site TEXT NOT NULL, lat REAL, lon REAL, modes INTEGER NOT NULL, bands INTEGER NOT NULL,
  confirmed TEXT NOT NULL, gone TEXT NOT NULL DEFAULT ''
);
CREATE INDEX entry_call ON entry (call);
CREATE INDEX entry_source ON entry (source, batch);
CREATE TABLE output (entry INTEGER NOT NULL, rx_hz INTEGER NOT NULL, PRIMARY KEY (rx_hz, entry)) WITHOUT ROWID;
CREATE INDEX output_entry ON output (entry);
CREATE VIRTUAL TABLE entry_box USING rtree (id, min_lat, max_lat, min_lon, max_lon);
CREATE VIRTUAL TABLE entry_words USING fts5 (words, prefix='1 2 3', tokenize='unicode61 remove_diacritics 2');
CREATE TABLE private (key TEXT NOT NULL, field TEXT NOT NULL, value TEXT NOT NULL, at TEXT NOT NULL, PRIMARY KEY (key, field)) WITHOUT ROWID;
CREATE TABLE note (key TEXT PRIMARY KEY, text TEXT NOT NULL, at TEXT NOT NULL) WITHOUT ROWID;
CREATE TABLE undo (batch INTEGER NOT NULL, key TEXT NOT NULL, before TEXT, PRIMARY KEY (batch, key)) WITHOUT ROWID;
CREATE TABLE people (id INTEGER PRIMARY KEY, call TEXT NOT NULL, name TEXT NOT NULL, place TEXT NOT NULL, country TEXT NOT NULL, source TEXT NOT NULL);
CREATE TABLE target (
  id INTEGER PRIMARY KEY, network TEXT NOT NULL, number INTEGER, name TEXT NOT NULL, kind TEXT NOT NULL, country TEXT NOT NULL,
  source TEXT NOT NULL, batch INTEGER NOT NULL, UNIQUE (source, network, kind, number, name)
);
PRAGMA user_version = 1;
