#include "app/sift/language_lexer.h"

#include "core/language/token.h"

#include <QGuiApplication>
#include <QScreen>
#include <Qsci/qsciscintilla.h>

namespace sieve::app {

QFont editorFont(Weight weight, double factor)
{
    QFont font = fontOf(weight, factor);
    if (font.pointSizeF() <= 0.0) // the editor asks for points, the window's fonts are in pixels
        font.setPointSizeF(font.pixelSize() * 72.0 /
                           QGuiApplication::primaryScreen()->logicalDotsPerInchY());
    return font;
}

LanguageLexer::LanguageLexer(QObject* parent) : QsciLexerCustom(parent)
{
    wear();
}

QString LanguageLexer::description(int style) const
{
    const char* names[] = {"plain", "number", "text", "word", "function", "comment"};
    return style >= 0 && style <= Comment ? QLatin1String(names[style]) : QString();
}

void LanguageLexer::wear()
{
    const Palette& colours = look();
    setDefaultFont(editorFont(Weight::Regular));
    setDefaultColor(colours.ink);
    setDefaultPaper(colours.sheet);
    const QColor inks[] = {colours.ink,  colours.rise, colours.caution,
                           colours.fall, colours.mark, colours.softInk};
    for (int style = Plain; style <= Comment; ++style) {
        setFont(editorFont(style == Function ? Weight::Medium : Weight::Regular), style);
        setColor(inks[style], style);
        setPaper(colours.sheet, style);
    }
}

void LanguageLexer::styleText(int, int)
{
    // A screen is short: all of it is coloured anew, so that no state is kept between calls.
    const QByteArray bytes = editor()->text().toUtf8();
    const std::string_view text(bytes.constData(), static_cast<std::size_t>(bytes.size()));
    startStyling(0);
    std::size_t done = 0;
    const auto paint = [&](std::size_t until, Style style) {
        if (until > done)
            setStyling(static_cast<int>(until - done), style);
        done = std::max(done, until);
    };
    const auto between = [&](std::size_t until) { // blanks and comments
        const std::size_t mark = text.substr(0, until).find('#', done);
        if (mark != std::string_view::npos) {
            paint(mark, Plain);
            paint(until, Comment);
        }
        paint(until, Plain);
    };
    auto tokens = language::tokenize(text);
    if (!tokens) // up to the mistake
        tokens = language::tokenize(text.substr(0, tokens.error().where.offset));
    for (const language::Token& token : tokens ? *tokens : std::vector<language::Token>()) {
        using language::TokenKind;
        if (token.kind == TokenKind::End)
            break;
        between(token.where.offset);
        const std::size_t end = token.where.offset + token.where.bytes;
        const bool isWord = token.text == "and" || token.text == "or" || token.text == "not" ||
                            token.text == "in" || token.text == "if";
        paint(end, token.kind == TokenKind::Number || token.kind == TokenKind::Day ? Number
                   : token.kind == TokenKind::Text                                 ? Text
                   : token.kind != TokenKind::Name                                 ? Plain
                   : isWord                                                        ? Word
                   : end < text.size() && text[end] == '('                         ? Function
                                                                                   : Plain);
    }
    between(text.size());
}

} // namespace sieve::app
