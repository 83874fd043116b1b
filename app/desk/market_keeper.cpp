#include "app/desk/market_keeper.h"

#include "app/parts/number_text.h"
#include "core/storage/market_file.h"

#include <QCryptographicHash>

namespace sieve::app {

namespace {

QString messageOf(const LocatedError& error)
{
    return text(error.problem + ". " + error.remedy + ".");
}

Result<intake::Intake> opened(const intake::TakeIn& request, const Progress& progress)
{
    const Result<intake::IntakeReport> report = intake::takeIn(request, progress);
    if (!report)
        return report.error();
    return intake::openFolder(request.market, progress);
}

} // namespace

MarketKeeper::MarketKeeper(std::filesystem::path folder, QObject* parent)
    : QObject(parent), folder_(std::move(folder)), jobs_(this, Asker::About::Else),
      verifier_(this, Asker::About::Else)
{
    connect(&jobs_, &Asker::failed, this, &MarketKeeper::failed);
    connect(&verifier_, &Asker::failed, this, [this](const QString& message) {
        Q_EMIT noticed(tr("The market could not be looked through for damage. %1").arg(message));
    });
    connect(&jobs_, &Asker::progressed, this, &MarketKeeper::progressed);
}

void MarketKeeper::ask(const std::filesystem::path& source, Make make)
{
    jobs_.ask(std::move(make), [this, source](Result<intake::Intake> result) {
        if (!result) {
            Q_EMIT failed(messageOf(result.error()));
            return;
        }
        source_ = source;
        const QString standing = text(result->standing);
        Q_EMIT opened(std::make_shared<intake::Intake>(*std::move(result)));
        if (!standing.isEmpty())
            Q_EMIT noticed(tr("The market stands as it was. %1").arg(standing));
        verify();
    });
}

void MarketKeeper::open(const std::filesystem::path& source)
{
    ask(source, [source, market = folderFor(source)](const Progress& progress) {
        return intake::openSource(source, market, progress);
    });
}

void MarketKeeper::takeInPrices(const std::filesystem::path& source,
                                const intake::PriceLayout& layout)
{
    ask(source, [request = intake::TakeIn{source, folderFor(source), layout, false}](
                    const Progress& progress) { return app::opened(request, progress); });
}

void MarketKeeper::update(const std::filesystem::path& source)
{
    ask(source_, [request = intake::TakeIn{source, folderFor(source_), {}, true}](
                     const Progress& progress) { return app::opened(request, progress); });
}

void MarketKeeper::takeInAgain()
{
    ask(source_, [request = intake::TakeIn{source_, folderFor(source_)}](const Progress& progress) {
        return app::opened(request, progress);
    });
}

void MarketKeeper::stop()
{
    if (!jobs_.isBusy())
        return;
    jobs_.stop();
    Q_EMIT stopped();
}

/// Opening looks at little of the market; all of it is looked at behind the person's back.
void MarketKeeper::verify()
{
    const std::filesystem::path market = folderFor(source_);
    verifier_.ask(
        [market](const Progress& progress) { return storage::verifyMarket(market, progress); },
        [this, market](Result<std::uint64_t> bytes) {
            if (bytes)
                return;
            Q_EMIT noticed(
                tr("%1. It is made again from its files.").arg(text(bytes.error().problem)));
            ask(source_, [market](const Progress& progress) {
                const Result<intake::IntakeReport> again = intake::makeAgain(market, progress);
                return again ? intake::openFolder(market, progress)
                             : Result<intake::Intake>(again.error());
            });
        });
}

std::filesystem::path MarketKeeper::folderFor(const std::filesystem::path& source) const
{
    // The name is for people, the number tells folders of one name apart.
    const std::filesystem::path path = std::filesystem::absolute(source).lexically_normal();
    const QByteArray name = QByteArray::fromStdString(path.string());
    const QByteArray number =
        QCryptographicHash::hash(name, QCryptographicHash::Sha256).toHex().left(12);
    return folder_ / (path.filename().string() + "-" + number.toStdString());
}

} // namespace sieve::app
