#include "app/sift/text_form.h"

#include "app/look/look.h"
#include "app/look/tone.h"
#include "app/parts/number_text.h"
#include "app/sift/language_lexer.h"
#include "core/language/functions.h"

#include <QHideEvent>
#include <QLabel>
#include <QVBoxLayout>
#include <Qsci/qsciapis.h>
#include <Qsci/qsciscintilla.h>
#include <utility>

namespace sieve::app {

namespace {

constexpr int faultIndicator = 8; ///< the first that no lexer uses

} // namespace

TextForm::TextForm(QWidget* parent)
    : QWidget(parent), editor_(new QsciScintilla), summary_(new QLabel)
{
    editor_->setAccessibleName(tr("Criteria as text"));
    editor_->setUtf8(true);
    auto* lexer = new LanguageLexer(editor_);
    editor_->setLexer(lexer);
    names_ = new QsciAPIs(lexer);
    setVocabulary(language::Vocabulary::builtIn());
    editor_->setAutoCompletionSource(QsciScintilla::AcsAPIs);
    editor_->setAutoCompletionThreshold(2);
    editor_->setAutoCompletionCaseSensitivity(false);
    editor_->setAutoCompletionReplaceWord(true);
    editor_->setCallTipsStyle(QsciScintilla::CallTipsNoContext);
    editor_->setBraceMatching(QsciScintilla::SloppyBraceMatch);
    editor_->setWrapMode(QsciScintilla::WrapWord);
    editor_->setWrapVisualFlags(QsciScintilla::WrapFlagNone, QsciScintilla::WrapFlagNone, 2);
    editor_->setFrameShape(QFrame::NoFrame);
    editor_->setExtraAscent(2);
    editor_->setExtraDescent(3);
    editor_->indicatorDefine(QsciScintilla::SquiggleLowIndicator, faultIndicator);
    for (int margin = 0; margin < 3; ++margin)
        editor_->setMarginWidth(margin, margin == 0 ? 26 : 0);
    editor_->setMarginLineNumbers(0, true);
    editor_->setMarginWidth(1, 6);
    editor_->installEventFilter(this);
    summary_->setWordWrap(true);
    summary_->setContentsMargins(12, 4, 12, 4);
    summary_->setAlignment(Qt::AlignLeft | Qt::AlignBottom);
    // Two lines at least: what somebody types should not move the text.
    summary_->setMinimumHeight(2 * summary_->fontMetrics().lineSpacing() + 8);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 8, 0, 0);
    layout->setSpacing(0);
    layout->addWidget(editor_, 1);
    layout->addWidget(summary_);
    connect(editor_, &QsciScintilla::textChanged, this, &TextForm::read);
    // The list of words that closes over an opening bracket takes the call tip with it.
    connect(
        editor_, &QsciScintillaBase::SCN_CHARADDED, editor_,
        [this](int character) {
            if (character == '(')
                editor_->callTip();
        },
        Qt::QueuedConnection);
    style();
}

void TextForm::setVocabulary(const language::Vocabulary& vocabulary)
{
    names_->clear();
    for (const language::Field& field : vocabulary.fields())
        names_->add(text(field.name));
    for (const language::Signature& function : language::signatures(vocabulary))
        names_->add(text(function.form + " " + function.help));
    areNamesReady_ = false;
    if (isVisible())
        prepareNames();
}

/// The library does it on a thread of its own, which a form that is gone at once does not outlive
/// safely: so only when the text is seen.
void TextForm::prepareNames()
{
    if (!std::exchange(areNamesReady_, true))
        names_->prepare();
}

void TextForm::showEvent(QShowEvent* event)
{
    QWidget::showEvent(event);
    prepareNames();
}

void TextForm::style()
{
    const Palette& colours = look();
    if (auto* lexer = qobject_cast<LanguageLexer*>(editor_->lexer())) {
        lexer->wear();
        editor_->setLexer(lexer); // takes the colours
    }
    // The editor takes these from the window's font, whose size in points is none.
    const long size = editor_->SendScintilla(QsciScintilla::SCI_STYLEGETSIZEFRACTIONAL,
                                             long(QsciScintilla::STYLE_DEFAULT));
    for (const int each : {QsciScintilla::STYLE_BRACELIGHT, QsciScintilla::STYLE_BRACEBAD})
        editor_->SendScintilla(QsciScintilla::SCI_STYLESETSIZEFRACTIONAL,
                               static_cast<unsigned long>(each), size);
    editor_->setCaretForegroundColor(colours.ink);
    editor_->setCaretLineVisible(false);
    editor_->setMarginsBackgroundColor(colours.sheet);
    editor_->setMarginsForegroundColor(colours.softInk);
    editor_->setMarginsFont(editorFont(Weight::Regular, 0.86));
    editor_->setSelectionBackgroundColor(colours.wash(colours.mark, 0.25));
    editor_->setMatchedBraceBackgroundColor(colours.wash(colours.mark, 0.25));
    editor_->setMatchedBraceForegroundColor(colours.ink);
    editor_->setUnmatchedBraceBackgroundColor(colours.sheet);
    editor_->setUnmatchedBraceForegroundColor(colours.caution);
    editor_->setCallTipsBackgroundColor(colours.ground);
    editor_->setCallTipsForegroundColor(colours.ink);
    editor_->setCallTipsHighlightColor(colours.mark);
    editor_->setIndicatorForegroundColor(colours.caution, faultIndicator);
}

void TextForm::changeEvent(QEvent* event)
{
    QWidget::changeEvent(event);
    if (event->type() == QEvent::PaletteChange)
        style();
}

/// What floats over the editor goes with it.
void TextForm::hideEvent(QHideEvent*)
{
    editor_->SendScintilla(QsciScintilla::SCI_CALLTIPCANCEL);
    editor_->cancelList();
}

void TextForm::setCriteria(const std::vector<screens::Criterion>& criteria)
{
    if (read_.criteria == criteria && !editor_->text().isEmpty())
        return; // the text says so already, in its own way, or is about to: nothing typed is lost
    isSetting_ = true;
    read_.criteria = criteria;
    editor_->setText(text(criteriaToText(criteria)));
    isSetting_ = false;
    read();
}

void TextForm::read()
{
    if (isSetting_)
        return;
    auto read = screens::criteriaFromText(utf8(editor_->text()), read_.criteria);
    fault_ = read ? std::nullopt : std::optional(read.error());
    mark(fault_, 0);
    if (!fault_) {
        const bool isOther = read->criteria != read_.criteria;
        read_ = *std::move(read);
        if (isOther)
            Q_EMIT changed();
    }
    updateTexts();
}

void TextForm::setRun(const screens::ScreenRun& run)
{
    if (fault_)
        return; // of the text as it was
    for (std::size_t i = 0; i < run.criteria.size() && i < read_.offsets.size(); ++i) {
        if (!run.criteria[i].error)
            continue;
        mark(run.criteria[i].error, read_.offsets[i]);
        setTone(summary_, Tone::Caution);
        return summary_->setText(
            text(run.criteria[i].error->problem + ": " + run.criteria[i].error->remedy));
    }
    mark(std::nullopt, 0);
    updateTexts();
}

void TextForm::mark(const std::optional<LocatedError>& fault, std::size_t offset)
{
    const auto length = editor_->SendScintilla(QsciScintillaBase::SCI_GETLENGTH);
    editor_->SendScintilla(QsciScintillaBase::SCI_SETINDICATORCURRENT, faultIndicator);
    editor_->SendScintilla(QsciScintillaBase::SCI_INDICATORCLEARRANGE, 0UL, length);
    if (!fault)
        return;
    const auto from = std::min(static_cast<long>(offset + fault->where.offset),
                               std::max(0L, static_cast<long>(length) - 1));
    const auto bytes = std::max(1L, static_cast<long>(fault->where.bytes));
    editor_->SendScintilla(QsciScintillaBase::SCI_INDICATORFILLRANGE,
                           static_cast<unsigned long>(from), bytes);
}

void TextForm::updateTexts()
{
    setTone(summary_, fault_ ? Tone::Caution : Tone::Soft);
    summary_->setText(fault_ ? text(sentence(*fault_))
                             : tr("A criterion a line, joined by and. # begins a comment, "
                                  "# off: a criterion that is switched off."));
}

QString TextForm::told() const
{
    return summary_->text();
}

bool TextForm::eventFilter(QObject* watched, QEvent* event)
{
    if (watched == editor_ && event->type() == QEvent::FocusOut)
        Q_EMIT committed();
    return QWidget::eventFilter(watched, event);
}

} // namespace sieve::app
