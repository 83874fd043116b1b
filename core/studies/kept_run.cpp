#include "core/studies/kept_run.h"

#include "core/base/toml_table.h"
#include "core/storage/digest.h"
#include "core/studies/study_files.h"

#include <array>
#include <map>

namespace sieve::studies {

namespace {

using Kind = KeptRun::Kind;
using storage::Digest;

/// As the file has them.
constexpr std::array<std::string_view, 3> kindKeys{"followed", "standings", "portfolio"};
constexpr std::array<Unit, 7> allUnits{Unit::Plain,  Unit::Money, Unit::Percent, Unit::Ratio,
                                       Unit::Shares, Unit::Days,  Unit::Points};

Kind kindUnder(const toml::table& table)
{
    const auto word = valueOr<std::string>(table, "kind", {});
    const auto at = std::ranges::find(kindKeys, word);
    if (at == kindKeys.end())
        failAt(table.source(), fmt::format("'{}' is no kind of answer", word),
               fmt::format("one of {}", fmt::join(kindKeys, ", ")));
    return static_cast<Kind>(at - kindKeys.begin());
}

KeptFigure figureUnder(const toml::table& table)
{
    refuseOthers(table, "a figure", {"name", "unit", "value"});
    KeptFigure figure;
    figure.name = valueOr<std::string>(table, "name", {});
    const auto unit = valueOr<std::string>(table, "unit", "plain");
    const auto at = std::ranges::find(allUnits, unit, unitName);
    if (at == allUnits.end())
        failAt(table.source(), fmt::format("'{}' is no unit", unit), "write unit = \"percent\"");
    figure.unit = *at;
    figure.value = numberOr(table, "value", missing);
    return figure;
}

/// Days and worths stand in two lists of as many.
std::vector<KeptWorth> curveUnder(const toml::table& table)
{
    std::vector<KeptWorth> curve;
    for (const std::string& text : textsOf(table, "curve_days")) {
        const auto day = Day::parse(text);
        if (!day)
            failAt(table.get("curve_days")->source(), fmt::format("'{}' is no day", text),
                   "write days such as \"2025-03-14\"");
        curve.push_back({*day, missing});
    }
    const toml::array* worths = table["curve_worths"].as_array();
    if ((worths ? worths->size() : 0) != curve.size())
        failAt(table.source(), "'curve_days' and 'curve_worths' are not as many",
               "write a worth for each day");
    for (std::size_t i = 0; i < curve.size(); ++i) {
        curve[i].worth = worths->get(i)->value<double>().value_or(missing);
        if (!std::isfinite(curve[i].worth))
            failAt(worths->source(), "'curve_worths' holds something that is no number",
                   "write curve_worths = [1.0, 1.5]");
    }
    return curve;
}

KeptRun keptRunUnder(const toml::table& table)
{
    refuseOthers(table, "a kept answer",
                 {"name", "kind", "question", "day", "asked_on", "market", "data", "program",
                  "answer", "sentence", "cautions", "curve_days", "curve_worths", "notes",
                  "figures"});
    const auto textUnder = [&table](const char* key) {
        return valueOr<std::string>(table, key, {});
    };
    KeptRun run;
    run.name = textUnder("name");
    run.kind = kindUnder(table);
    run.question = textUnder("question");
    run.day = dayUnder(table, "day");
    run.askedOn = dayUnder(table, "asked_on");
    run.market = textUnder("market");
    run.data = textUnder("data");
    run.program = textUnder("program");
    run.answer = textUnder("answer");
    run.sentence = textUnder("sentence");
    run.cautions = textsOf(table, "cautions");
    run.curve = curveUnder(table);
    run.notes = textUnder("notes");
    for (const toml::table* figure : tablesOf(table, "figures"))
        run.figures.push_back(figureUnder(*figure));
    return run;
}

constexpr std::string_view writtenOut = "written_out"; ///< screens as files, in a file

std::string nameInside(const toml::node& screen)
{
    return toml::parse(screen.value_or(std::string()))["name"].value_or(std::string());
}

/// Every value of a file under its path, in words: "step 1: hold".
void addValues(const toml::table& table, const std::string& path,
               std::vector<std::pair<std::string, std::string>>& into)
{
    const auto nameOf = [&path](std::string_view key) {
        std::string name = path + std::string(key);
        std::ranges::replace(name, '_', ' ');
        return name;
    };
    const auto plain = [](const toml::node& node) {
        std::ostringstream text;
        if (const auto* words = node.as_string())
            text << words->get();
        else if (const auto* number = node.as_floating_point())
            text << fmt::format("{}", number->get());
        else
            node.visit([&text](const auto& value) { text << value; });
        return text.str();
    };
    for (const auto& [key, node] : table) {
        const std::string name = nameOf(key.str());
        if (key.str() == writtenOut) {
            for (const toml::node& screen : *node.as_array()) // as it was read before
                addValues(toml::parse(screen.value_or(std::string())),
                          fmt::format("screen {}: ", nameInside(screen)), into);
        } else if (const toml::table* inner = node.as_table()) {
            addValues(*inner, name + ": ", into);
        } else if (const toml::array* array = node.as_array()) {
            std::string joined;
            for (std::size_t i = 0; i < array->size(); ++i)
                if (const toml::table* each = array->get(i)->as_table())
                    addValues(*each, fmt::format("{} {}: ", name, i + 1), into);
                else
                    joined += (joined.empty() ? "" : "; ") + plain(*array->get(i));
            if (!joined.empty())
                into.emplace_back(name, joined);
        } else if (const std::string text = plain(node); !text.empty()) {
            into.emplace_back(name, text);
        }
    }
}

} // namespace

std::string_view kindWords(Kind kind)
{
    constexpr std::array<std::string_view, 3> words{"what followed", "standings",
                                                    "a portfolio by rule"};
    return words.at(static_cast<std::size_t>(kind));
}

std::string toToml(const KeptRun& run)
{
    std::string text;
    const auto addText = [&text](const char* key, std::string_view value) {
        if (!value.empty())
            text += fmt::format("{} = {}\n", key, quotedToml(std::string(value)));
    };
    addText("name", run.name);
    addText("kind", kindKeys.at(static_cast<std::size_t>(run.kind)));
    addText("day", run.day.iso());
    addText("asked_on", run.askedOn.iso());
    addText("market", run.market);
    addText("data", run.data);
    addText("program", run.program);
    addText("answer", run.answer);
    addText("sentence", run.sentence);
    addText("notes", run.notes);
    addText("question", run.question);
    if (!run.cautions.empty())
        text += fmt::format("cautions = {}\n", quotedToml(run.cautions));
    if (!run.curve.empty()) {
        std::vector<std::string> days;
        std::vector<std::string> worths;
        for (const KeptWorth& each : run.curve) {
            days.push_back(each.day.iso());
            worths.push_back(fmt::format("{:#}", each.worth)); // TOML wants the point
        }
        text += fmt::format("curve_days = {}\ncurve_worths = [{}]\n", quotedToml(days),
                            fmt::join(worths, ", "));
    }
    for (const KeptFigure& figure : run.figures) {
        text += fmt::format("\n[[figures]]\nname = {}\nunit = \"{}\"\n", quotedToml(figure.name),
                            unitName(figure.unit));
        if (!isMissing(figure.value))
            text += fmt::format("value = {:#}\n", figure.value);
    }
    return text;
}

Result<KeptRun> keptRunFromToml(std::string_view toml)
{
    return readToml(toml, "see docs/studies.md for the form of a kept answer", keptRunUnder);
}

std::vector<std::pair<std::string, std::string>> termsOf(const KeptRun& run)
{
    std::vector<std::pair<std::string, std::string>> terms;
    if (run.kind == Kind::Standings && !standingsFromToml(run.question))
        return terms; // a screen in it cannot be read
    const auto read = readToml(run.question, "", [&terms](const toml::table& table) {
        addValues(table, "", terms);
        return true;
    });
    if (!read)
        terms.emplace_back("terms", run.question);
    return terms;
}

std::string variantOf(const KeptRun& run)
{
    Digest digest;
    for (const auto& [name, value] : termsOf(run))
        if (name != "name" && !name.ends_with(": name") && name != "seed" && name != "picks" &&
            name != "resamples" && name != "set_aside") {
            digest.add(name);
            digest.add(value);
        }
    return digest.text();
}

std::vector<std::string> whyOther(const KeptRun& then, const KeptRun& now)
{
    std::vector<std::string> why;
    if (then.answer == now.answer)
        return why;
    if (then.market != now.market)
        why.push_back(fmt::format("It was asked of another market: {}.", then.market));
    else if (then.data != now.data)
        why.emplace_back("The market's data have changed since.");
    if (then.program != now.program)
        why.push_back(fmt::format("It was answered by version {} of the program; this is {}.",
                                  then.program, now.program));
    if (why.empty())
        why.emplace_back("A field, a list or a checklist of yours that it asks for means something "
                         "else now.");
    return why;
}

KeptComparison compared(std::span<const KeptRun* const> runs)
{
    KeptComparison comparison;
    std::map<std::string, std::size_t> lineAt;
    std::map<std::string, std::size_t> figureAt;
    const auto note = [&](std::size_t run, const std::string& name, std::string value) {
        const auto [at, isNew] = lineAt.emplace(name, comparison.differs.size());
        if (isNew)
            comparison.differs.push_back({name, std::vector<std::string>(runs.size())});
        comparison.differs[at->second].of[run] = std::move(value);
    };
    for (std::size_t run = 0; run < runs.size(); ++run) {
        note(run, "question", std::string(kindWords(runs[run]->kind)));
        note(run, "as known on", runs[run]->day.iso());
        note(run, "market", runs[run]->market);
        note(run, "the market's file", runs[run]->data);
        note(run, "program", runs[run]->program);
        for (auto& [name, value] : termsOf(*runs[run]))
            note(run, name, std::move(value));
        for (const KeptFigure& figure : runs[run]->figures) {
            const auto [at, isNew] = figureAt.emplace(figure.name, comparison.figures.size());
            if (isNew)
                comparison.figures.push_back(
                    {figure.name, figure.unit, std::vector<double>(runs.size(), missing)});
            comparison.figures[at->second].of[run] = figure.value;
        }
    }
    std::erase_if(comparison.differs, [](const KeptComparison::Line& line) {
        return std::ranges::all_of(
            line.of, [&](const std::string& each) { return each == line.of.front(); });
    });
    return comparison;
}

namespace {

double worthOn(const std::vector<KeptWorth>& curve, Day day)
{
    const auto after = std::ranges::lower_bound(curve, day, {}, &KeptWorth::day);
    if (after == curve.end() || (after == curve.begin() && after->day != day))
        return missing;
    if (after->day == day)
        return after->worth;
    const KeptWorth& before = *(after - 1);
    const double part = static_cast<double>(day - before.day) / (after->day - before.day);
    return before.worth + part * (after->worth - before.worth);
}

} // namespace

JoinedCurves joinedCurves(std::span<const KeptRun* const> runs)
{
    JoinedCurves joined;
    for (const KeptRun* run : runs)
        for (const KeptWorth& each : run->curve)
            joined.days.push_back(each.day);
    std::ranges::sort(joined.days);
    joined.days.erase(std::unique(joined.days.begin(), joined.days.end()), joined.days.end());
    for (const KeptRun* run : runs) {
        auto& worths = joined.worths.emplace_back();
        for (const Day day : joined.days)
            worths.push_back(worthOn(run->curve, day));
    }
    return joined;
}

} // namespace sieve::studies
