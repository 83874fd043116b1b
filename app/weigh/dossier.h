#pragma once

#include "core/base/shared.h"
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
    void setDecision(const std::optional<watchlists::Card>& card);
    void setOnLists(const QString& onLists); ///< the lists it is on, since when and why
    void setLists(std::span<const Shared<watchlists::Watchlist>> lists);
    void setReason(const QString& reason);
    QString reason() const;
    /// The list that takes what is kept; empty: there is none yet. The choice follows the list, not
    /// its place or name.
    std::optional<std::int64_t> chosenList() const;
    /// Whether the reason was typed and not given yet; it counts as given from now on.
    bool takeTypedReason();
    void focusReason();

Q_SIGNALS:
    void decided(sieve::watchlists::Mark mark);
    void reasonGiven(const QString& reason);
    void reasonLeft(); ///< by Return
    void listChosen(); ///< by the person

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
