#pragma once

#include "app/desk/market_keeper.h"
#include "core/engine/evaluator.h"

#include <QObject>
#include <filesystem>
#include <memory>
#include <vector>

namespace sieve::app {

class Settings;

/// The market that is open, with what evaluates expressions over it and the report of its intake.
class OpenMarket : public QObject {
    Q_OBJECT
public:
    /// `folder` is where the markets that are made from datasets are kept.
    OpenMarket(std::filesystem::path folder, Settings& settings, QObject* parent);

    MarketKeeper& keeper() { return keeper_; }
    bool isOpen() const { return evaluator_ != nullptr; }
    /// Null until a market is open. A job keeps the one it was given.
    const std::shared_ptr<engine::Evaluator>& evaluator() const { return evaluator_; }
    const market::Market& data() const { return evaluator_->market(); } ///< Requires: isOpen()
    const std::shared_ptr<const intake::IntakeReport>& report() const { return report_; }

    /// Tells the market's file from every other one.
    const std::string& identity() const { return identity_; }

    /// Sources that were opened lately, the newest first.
    std::vector<std::filesystem::path> recentSources() const;

Q_SIGNALS:
    void opened(); ///< with its last session as the as-of day; no Focus::dayChanged comes beside it
    void settled(); ///< all have heard of the market that was opened

private:
    void show(const std::shared_ptr<intake::Intake>& intake);
    void rememberSource();

    Settings& settings_;
    MarketKeeper keeper_;
    std::shared_ptr<engine::Evaluator> evaluator_;
    std::shared_ptr<const intake::IntakeReport> report_;
    std::string identity_;
};

} // namespace sieve::app
