#pragma once

#include "core/base/shared.h"
#include "core/dossier/dossier.h"
#include "core/market/market.h"
#include "core/screens/column_sets.h"
#include "core/watchlists/tray.h"
#include "core/watchlists/watchlist.h"

#include <QWidget>
#include <optional>
#include <span>
#include <string>

class QComboBox;
class QDoubleSpinBox;
class QLabel;
class QLineEdit;
class QScrollArea;
class QToolButton;

namespace sieve::app {

class DossierPage;

/// What is known of the selected stock, and what was decided about it.
class Dossier : public QWidget {
    Q_OBJECT
public:
    /// `blend`: stands among what is chosen to see.
    explicit Dossier(QWidget* blend, QWidget* parent = nullptr);

    void setInstrument(const market::Instrument& instrument);
    void setDossier(std::shared_ptr<const dossier::Dossier> dossier, market::MarketPtr market);
    DossierPage& page() { return *page_; }
    /// The sets of columns of which one may be shown as figures.
    void setColumnSets(std::span<const screens::ColumnSet> sets);
    /// By its name, now or once there is such a set; none: the usual figures.
    void chooseFigures(const QString& set);
    /// What the person chose to see.
    dossier::Choices choices() const;
    /// Scrolls to a part, as far as the page goes.
    void jumpTo(std::string_view part);
    /// To the part after the one in view (before it: -1).
    void jump(int by);
    void setDecision(const std::optional<watchlists::Card>& card);
    void setOnLists(const QString& onLists); ///< the lists it is on, since when and why
    void setLists(std::span<const Shared<watchlists::Watchlist>> lists);
    void setTerms(const watchlists::PlanTerms& terms);
    void setReason(const QString& reason);
    void setFollowed(bool isFollowed);
    bool isByYear() const;
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
    void choicesChanged();
    void termsChosen(const sieve::watchlists::PlanTerms& terms); ///< by the person
    void figuresChosen(const QString& set);                      ///< by the person

private:
    QLabel* symbol_;
    QLabel* name_;
    QLabel* group_;
    QLabel* followed_;
    QLabel* mark_;
    QLabel* onLists_;
    QLineEdit* reason_;
    QComboBox* list_;
    QLayout* makeJumps();
    QLayout* makeOptions(QWidget* blend);
    QWidget* makeModel(QWidget* blend);

    QComboBox* figures_;
    QToolButton* byYear_;
    QToolButton* perShare_;
    QToolButton* model_;
    QDoubleSpinBox* years_;
    QDoubleSpinBox* discount_;
    QDoubleSpinBox* lasting_;
    QDoubleSpinBox* account_;
    QDoubleSpinBox* risk_;
    std::vector<screens::ColumnSet> sets_;
    QString figuresNamed_;
    DossierPage* page_;
    QScrollArea* scroll_;
};

} // namespace sieve::app
