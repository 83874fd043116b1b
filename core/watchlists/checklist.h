#pragma once

#include "core/base/day.h"
#include "core/base/result.h"
#include "core/base/shared.h"
#include "core/engine/plan.h"
#include "core/language/checker.h"
#include "core/market/market.h"

#include <cstdint>
#include <memory>
#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace sieve::watchlists {

/// One thing that is asked of a stock before it is bought.
struct Question {
    std::string words;
    std::string rule = {}; ///< a condition that answers it; empty: the person does

    friend bool operator==(const Question&, const Question&) = default;
};

struct Checklist {
    std::string name;
    std::vector<Question> questions = {}; ///< no words twice

    friend bool operator==(const Checklist&, const Checklist&) = default;
};

inline constexpr std::size_t mostQuestions = 60;

/// What was said of one question; empty: nothing, or it could not be said.
struct Said {
    std::string words; ///< the question's
    std::optional<bool> isYes = std::nullopt;
    bool isByPerson = false;

    friend bool operator==(const Said&, const Said&) = default;
};

/// How a stock was judged by a checklist, as of a day.
struct Verdict {
    std::int64_t id = 0; ///< of the library
    std::string symbol;  ///< that it bore on `on`
    Day on = Day::fromSerial(0);
    std::string checklist;       ///< its name
    std::vector<Said> said = {}; ///< of all questions, as they were then
    std::string words = {};      ///< the verdict in a sentence

    std::size_t met() const; ///< how many were answered by yes

    friend bool operator==(const Verdict&, const Verdict&) = default;
};
using Verdicts = std::span<const Shared<Verdict>>;

/// The verdict on a stock by a checklist: of that very day, or the newest by it; null: there is
/// none.
const Verdict* verdictOf(Verdicts verdicts, const market::Market& market, std::size_t stock,
                         std::string_view checklist, Day day);
const Verdict* newestVerdict(Verdicts verdicts, const market::Market& market, std::size_t stock,
                             std::string_view checklist, Day day);

/// What the person's answers to one question were, for the language: an answer holds from its day
/// until another one.
std::shared_ptr<const engine::PersonsAnswers>
answersTo(Verdicts verdicts, std::string_view checklist, std::string_view words);
/// A checklist as checklist("…") of the language understands it.
language::ChecklistMeaning meaningOf(const Checklist& checklist, Verdicts verdicts);

/// The one that a new person begins with.
Checklist standardChecklist();

/// As TOML, and back; a verdict's id is not part of it.
/// Errors: located: no TOML, an unknown key, no name, no stock or day, a question twice.
std::string toToml(std::span<const Checklist> checklists);
Result<std::vector<Checklist>> checklistsFromToml(std::string_view toml);
std::string toToml(const Verdict& verdict);
Result<Verdict> verdictFromToml(std::string_view toml);

} // namespace sieve::watchlists
