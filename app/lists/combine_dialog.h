#pragma once

#include "core/library/work.h"
#include "core/watchlists/list_sets.h"

#include <QDialog>
#include <cstdint>
#include <vector>

class QComboBox;
class QLabel;
class QLineEdit;
class QListWidget;

namespace sieve::app {

/// What becomes of several lists: joined, what they have in common, one without the others; as a
/// new list, or in the place of the first.
class CombineDialog : public QDialog {
    Q_OBJECT
public:
    /// `first`: the list that is chosen. `market`: tells who is who; null: none is open.
    CombineDialog(const library::Work& work, std::int64_t first, const market::Market* market,
                  QWidget* parent);

    std::vector<watchlists::Entry> entries() const;
    /// Empty: the first list takes them.
    QString newName() const;

    void accept() override; ///< once all is right

private:
    watchlists::SetOf how() const;
    std::vector<const watchlists::Watchlist*> lists() const;
    void tell();
    QString fault() const;

    const library::Work& work_;
    const watchlists::Watchlist* first_;
    const market::Market* market_;
    QComboBox* how_;
    QListWidget* others_;
    QComboBox* into_;
    QLineEdit* name_;
    QLabel* told_;
};

} // namespace sieve::app
