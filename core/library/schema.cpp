#include "core/library/schema.h"

#include <array>

namespace sieve::library {

namespace {

constexpr std::array all{
    R"sql(
CREATE TABLE setting (key TEXT PRIMARY KEY, value TEXT NOT NULL) WITHOUT ROWID;
CREATE TABLE screen (
    name TEXT PRIMARY KEY,
    toml TEXT NOT NULL,
    changed_at TEXT NOT NULL DEFAULT (datetime('now'))
) WITHOUT ROWID;
CREATE TABLE watchlist (
    id INTEGER PRIMARY KEY,
    name TEXT NOT NULL UNIQUE,
    position INTEGER NOT NULL
);
CREATE TABLE watchlist_entry (
    watchlist INTEGER NOT NULL REFERENCES watchlist (id) ON DELETE CASCADE,
    symbol TEXT NOT NULL,
    added_on INTEGER NOT NULL,
    price_then REAL,
    reason TEXT NOT NULL,
    source TEXT NOT NULL,
    position INTEGER NOT NULL,
    PRIMARY KEY (watchlist, symbol)
) WITHOUT ROWID;
CREATE TABLE tray_card (
    symbol TEXT PRIMARY KEY,
    mark TEXT NOT NULL,
    source TEXT NOT NULL,
    position INTEGER NOT NULL
) WITHOUT ROWID;
)sql",
    R"sql(
CREATE TABLE own_field (
    position INTEGER PRIMARY KEY,
    name TEXT NOT NULL UNIQUE,
    toml TEXT NOT NULL
);
)sql",
    R"sql(
CREATE TABLE screen_version (
    number INTEGER PRIMARY KEY,
    screen TEXT NOT NULL,
    toml TEXT NOT NULL,
    saved_at TEXT NOT NULL DEFAULT (datetime('now'))
);
CREATE INDEX screen_version_of ON screen_version (screen, number);
INSERT INTO screen_version (screen, toml, saved_at) SELECT name, toml, changed_at FROM screen;
)sql",
    // Who left a list, and a stock's symbol with its day. Screens get an identity of their own.
    R"sql(
CREATE TABLE next_id (value INTEGER NOT NULL);
INSERT INTO next_id SELECT 1 + coalesce(max(id), 0) FROM watchlist;

CREATE TABLE entry (
    watchlist INTEGER NOT NULL REFERENCES watchlist (id) ON DELETE CASCADE,
    position INTEGER NOT NULL,
    symbol TEXT NOT NULL,
    added_on INTEGER NOT NULL,
    price_then REAL,
    reason TEXT NOT NULL,
    source TEXT NOT NULL,
    PRIMARY KEY (watchlist, position)
) WITHOUT ROWID;
INSERT INTO entry SELECT watchlist, row_number() OVER (PARTITION BY watchlist ORDER BY position) - 1,
    symbol, added_on, price_then, reason, source FROM watchlist_entry;
DROP TABLE watchlist_entry;

CREATE TABLE former_entry (
    watchlist INTEGER NOT NULL REFERENCES watchlist (id) ON DELETE CASCADE,
    position INTEGER NOT NULL,
    symbol TEXT NOT NULL,
    added_on INTEGER NOT NULL,
    price_then REAL,
    reason TEXT NOT NULL,
    source TEXT NOT NULL,
    left_on INTEGER NOT NULL,
    price_left REAL,
    reason_left TEXT NOT NULL,
    PRIMARY KEY (watchlist, position)
) WITHOUT ROWID;

CREATE TABLE card (
    position INTEGER PRIMARY KEY,
    symbol TEXT NOT NULL,
    taken_on INTEGER NOT NULL,
    mark TEXT NOT NULL,
    source TEXT NOT NULL,
    reason TEXT NOT NULL
);
INSERT INTO card SELECT row_number() OVER (ORDER BY position) - 1, symbol,
    CAST(julianday('now') - 2440587.5 AS INTEGER), mark, source, '' FROM tray_card;
DROP TABLE tray_card;

CREATE TABLE kept_screen (
    id INTEGER PRIMARY KEY,
    name TEXT NOT NULL UNIQUE,
    toml TEXT NOT NULL,
    changed_at TEXT NOT NULL DEFAULT (datetime('now'))
);
INSERT INTO kept_screen SELECT (SELECT value FROM next_id) + row_number() OVER (ORDER BY name),
    name, toml, changed_at FROM screen;
UPDATE next_id SET value = value + 1 + (SELECT count(*) FROM screen);
DROP TABLE screen;
ALTER TABLE kept_screen RENAME TO screen;

CREATE TABLE draft (
    name TEXT PRIMARY KEY,
    toml TEXT NOT NULL
) WITHOUT ROWID;
)sql",
    R"sql(
CREATE TABLE drawing (
    id INTEGER PRIMARY KEY,
    toml TEXT NOT NULL
);
)sql",
    // What is planned of a stock in hand or on a list (empty: nothing), and how stocks were judged.
    R"sql(
ALTER TABLE entry ADD COLUMN plan TEXT NOT NULL DEFAULT '';
ALTER TABLE former_entry ADD COLUMN plan TEXT NOT NULL DEFAULT '';
ALTER TABLE card ADD COLUMN plan TEXT NOT NULL DEFAULT '';
CREATE TABLE verdict (
    id INTEGER PRIMARY KEY,
    toml TEXT NOT NULL
);
)sql",
    // What is kept of a list beside its entries, and the page of each entry (empty: nothing on it).
    // The account of the plans is part of the person's work. Alerts, and what they told.
    R"sql(
ALTER TABLE watchlist ADD COLUMN folder TEXT NOT NULL DEFAULT '';
ALTER TABLE watchlist ADD COLUMN screen TEXT NOT NULL DEFAULT '';
ALTER TABLE watchlist ADD COLUMN columns TEXT NOT NULL DEFAULT '';
ALTER TABLE watchlist ADD COLUMN is_archived INTEGER NOT NULL DEFAULT 0;
ALTER TABLE entry ADD COLUMN page TEXT NOT NULL DEFAULT '';
ALTER TABLE former_entry ADD COLUMN page TEXT NOT NULL DEFAULT '';
INSERT INTO setting (key, value) SELECT 'trading_terms',
    'account = ' || coalesce((SELECT value FROM setting WHERE key = 'layout.weigh.plan_account'),
                             '100000') || char(10) ||
    'risk = ' || (coalesce((SELECT CAST(value AS REAL) FROM setting
                            WHERE key = 'layout.weigh.plan_risk'), 1.0) / 100.0) || char(10)
    WHERE EXISTS (SELECT 1 FROM setting
                  WHERE key IN ('layout.weigh.plan_account', 'layout.weigh.plan_risk'));
DELETE FROM setting WHERE key IN ('layout.weigh.plan_account', 'layout.weigh.plan_risk');
CREATE TABLE alert (
    id INTEGER PRIMARY KEY,
    toml TEXT NOT NULL
);
CREATE TABLE raised (
    id INTEGER PRIMARY KEY,
    toml TEXT NOT NULL
);
)sql",
    // The newest steps of the work, to be taken back in a later session (history.h): what comes
    // back is as it was, so that no row may tell when it was written. A screen's versions do.
    R"sql(
ALTER TABLE screen DROP COLUMN changed_at;
CREATE TABLE step (
    number INTEGER PRIMARY KEY,
    what TEXT NOT NULL,
    place TEXT NOT NULL,
    made_at TEXT NOT NULL DEFAULT (datetime('now')),
    changes BLOB NOT NULL
);
)sql",
    // Answers of studies that the person kept, and how often each idea was tried (trials.h).
    R"sql(
CREATE TABLE kept_run (
    id INTEGER PRIMARY KEY,
    toml TEXT NOT NULL
);
CREATE TABLE trial (
    idea TEXT NOT NULL,
    kind TEXT NOT NULL,
    question TEXT NOT NULL,
    tried_on INTEGER NOT NULL,
    sharpe REAL,
    PRIMARY KEY (idea, kind, question)
) WITHOUT ROWID;
)sql",
};

} // namespace

std::span<const char* const> migrations()
{
    return all;
}

} // namespace sieve::library
