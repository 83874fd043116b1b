#pragma once

#include "core/watchlists/entry.h"

#include <QDialog>
#include <functional>
#include <vector>

class QCheckBox;
class QComboBox;
class QDateEdit;
class QLineEdit;

namespace sieve::app {

/// Changes several entries at once: only what is ticked.
class EntriesDialog : public QDialog {
    Q_OBJECT
public:
    EntriesDialog(std::size_t entries, const QStringList& categories, const QDate& today,
                  QWidget* parent);

    /// Does to an entry what was ticked.
    std::function<void(watchlists::Entry&)> change() const;

private:
    QCheckBox* isReason_;
    QLineEdit* reason_;
    QCheckBox* isCategory_;
    QComboBox* category_;
    QCheckBox* isTagged_;
    QLineEdit* tags_;
    QCheckBox* isUntagged_;
    QLineEdit* untags_;
    QCheckBox* isSign_;
    QComboBox* sign_;
    QCheckBox* isReview_;
    QDateEdit* review_;
    QCheckBox* isNoReview_;
    QCheckBox* isNote_;
    QLineEdit* note_;
    Day today_;
};

} // namespace sieve::app
