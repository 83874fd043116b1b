#pragma once

#include <QFrame>
#include <QPointer>
#include <functional>
#include <vector>

class QLineEdit;
class QListWidget;

namespace sieve::app {

class Desk;

/// Finds anything by a few letters: stocks, lists, screens, places, commands and fields. Opens over
/// the window; Return takes what is chosen, Escape closes. Both give the focus back to where it
/// was.
class Finder : public QFrame {
    Q_OBJECT
public:
    struct Thing {
        QString name;
        QString what; ///< "stock", "list", …, with what tells it apart
        std::function<void()> open;
    };
    /// `commands` are those of the window's menus.
    Finder(Desk& desk, std::vector<Thing> commands, QWidget* parent);
    void openOver(QWidget* window);

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void collect();
    void filter();
    void openChosen();
    void close();

    Desk& desk_;
    std::vector<Thing> commands_;
    std::vector<Thing> things_;
    std::vector<std::size_t> shown_;
    QLineEdit* words_;
    QListWidget* list_;
    QPointer<QWidget> focusBefore_;
};

} // namespace sieve::app
