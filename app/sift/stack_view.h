#pragma once

#include "core/screens/run.h"
#include "core/screens/screen.h"

#include <QWidget>
#include <vector>

class QLabel;
class QMenu;
class QPushButton;
class QScrollArea;
class QSpinBox;
class QStackedWidget;
class QVBoxLayout;

namespace sieve::app {

class Band;
class ExpressionEdit;
class RibbonColumn;
class TextForm;

/// The screen as a stack: the universe on top, a band a criterion, the line that takes a new one,
/// the rank, and the way into the tray. Holds the screen that is being edited; computes nothing.
class StackView : public QWidget {
    Q_OBJECT
public:
    explicit StackView(QWidget* parent = nullptr);

    void setScreen(const screens::Screen& screen);
    /// The screen as the widgets stand; name, purpose and columns as they were given.
    screens::Screen screen() const;
    void setRun(const screens::ScreenRun& run);
    void setChosen(std::optional<std::size_t> stock); ///< whose places the bands mark
    void setBound(std::size_t criterion, std::size_t limit, double bound);
    void focusNewLine();
    ExpressionEdit* newLine() { return newLine_; }
    void setUniverse(const QString& condition); ///< as an edit
    QMenu* universeMenu() { return universeMenu_; }
    /// Shows the criteria as text, or as bands again.
    void setAsText(bool isText);
    TextForm& textForm() { return *textForm_; }
    void add(const QString& condition);

    /// So many of the results are selected, and would be taken in hand alone; 0 or 1: all of them.
    void setSelected(std::size_t stocks);

Q_SIGNALS:
    void changed();
    /// One step for undo; `mayJoin`: it may be a notch of a wheel, part of the step before it.
    void committed(const QString& what, bool mayJoin = false);
    void trayWanted();
    void percentWanted(std::size_t criterion, std::size_t limit); ///< to be typed for a limit

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void updateTrayButton();
    QStringList guidanceOf(const screens::ScreenRun& run) const;
    QString fewText(const screens::ScreenRun& run) const;
    QString sentenceOf(std::size_t criterion) const;
    void follow(const QString& link);
    void setBandCount(std::size_t count);
    void showCriteria(const std::vector<screens::Criterion>& criteria);
    void readText();
    void remove(Band* band);
    void move(Band* band, int by);
    void moveFocus(Band* band, int by);
    void renumber();

    screens::Screen screen_;
    std::vector<Band*> bands_;
    ExpressionEdit* universe_;
    QLabel* universeCount_;
    QMenu* universeMenu_; ///< filled by who knows the market
    RibbonColumn* mouth_; ///< the ribbon beside the universe
    RibbonColumn* fall_;  ///< and beside the line for a new criterion
    QVBoxLayout* bandLayout_;
    QScrollArea* scroll_;
    QStackedWidget* forms_; ///< the bands, or the text
    TextForm* textForm_;
    ExpressionEdit* newLine_;
    ExpressionEdit* rankBy_;
    QSpinBox* keep_;
    QLabel* guidance_;
    QVBoxLayout* column_ = nullptr; ///< of the bands
    QPushButton* toTray_;
    std::size_t matches_ = 0;
    std::size_t selected_ = 0;
};

} // namespace sieve::app
