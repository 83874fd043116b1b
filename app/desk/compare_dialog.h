#pragma once

#include "app/desk/asker.h"
#include "app/parts/findables.h"
#include "core/charts/comparable.h"

#include <QDialog>
#include <memory>
#include <vector>

class QLineEdit;
class QListWidget;

namespace sieve::app {

class Desk;

/// Asks what a chart is to be compared with: a stock, an index, a group or a list, by a few
/// letters.
class CompareDialog : public QDialog {
    Q_OBJECT
public:
    /// Requires: an open market.
    CompareDialog(Desk& desk, QWidget* parent);
    const charts::Comparable* chosen() const; ///< null where nothing bears the words

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    /// All that there is, put together by the first question, and the places of what was found.
    struct Found {
        std::shared_ptr<const std::vector<charts::Comparable>> all;
        std::shared_ptr<const std::vector<Findable>> named;
        std::vector<std::size_t> places;
    };
    void find();
    void showFound(Found found);

    Desk& desk_;
    Asker asker_;
    QLineEdit* words_;
    QListWidget* list_;
    Found found_;
};

} // namespace sieve::app
