#pragma once

#include "app/look/look.h"

#include <Qsci/qscilexercustom.h>

namespace sieve::app {

/// The window's font as the editor takes it.
QFont editorFont(Weight weight, double factor = 1.0);

/// Colours a text of the language by its tokens.
class LanguageLexer : public QsciLexerCustom {
    Q_OBJECT
public:
    enum Style { Plain, Number, Text, Word, Function, Comment };

    explicit LanguageLexer(QObject* parent);
    const char* language() const override { return "Wise Sieve"; }
    QString description(int style) const override;
    void styleText(int start, int end) override;
    void wear(); ///< the palette's colours
    QStringList autoCompletionWordSeparators() const override { return {QStringLiteral("(")}; }
};

} // namespace sieve::app
