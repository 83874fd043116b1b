#pragma once

#include "core/library/work.h"

#include <QDialog>

class QComboBox;
class QLabel;
class QLineEdit;

namespace sieve::app {

/// Name, folder, keeper and columns of a list: of a new one, or of one that is there.
class ListDialog : public QDialog {
    Q_OBJECT
public:
    /// `list`: as it is; id 0: a new one.
    ListDialog(const library::Work& work, const watchlists::Watchlist& list, QWidget* parent);

    /// With what was chosen; entries as they were.
    watchlists::Watchlist list() const;

    void accept() override; ///< once all is right

private:
    QString fault() const;
    void tell();

    const library::Work& work_;
    watchlists::Watchlist list_;
    QLineEdit* name_;
    QComboBox* folder_;
    QComboBox* keeper_;
    QComboBox* columns_;
    QLabel* told_;
};

/// All folders in which lists stand, those above them too, by alphabet.
QStringList foldersOf(const library::Work& work);

} // namespace sieve::app
