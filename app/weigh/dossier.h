#pragma once

#include "core/screens/table.h"
#include "core/watchlists/tray.h"
#include "core/watchlists/watchlist.h"

#include <QWidget>
#include <optional>
#include <span>
#include <string>

class QComboBox;
class QGridLayout;
class QLabel;
class QLineEdit;
class QPushButton;

namespace sieve::app {

/// What is known of the selected stock, and what was decided about it.
class Dossier : public QWidget {
    Q_OBJECT
public:
    explicit Dossier(QWidget* parent = nullptr);

    /// The fields that it shows.
    static std::span<const std::string> fields();

    void setInstrument(const market::Instrument& instrument);
    void setFigures(const screens::ResultTable& figures, const market::TextTable& texts);
    void setDecision(std::optional<watchlists::Card> card, const QString& onLists);
    void setLists(const std::vector<watchlists::Watchlist>& lists);
    void setReason(const QString& reason);
    QString reason() const;
    std::size_t chosenList() const; ///< place among the lists; past the last: a new one
    void focusReason();

Q_SIGNALS:
    void decided(sieve::watchlists::Mark mark);
    void reasonGiven(const QString& reason);

private:
    QLabel* symbol_;
    QLabel* name_;
    QLabel* group_;
    QLabel* mark_;
    QLabel* onLists_;
    QLabel* about_;
    QLineEdit* reason_;
    QComboBox* list_;
    QGridLayout* figures_;
    std::vector<QLabel*> values_;
};

} // namespace sieve::app
