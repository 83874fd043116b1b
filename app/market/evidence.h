#pragma once

#include "app/desk/asker.h"
#include "app/market/line_chart.h"

#include <QWidget>
#include <memory>

class QLabel;
class QTableWidget;

namespace sieve::app {

class Desk;

/// Every divergence known by the day, with what followed; a click shows it on the chart.
class DivergenceTable : public QWidget {
    Q_OBJECT
public:
    explicit DivergenceTable(QWidget* parent = nullptr);
    void show(const std::shared_ptr<const LineShown>& shown);

Q_SIGNALS:
    void chosen(const sieve::conditions::LineShown::Diverging& divergence);

private:
    void showRecord();

    QLabel* record_;
    QTableWidget* table_;
    std::shared_ptr<const LineShown> shown_;
};

/// Each stance that there was, for how long, and how the market went while it stood.
class StanceTable : public QWidget {
    Q_OBJECT
public:
    explicit StanceTable(QWidget* parent = nullptr);
    void show(const conditions::Reading& reading, Day day);

private:
    QLabel* head_;
    QTableWidget* table_;
};

/// How the matches of the person's own long screens have done since: their health is a reading of
/// the market too. It is asked for while it is seen only.
class OwnScreensView : public QWidget {
    Q_OBJECT
public:
    explicit OwnScreensView(Desk& desk, QWidget* parent = nullptr);
    void show(Day day);
    QString recordText() const;

protected:
    void paintEvent(QPaintEvent* event) override;
    void showEvent(QShowEvent* event) override;

private:
    void ask();

    Desk& desk_;
    Asker asker_;
    QLabel* summary_;
    Day day_ = Day::fromSerial(0);
    bool isStale_ = true;
    std::vector<double> gained1_;
    std::vector<double> gained5_;
};

} // namespace sieve::app
