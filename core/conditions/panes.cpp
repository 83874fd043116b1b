#include "core/conditions/panes.h"

#include <algorithm>

namespace sieve::conditions {

std::vector<Pane> readPanes(engine::Evaluator& evaluator, const language::Names& names,
                            const Line& line, std::span<const std::string> texts,
                            const Progress& progress)
{
    LineQuestion question(names, line);
    std::vector<Pane> panes;
    std::vector<std::optional<std::size_t>> places;
    for (const std::string& text : texts) {
        Pane pane{text, text};
        if (const language::Field* field = names.vocabulary.field(text)) {
            pane.title = field->title;
            pane.meaning = field->meaning;
            pane.decimals = field->decimals;
        }
        const auto place = question.add(text);
        if (place) {
            const language::Field* field = names.vocabulary.field(text);
            pane.unit = field ? field->unit : question.checked(*place).unit;
            places.emplace_back(*place);
        } else {
            pane.error = place.error();
            places.emplace_back();
        }
        panes.push_back(std::move(pane));
    }
    if (line.bars().days.empty())
        return panes;
    auto values = question.histories(evaluator, line.bars().days.back(), progress);
    for (std::size_t i = 0; i < panes.size(); ++i)
        if (places[i])
            panes[i].values = std::move(values[*places[i]]);
    return panes;
}

double placeInRange(std::span<const double> values, std::size_t bar, std::size_t bars)
{
    if (bar >= values.size() || isMissing(values[bar]))
        return missing;
    const std::size_t first = bar + 1 > bars ? bar + 1 - bars : 0;
    double less = 0.0;
    double equal = 0.0;
    double known = 0.0;
    for (const double value : values.subspan(first, bar + 1 - first)) {
        if (isMissing(value))
            continue;
        known += 1.0;
        less += value < values[bar] ? 1.0 : 0.0;
        equal += value == values[bar] ? 1.0 : 0.0;
    }
    if (known <= 20.0)
        return missing;
    return (less + 0.5 * (equal - 1.0)) / (known - 1.0);
}

} // namespace sieve::conditions
