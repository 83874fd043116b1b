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
};

} // namespace

std::span<const char* const> migrations()
{
    return all;
}

} // namespace sieve::library
