#pragma once

#include "app/desk/asker.h"
#include "core/watchlists/tray.h"

#include <QWidget>
#include <map>
#include <string>
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
    void setLines(std::map<std::string, std::vector<double>> lines);
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

    Desk& desk_;
    std::map<std::string, std::vector<double>> lines_;
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

    Desk& desk_;
    Asker asker_;
    TrayCards* cards_;
    QScrollArea* scroll_;
    QLabel* counts_;
};

} // namespace sieve::app
