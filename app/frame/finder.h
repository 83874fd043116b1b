#pragma once

#include "app/desk/asker.h"
#include "app/parts/findables.h"

#include <QFrame>
#include <QPointer>
#include <memory>
#include <vector>

class QLineEdit;
class QListWidget;

namespace sieve::app {

class Desk;

/// Finds anything by a few letters: stocks, lists, screens, places, commands and fields. Opens over
/// the window; Return takes what is chosen, Escape closes. Both give the focus back to where it
/// was. What there is to be found is collected and gone through beside the window's thread.
class Finder : public QFrame {
    Q_OBJECT
public:
    /// `commands` are those of the window's menus.
    Finder(Desk& desk, std::vector<Findable> commands, QWidget* parent);
    void openOver(QWidget* window);

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;
    void hideEvent(QHideEvent* event) override;

private:
    /// What is there to be found, and which of it the words fit.
    struct Found {
        std::shared_ptr<const std::vector<Findable>> all;
        std::vector<std::size_t> places;
    };
    std::function<std::vector<Findable>()> collector();
    void find();
    void showFound(Found found);
    void openChosen();
    void close();

    Desk& desk_;
    Asker asker_;
    std::shared_ptr<const std::vector<Findable>> commands_;
    Found found_;                 ///< `all` is null when it must be collected anew
    bool opensWhenFound_ = false; ///< Return was pressed before the answer to the last letter
    QLineEdit* words_;
    QListWidget* list_;
    QPointer<QWidget> focusBefore_;
};

} // namespace sieve::app
