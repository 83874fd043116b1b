#pragma once

#include "core/language/checker.h"
#include "core/language/own_fields.h"

#include <map>
#include <memory>
#include <string>

namespace sieve::screens {

/// Those of somebody who has made none: one for all, since each holds the whole dictionary.
const std::shared_ptr<const language::OwnFields>& noOwnFields();

/// What a person's own names meant at one moment: fields, screens, lists, checklists and drawings.
/// A job holds one by shared pointer, so that an edit meanwhile does not reach it.
struct NameBook {
    std::shared_ptr<const language::OwnFields> fields = noOwnFields();
    std::map<std::string, language::ScreenCondition, std::less<>> screens;
    std::map<std::string, std::shared_ptr<const engine::ListMembers>, std::less<>> lists;
    std::map<std::string, std::string, std::less<>> listScreens; ///< of those that a screen keeps
    std::map<std::string, language::ChecklistMeaning, std::less<>> checklists;
    std::map<std::string, std::shared_ptr<const drawings::Named>, std::less<>> drawings;

    /// For check(), run() and their like. Refers to this book, which must live on.
    language::Names names() const;
};

using NameBookPtr = std::shared_ptr<const NameBook>;

} // namespace sieve::screens
