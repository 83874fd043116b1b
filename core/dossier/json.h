#pragma once

#include "core/dossier/dossier.h"
#include "core/market/text_table.h"

#include <string>

namespace sieve::dossier {

/// The whole dossier as JSON, indented: figures with all their digits, what is not known as null,
/// days as ISO days.
std::string toJson(const Dossier& dossier, const market::Market& market);

} // namespace sieve::dossier
