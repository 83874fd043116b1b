#pragma once

#include "core/screens/run.h"
#include "core/screens/screen_text.h"

#include <QWidget>
#include <optional>

class QLabel;
class QsciAPIs;
class QsciScintilla;

namespace sieve::app {

/// The criteria of a screen as text of the language: coloured, completed, with the forms of
/// functions while typing and a mark under what is wrong. What is grammar goes into the stack with
/// each letter; a text that is none stays here, and the stack as it was, until it is mended.
class TextForm : public QWidget {
    Q_OBJECT
public:
    explicit TextForm(QWidget* parent = nullptr);

    void setCriteria(const std::vector<screens::Criterion>& criteria);
    std::vector<screens::Criterion> criteria() const { return read_.criteria; }
    /// The names that are completed.
    void setVocabulary(const language::Vocabulary& vocabulary);
    /// Marks the first mistake that only evaluating found.
    void setRun(const screens::ScreenRun& run);
    QsciScintilla& editor() { return *editor_; }
    QString told() const; ///< the line of help below the text

Q_SIGNALS:
    void changed();   ///< the criteria are others
    void committed(); ///< the person is done with it

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;
    void changeEvent(QEvent* event) override;
    void hideEvent(QHideEvent* event) override;
    void showEvent(QShowEvent* event) override;

private:
    void prepareNames();
    void read();
    void updateTexts();
    void mark(const std::optional<LocatedError>& fault, std::size_t offset);
    void style();

    QsciScintilla* editor_;
    QsciAPIs* names_;
    QLabel* summary_;
    screens::CriteriaRead read_;
    std::optional<LocatedError> fault_;
    bool isSetting_ = false;
    bool areNamesReady_ = false; ///< for completion
};

} // namespace sieve::app
