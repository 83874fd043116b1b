#pragma once

#include "app/desk/asker.h"
#include "core/market/market.h"
#include "core/watchlists/tray.h"

#include <QWidget>
#include <optional>
#include <string>
#include <utility>
#include <vector>

class QLabel;
class QScrollArea;

namespace sieve::app {

class Desk;

/// One candidate as a small card: symbol, thirty-session line, what was decided.
class TrayCards : public QWidget {
    Q_OBJECT
public:
    explicit TrayCards(Desk& desk, QWidget* parent = nullptr);
    using Lines = std::vector<std::vector<double>>; ///< a card each; empty where none is known
    void setLines(Lines lines);
    QRect card(std::size_t place) const;

Q_SIGNALS:
    void chosen(std::size_t place);
    void opened(std::size_t place);

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;

private:
    void arrange();
    std::optional<std::size_t> placeAt(const QPoint& at) const;
    QString symbolShown(const watchlists::Card& card) const; ///< the newest one

    Desk& desk_;
    Lines lines_;
};

/// The candidates in hand, in every place, with the tally of what was decided.
class TrayBar : public QWidget {
    Q_OBJECT
public:
    explicit TrayBar(Desk& desk, QWidget* parent = nullptr);

protected:
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override; ///< of a text: the symbols in it

private:
    void showTray();
    void showSelection();
    void askLines();
    void addToTray(const std::vector<std::size_t>& stocks);

    /// What the lines were asked for: a decision about a card changes none of it.
    struct LinesAsked {
        market::MarketPtr market;
        Day day = Day::fromSerial(0);
        std::vector<std::pair<std::string, Day>> stocks;

        friend bool operator==(const LinesAsked&, const LinesAsked&) = default;
    };

    Desk& desk_;
    Asker asker_;
    LinesAsked asked_;
    TrayCards* cards_;
    QScrollArea* scroll_;
    QLabel* counts_;
};

} // namespace sieve::app
