#pragma once

#include "core/library/work.h"
#include "core/screens/name_book.h"

#include <map>
#include <memory>
#include <string>

namespace sieve::library {

/// Makes books of what a person's names mean, with the ready screens beside the own ones. What did
/// not change since the last book is taken from it.
/// Threads: one at a time; the books may be read on others.
class NameBooks {
public:
    screens::NameBookPtr of(const Work& work);

private:
    using List = std::shared_ptr<const watchlists::Watchlist>;
    std::map<List, std::shared_ptr<const engine::ListMembers>> members_;
    std::map<std::string, language::ChecklistMeaning, std::less<>> checklists_;
    std::shared_ptr<const void> checklistsOf_; ///< what the meanings were made of; so is the next
    std::shared_ptr<const void> verdictsOf_;
};

} // namespace sieve::library
