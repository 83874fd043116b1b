#include "app/parts/findables.h"

#include <QStringList>
#include <algorithm>

namespace sieve::app {

namespace {

/// Lower is better: the name itself, its beginning, a word's beginning, anywhere; -1 is no match.
int distanceOf(const Findable& each, const QString& words, const QStringList& parts)
{
    if (words.isEmpty())
        return 0;
    if (each.name.startsWith(words, Qt::CaseInsensitive))
        return each.name.size() == words.size() ? 0 : 1;
    if (each.name.contains(QLatin1Char(' ') + words, Qt::CaseInsensitive) ||
        each.what.startsWith(words, Qt::CaseInsensitive))
        return 2;
    const bool hasAll = std::ranges::all_of(parts, [&each](const QString& part) {
        return each.name.contains(part, Qt::CaseInsensitive) ||
               each.what.contains(part, Qt::CaseInsensitive);
    });
    return hasAll ? 3 : -1;
}

} // namespace

std::vector<std::size_t> findAmong(const std::vector<Findable>& all, const QString& words,
                                   std::size_t most, const Progress& progress)
{
    constexpr std::size_t stretch = 1024; // between two looks at whether to stop
    const QStringList parts = words.split(QLatin1Char(' '), Qt::SkipEmptyParts);
    std::vector<std::pair<int, std::size_t>> found;
    for (std::size_t i = 0; i < all.size(); ++i) {
        if (i % stretch == 0 && progress.stopRequested())
            throw Stopped{};
        if (const int distance = distanceOf(all[i], words, parts); distance >= 0)
            found.emplace_back(distance, i);
    }
    std::ranges::sort(found); // the place decides among equals
    std::vector<std::size_t> places;
    for (const auto& [distance, place] : found)
        if (places.size() < most)
            places.push_back(place);
    return places;
}

} // namespace sieve::app
