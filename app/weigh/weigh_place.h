#pragma once

#include "app/chart/price_chart.h"
#include "app/desk/asker.h"
#include "app/desk/place.h"
#include "core/screens/table.h"
#include "core/watchlists/tray.h"

#include <memory>

namespace sieve::app {

class Desk;
class Dossier;
class EmptyPage;

/// The candidates one by one: chart on the left, dossier on the right, a key for each decision.
class WeighPlace : public Place {
    Q_OBJECT
public:
    explicit WeighPlace(Desk& desk, QWidget* parent = nullptr);

protected:
    void bringUp() override;

private:
    struct Answer {
        std::shared_ptr<const PriceChartData> chart;
        std::shared_ptr<const screens::ResultTable> figures;
    };
    void addActions();
    void showSelection();
    void step(int by);
    void decide(watchlists::Mark mark);
    void keepOnto(std::size_t list);
    void goOn(std::size_t from);
    void saveReason(const QString& reason);

    Desk& desk_;
    Asker asker_;
    QWidget* page_;
    EmptyPage* empty_;
    PriceChart* chart_;
    Dossier* dossier_;
};

} // namespace sieve::app
