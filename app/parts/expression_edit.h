#pragma once

#include "core/language/vocabulary.h"

#include <QLineEdit>
#include <span>

class QCompleter;
class QStandardItemModel;

namespace sieve::app {

/// A line in which an expression of the language is typed: words are completed with title and form,
/// a mistake is underlined where it stands and told in the tool tip.
class ExpressionEdit : public QLineEdit {
    Q_OBJECT
public:
    explicit ExpressionEdit(QWidget* parent = nullptr);

    /// Shows what is wrong with the text, or nothing.
    void setFault(const std::optional<LocatedError>& fault);
    /// Plain words, without a sign of the language, are somebody else's to complete.
    void setPlainWordsLeftAlone(bool areLeft) { arePlainWordsLeftAlone_ = areLeft; }

Q_SIGNALS:
    void stepped(int by);          ///< Ctrl+Up (1) or Ctrl+Down (-1): the number here, a step on
    void leftByKey(int direction); ///< Up or Down was pressed with no list of words open

protected:
    bool event(QEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void paintEvent(QPaintEvent* event) override;

private:
    void offerWords();
    void completeWord(const QString& word);
    QString wordBeforeCursor() const;

    QCompleter* words_;
    std::optional<LocatedError> fault_;
    bool arePlainWordsLeftAlone_ = false;
};

/// Whether a text is nothing but words: no sign of the language among them.
bool isPlainWords(const QString& text);

/// Every field, function and statement item with its title, made once: the words of the completion.
QStandardItemModel* languageWords();
/// Puts these among the words, in place of the person's own fields that were there before.
void offerOwnFields(std::span<const language::Field> fields);

} // namespace sieve::app
