#include "core/screens/name_book.h"

namespace sieve::screens {

const std::shared_ptr<const language::OwnFields>& noOwnFields()
{
    static const auto none = std::make_shared<const language::OwnFields>();
    return none;
}

language::Names NameBook::names() const
{
    language::Names names{fields->vocabulary()};
    names.screen = [this](std::string_view name) {
        const auto found = screens.find(name);
        return found == screens.end() ? std::nullopt : std::optional(found->second);
    };
    names.list = [this](std::string_view name) {
        const auto found = lists.find(name);
        return found == lists.end() ? nullptr : found->second;
    };
    names.listScreen = [this](std::string_view name) {
        const auto found = listScreens.find(name);
        return found == listScreens.end() ? std::nullopt : std::optional(found->second);
    };
    names.checklist = [this](std::string_view name) {
        const auto found = checklists.find(name);
        return found == checklists.end() ? std::nullopt : std::optional(found->second);
    };
    names.drawing = [this](std::string_view name) {
        const auto found = drawings.find(name);
        return found == drawings.end() ? nullptr : found->second;
    };
    return names;
}

} // namespace sieve::screens
