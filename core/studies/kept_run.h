#pragma once

#include "core/base/day.h"
#include "core/base/kind.h"
#include "core/base/missing.h"
#include "core/base/result.h"

#include <cstdint>
#include <span>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

namespace sieve::studies {

/// A figure of an answer under the name by which it is compared with that of another.
struct KeptFigure {
    std::string name;
    Unit unit = Unit::Plain;
    double value = missing;

    friend bool operator==(const KeptFigure& a, const KeptFigure& b)
    {
        return a.name == b.name && a.unit == b.unit &&
               (a.value == b.value || (isMissing(a.value) && isMissing(b.value)));
    }
};

/// Worth on a day, of money that was 1 at the start.
struct KeptWorth {
    Day day = Day::fromSerial(0);
    double worth = missing;

    friend bool operator==(const KeptWorth&, const KeptWorth&) = default;
};

/// An answer that a person kept: what was asked of which data by which program, what came out, and
/// what was thought of it.
struct KeptRun {
    enum class Kind { Followed, Standings, Portfolio };

    std::int64_t id = 0; ///< of the library
    std::string name;
    Kind kind = Kind::Followed;
    std::string question;              ///< TOML (study_files.h), with its screens in it
    Day day = Day::fromSerial(0);      ///< as known on it
    Day askedOn = Day::fromSerial(0);  ///< by the person's calendar
    std::string market;                ///< its name
    std::string data;                  ///< tells its file from every other (storage::identityOf)
    std::string program;               ///< its version
    std::string answer;                ///< the digest of every figure of the answer
    std::string sentence;              ///< the answer in a sentence
    std::vector<KeptFigure> figures;   ///< that are compared
    std::vector<std::string> cautions; ///< what weakens them
    std::vector<KeptWorth> curve = {}; ///< thinned to at most mostKeptWorths days
    std::string notes = {};

    friend bool operator==(const KeptRun&, const KeptRun&) = default;
};

inline constexpr std::size_t mostKeptWorths = 400;
inline constexpr std::size_t mostKeptFigures = 400;

std::string_view kindWords(KeptRun::Kind kind); ///< "what followed", "standings", "portfolio"

/// Reading it gives the run again, but for its id.
std::string toToml(const KeptRun& run);
/// Errors: located: no TOML, a key that is unknown, missing or of another type.
Result<KeptRun> keptRunFromToml(std::string_view toml);

/// What a run was asked, a term a line, the paths in words: "step 1: hold", "20".
std::vector<std::pair<std::string, std::string>> termsOf(const KeptRun& run);
/// What tells variants of an idea apart: the question but for the screen's name, the seed and how
/// often chance is drawn.
std::string variantOf(const KeptRun& run);

/// What could have made an answer another one, as sentences; `now` is what askedAgain gave, with
/// data and program as they are now. Empty where the answers are the same, to the last bit.
std::vector<std::string> whyOther(const KeptRun& then, const KeptRun& now);

/// Runs beside each other.
struct KeptComparison {
    struct Line { ///< of what was asked, where not all say the same
        std::string name;
        std::vector<std::string> of; ///< a run; empty: it does not say
    };
    struct Figure {
        std::string name;
        Unit unit = Unit::Plain;
        std::vector<double> of; ///< a run; missing: it has none
    };
    std::vector<Line> differs;
    std::vector<Figure> figures; ///< as the first run that has it places it
};
KeptComparison compared(std::span<const KeptRun* const> runs);

/// The curves of several runs over all of their days.
struct JoinedCurves {
    std::vector<Day> days;                   ///< ascending
    std::vector<std::vector<double>> worths; ///< a run: a value a day
};
/// Between its own days a run's worth lies on a straight line; before and after them it is missing.
JoinedCurves joinedCurves(std::span<const KeptRun* const> runs);

} // namespace sieve::studies
