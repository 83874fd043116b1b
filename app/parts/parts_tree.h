#pragma once

#include "core/language/explanation.h"
#include "core/market/text_table.h"

class QTreeWidgetItem;

namespace sieve::app {

/// Where a tree shows a part, its value and where that comes from.
struct PartColumns {
    int part;
    int value;
    int from;
};

/// Adds a part of an expression with all that it is made of below a row.
void addParts(QTreeWidgetItem* to, const language::Explanation& part,
              const market::TextTable& texts, PartColumns columns);

} // namespace sieve::app
