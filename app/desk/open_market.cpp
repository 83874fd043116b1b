#include "app/desk/open_market.h"

#include "app/desk/settings.h"
#include "app/parts/number_text.h"

#include <algorithm>

namespace sieve::app {

namespace {

constexpr const char* recentSourcesKey = "recent_sources";

} // namespace

OpenMarket::OpenMarket(std::filesystem::path folder, Settings& settings, QObject* parent)
    : QObject(parent), settings_(settings), keeper_(std::move(folder), this)
{
    connect(&keeper_, &MarketKeeper::opened, this, &OpenMarket::show);
    connect(&settings_, &Settings::loaded, this, &OpenMarket::rememberSource);
}

void OpenMarket::show(const std::shared_ptr<intake::Intake>& intake)
{
    Asker::forgetFormerMarket();
    evaluator_ = std::make_shared<engine::Evaluator>(intake->market);
    report_ = std::make_shared<const intake::IntakeReport>(std::move(intake->report));
    identity_ = intake->identity;
    rememberSource();
    Q_EMIT opened();
    Q_EMIT settled();
}

std::vector<std::filesystem::path> OpenMarket::recentSources() const
{
    std::vector<std::filesystem::path> sources;
    for (const QString& path :
         text(settings_.value(recentSourcesKey)).split(u'\n', Qt::SkipEmptyParts))
        sources.emplace_back(utf8(path));
    return sources;
}

void OpenMarket::rememberSource()
{
    if (!settings_.isLoaded() || !isOpen())
        return; // what was remembered is not known yet
    constexpr std::size_t mostRemembered = 8;
    std::vector<std::filesystem::path> sources = recentSources();
    std::erase(sources, keeper_.source());
    sources.insert(sources.begin(), keeper_.source());
    sources.resize(std::min(sources.size(), mostRemembered));
    QStringList paths;
    for (const std::filesystem::path& source : sources)
        paths.append(text(source.string()));
    settings_.set(recentSourcesKey, utf8(paths.join(u'\n')));
}

} // namespace sieve::app
