#include "app/parts/expression_edit.h"

#include "app/look/look.h"
#include "app/parts/number_text.h"
#include "core/language/functions.h"
#include "core/market/statements.h"

#include <QAbstractItemView>
#include <QApplication>
#include <QCompleter>
#include <QKeyEvent>
#include <QPainter>
#include <QPainterPath>
#include <QStandardItemModel>
#include <QStyleOptionFrame>
#include <QStyledItemDelegate>
#include <algorithm>

namespace sieve::app {

namespace {

constexpr int insertRole = Qt::UserRole + 1; ///< what is typed when the word is chosen
constexpr int titleRole = Qt::UserRole + 2;

/// The word on the left, what it is on the right.
class WordDelegate : public QStyledItemDelegate {
public:
    using QStyledItemDelegate::QStyledItemDelegate;
    void paint(QPainter* painter, const QStyleOptionViewItem& option,
               const QModelIndex& index) const override
    {
        const bool isSelected = option.state & QStyle::State_Selected;
        if (isSelected)
            painter->fillRect(option.rect, option.palette.highlight());
        const QRect area = option.rect.adjusted(8, 0, -8, 0);
        painter->setFont(fontOf(Weight::Medium));
        painter->setPen(look().ink);
        const QString word = index.data(Qt::DisplayRole).toString();
        painter->drawText(area, Qt::AlignVCenter | Qt::AlignLeft, word);
        const int used = painter->fontMetrics().horizontalAdvance(word) + 14;
        painter->setFont(fontOf(Weight::Regular, 0.92));
        painter->setPen(look().softInk);
        const QRect rest = area.adjusted(used, 0, 0, 0);
        painter->drawText(rest, Qt::AlignVCenter | Qt::AlignRight,
                          painter->fontMetrics().elidedText(index.data(titleRole).toString(),
                                                            Qt::ElideRight, rest.width()));
    }
    QSize sizeHint(const QStyleOptionViewItem& option, const QModelIndex&) const override
    {
        return {420, option.fontMetrics.height() + 9};
    }
};

/// Finds a word by its letters or by any word of its title.
class WordCompleter : public QCompleter {
public:
    using QCompleter::QCompleter;
    QString pathFromIndex(const QModelIndex& index) const override
    {
        return index.data(insertRole).toString();
    }
};

void addWord(QStandardItemModel* model, const QString& form, const QString& insert,
             const QString& title)
{
    auto* item = new QStandardItem(form);
    item->setData(insert, insertRole);
    item->setData(title, titleRole);
    item->setData(form + QLatin1Char(' ') + title, Qt::EditRole);
    item->setData(form, Qt::DisplayRole);
    item->setData(QString(form + QLatin1Char(' ') + title), Qt::UserRole);
    item->setToolTip(title);
    model->appendRow(item);
}

bool isWordCharacter(QChar c)
{
    return c.isLetterOrNumber() || c == QLatin1Char('_');
}

} // namespace

bool isPlainWords(const QString& text)
{
    return std::ranges::all_of(text, [](QChar c) { return isWordCharacter(c) || c.isSpace(); });
}

QStandardItemModel* languageWords()
{
    static auto* model = [] {
        auto* made = new QStandardItemModel(qApp);
        const auto& vocabulary = language::Vocabulary::builtIn();
        for (const language::Field& field : vocabulary.fields())
            addWord(made, text(field.name), text(field.name), text(field.title));
        for (const language::Signature& signature : language::signatures(vocabulary)) {
            const bool takesArguments = signature.form.find('(') != std::string::npos;
            addWord(made, text(signature.form), text(signature.name + (takesArguments ? "(" : "")),
                    text(signature.help));
        }
        for (const market::StatementItem& item : market::statementItems())
            addWord(made, text(item.key), text(item.key),
                    QObject::tr("%1 (in quarter, year or ttm)").arg(text(item.title)));
        for (const char* word : {"and", "or", "not", "within", "universe"})
            addWord(made, QLatin1String(word), QLatin1String(word), QString());
        return made;
    }();
    return model;
}

void offerOwnFields(std::span<const language::Field> fields)
{
    static int own = 0; // they stand at the end
    QStandardItemModel* model = languageWords();
    model->removeRows(model->rowCount() - own, own);
    own = static_cast<int>(fields.size());
    for (const language::Field& field : fields)
        addWord(model, text(field.name), text(field.name), text(field.title));
}

ExpressionEdit::ExpressionEdit(QWidget* parent)
    : QLineEdit(parent), words_(new WordCompleter(languageWords(), this))
{
    setProperty("quiet", true);
    words_->setCaseSensitivity(Qt::CaseInsensitive);
    words_->setFilterMode(Qt::MatchContains);
    words_->setCompletionRole(Qt::UserRole);
    words_->setMaxVisibleItems(9);
    words_->setWidget(this);
    words_->popup()->setItemDelegate(new WordDelegate(this));
    connect(words_, qOverload<const QString&>(&QCompleter::activated), this,
            &ExpressionEdit::completeWord);
    connect(this, &QLineEdit::textEdited, this, &ExpressionEdit::offerWords);
}

QString ExpressionEdit::wordBeforeCursor() const
{
    const QString before = text().left(cursorPosition());
    if (before.count(QLatin1Char('"')) % 2 == 1)
        return {}; // inside a text
    qsizetype begin = before.size();
    while (begin > 0 && isWordCharacter(before[begin - 1]))
        --begin;
    const QString word = before.mid(begin);
    return !word.isEmpty() && word[0].isDigit() ? QString() : word;
}

void ExpressionEdit::offerWords()
{
    const QString word = wordBeforeCursor();
    words_->setCompletionPrefix(word);
    const bool isComplete = words_->completionCount() == 1 && words_->currentCompletion() == word;
    if ((arePlainWordsLeftAlone_ && isPlainWords(text())) || word.size() < 2 ||
        words_->completionCount() == 0 || isComplete) {
        words_->popup()->hide();
        return;
    }
    QRect place = cursorRect();
    place.setWidth(430);
    words_->complete(place);
    // Words that begin with what was typed come first to the eye: the first of them is chosen.
    for (int row = 0; row < words_->completionCount(); ++row)
        if (words_->completionModel()->index(row, 0).data().toString().startsWith(word)) {
            words_->popup()->setCurrentIndex(words_->completionModel()->index(row, 0));
            return;
        }
    words_->popup()->setCurrentIndex(words_->completionModel()->index(0, 0));
}

void ExpressionEdit::completeWord(const QString& word)
{
    const qsizetype length = wordBeforeCursor().size();
    const qsizetype end = cursorPosition();
    QString changed = text();
    changed.replace(end - length, length, word);
    setText(changed);
    setCursorPosition(static_cast<int>(end - length + word.size()));
    Q_EMIT textEdited(changed);
    words_->popup()->hide();
}

void ExpressionEdit::setFault(const std::optional<LocatedError>& fault)
{
    if (fault == fault_)
        return;
    fault_ = fault;
    setToolTip(fault ? app::text(sentence(*fault)) : QString());
    update();
}

bool ExpressionEdit::event(QEvent* event)
{
    if (event->type() == QEvent::KeyPress && words_->popup()->isVisible() &&
        static_cast<QKeyEvent*>(event)->key() == Qt::Key_Tab) { // before it moves the focus
        completeWord(words_->popup()->currentIndex().data(insertRole).toString());
        return true;
    }
    return QLineEdit::event(event);
}

void ExpressionEdit::keyPressEvent(QKeyEvent* event)
{
    if (words_->popup()->isVisible()) {
        switch (event->key()) {
        case Qt::Key_Enter:
        case Qt::Key_Return:
            completeWord(words_->popup()->currentIndex().data(insertRole).toString());
            return;
        case Qt::Key_Escape:
            words_->popup()->hide();
            return;
        case Qt::Key_Up:
        case Qt::Key_Down:
            event->ignore();
            return;
        default:
            break;
        }
    }
    if (event->modifiers() == Qt::ControlModifier &&
        (event->key() == Qt::Key_Up || event->key() == Qt::Key_Down)) {
        Q_EMIT stepped(event->key() == Qt::Key_Up ? 1 : -1);
        return;
    }
    const bool isPlain = !(event->modifiers() & (Qt::AltModifier | Qt::ControlModifier));
    if (isPlain && (event->key() == Qt::Key_Up || event->key() == Qt::Key_Down)) {
        Q_EMIT leftByKey(event->key() == Qt::Key_Up ? -1 : 1);
        return;
    }
    QLineEdit::keyPressEvent(event);
}

void ExpressionEdit::paintEvent(QPaintEvent* event)
{
    QLineEdit::paintEvent(event);
    if (!fault_ || text().isEmpty())
        return;
    // The cursor's rectangle at 0 tells how far a long text has been scrolled.
    QStyleOptionFrame option;
    initStyleOption(&option);
    const QRect inside = style()->subElementRect(QStyle::SE_LineEditContents, &option, this);
    const QFontMetrics metrics(font());
    const auto column = static_cast<qsizetype>(fault_->where.column) - 1;
    const auto length = std::max<qsizetype>(static_cast<qsizetype>(fault_->where.length), 1);
    const int cursorX = metrics.horizontalAdvance(text().left(cursorPosition()));
    const int scrolled = cursorRect().center().x() - inside.left() - cursorX;
    const int left = inside.left() + scrolled + metrics.horizontalAdvance(text().left(column));
    const int width = std::max(6, metrics.horizontalAdvance(text().mid(column, length)));
    QPainter painter(this);
    painter.setClipRect(inside);
    painter.setPen(QPen(look().caution, 2.0));
    const int y = inside.center().y() + metrics.height() / 2 - 1;
    painter.drawLine(left, y, left + width, y);
}

} // namespace sieve::app
