#pragma once

#include "app/desk/asker.h"
#include "core/market/symbol_picking.h"

#include <QDialog>
#include <string>
#include <vector>

class QLabel;
class QPlainTextEdit;
class QPushButton;
class QTreeWidget;

namespace sieve::app {

class Desk;

/// Shows which symbols stand in a pasted text, known, ambiguous and unknown, before any is taken:
/// into the tray, as the universe of the screen in hand, or onto a list.
class PasteDialog : public QDialog {
    Q_OBJECT
public:
    enum class Use { Tray, Universe, List };

    PasteDialog(Desk& desk, const QString& text, QWidget* parent);
    /// Those that are ticked, in the order of the text.
    std::vector<std::string> symbols() const;
    Use use() const { return use_; }

private:
    enum Column { Symbol, Name, Typed, ColumnCount };

    void ask();
    void show(const std::vector<market::PickedSymbol>& picked);
    void updateTexts();
    void addButton(const QString& title, Use use);

    Desk& desk_;
    Asker asker_;
    Use use_ = Use::Tray;
    QPlainTextEdit* text_;
    QTreeWidget* picked_;
    QLabel* summary_;
    std::vector<QPushButton*> buttons_;
};

} // namespace sieve::app
