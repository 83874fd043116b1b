#pragma once

#include "app/desk/asker.h"
#include "core/intake/take_in.h"

#include <QObject>
#include <QStringList>
#include <filesystem>
#include <memory>
#include <optional>

namespace sieve::app {

/// Makes markets from what a person has, keeps them in a folder of its own, and opens them: each
/// step as a job on the pool, the newest one alone.
class MarketKeeper : public QObject {
    Q_OBJECT
public:
    /// `folder` is where the markets that are made from datasets are kept.
    explicit MarketKeeper(std::filesystem::path folder, QObject* parent = nullptr);

    /// A dataset, or prices that need no mapping; made only when it is not made yet or has changed.
    void open(const std::filesystem::path& source);
    /// Prices read as the layout says, which is remembered with the market.
    void takeInPrices(const std::filesystem::path& source, const intake::PriceLayout& layout);
    /// Adds what the source has anew to the open market.
    void update(const std::filesystem::path& source);
    /// Reads the source of the open market again, also where it holds less than it did.
    void takeInAgain();
    void stop();
    bool isBusy() const { return jobs_.isBusy(); }

    /// The source that the open market was made from; empty when none is open.
    const std::filesystem::path& source() const { return source_; }

Q_SIGNALS:
    void opened(const std::shared_ptr<intake::Intake>& intake);
    void failed(const QString& message);
    void progressed(double fraction, const QString& what);
    void stopped();
    void noticed(const QString& notice); ///< such as that damage was found and is mended

private:
    using Make = std::function<Result<intake::Intake>(const Progress&)>;
    void ask(const std::filesystem::path& source, Make make);
    void verify();
    std::filesystem::path folderFor(const std::filesystem::path& source) const;

    std::filesystem::path folder_;
    std::filesystem::path source_;
    Asker jobs_;
    Asker verifier_;
};

} // namespace sieve::app
