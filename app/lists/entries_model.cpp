#include "app/lists/entries_model.h"

#include "app/lists/entry_words.h"
#include "app/lists/plan_bar.h"
#include "app/look/look.h"
#include "app/parts/figure_table.h"
#include "app/parts/number_text.h"

#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <QMimeData>
#include <algorithm>
#include <cmath>

namespace sieve::app {

namespace {

using watchlists::EntryTold;

struct EntryColumn {
    const char* title;
    const char* tip;
    bool isFigure = false;
    bool isEditable = false;
};

constexpr EntryColumn entryColumns[EntriesModel::OwnColumns] = {
    {"", QT_TRANSLATE_NOOP("EntriesModel", "Your sign")},
    {QT_TRANSLATE_NOOP("EntriesModel", "Symbol"), ""},
    {QT_TRANSLATE_NOOP("EntriesModel", "Plan"),
     QT_TRANSLATE_NOOP("EntriesModel",
                       "From the stop over the entry to the targets, with the price on it")},
    {QT_TRANSLATE_NOOP("EntriesModel", "State"),
     QT_TRANSLATE_NOOP("EntriesModel", "How the plan stands, and since when")},
    {QT_TRANSLATE_NOOP("EntriesModel", "Gain"),
     QT_TRANSLATE_NOOP("EntriesModel", "Since it was added"), true},
    {QT_TRANSLATE_NOOP("EntriesModel", "Reason"), "", false, true},
    {QT_TRANSLATE_NOOP("EntriesModel", "Since"), "", false},
    {QT_TRANSLATE_NOOP("EntriesModel", "Report"),
     QT_TRANSLATE_NOOP("EntriesModel", "The next report that is announced")},
    {QT_TRANSLATE_NOOP("EntriesModel", "Review"),
     QT_TRANSLATE_NOOP("EntriesModel", "When you want to look at it again"), false, true},
    {QT_TRANSLATE_NOOP("EntriesModel", "Category"), "", false, true},
    {QT_TRANSLATE_NOOP("EntriesModel", "Source"),
     QT_TRANSLATE_NOOP("EntriesModel", "The screen or list it came from")},
    {QT_TRANSLATE_NOOP("EntriesModel", "Tags"), "", false, true},
    {QT_TRANSLATE_NOOP("EntriesModel", "Checked"),
     QT_TRANSLATE_NOOP("EntriesModel", "Questions of the checklist that were answered by yes"),
     true},
    {QT_TRANSLATE_NOOP("EntriesModel", "Shares"), QT_TRANSLATE_NOOP("EntriesModel", "Held by now"),
     true},
    {QT_TRANSLATE_NOOP("EntriesModel", "Sessions"),
     QT_TRANSLATE_NOOP("EntriesModel", "Since it was added"), true},
    {QT_TRANSLATE_NOOP("EntriesModel", "Price then"), "", true},
    {QT_TRANSLATE_NOOP("EntriesModel", "Close"), "", true},
    {QT_TRANSLATE_NOOP("EntriesModel", "Highest"),
     QT_TRANSLATE_NOOP("EntriesModel", "Since it was added"), true},
    {QT_TRANSLATE_NOOP("EntriesModel", "Lowest"),
     QT_TRANSLATE_NOOP("EntriesModel", "Since it was added"), true},
    {QT_TRANSLATE_NOOP("EntriesModel", "Name"), ""},
};

const screens::TableColumn* chosenColumn(const ShownList& shown, int column)
{
    const auto at = static_cast<std::size_t>(column - EntriesModel::OwnColumns);
    return column >= EntriesModel::OwnColumns && at < shown.figures.columns.size()
               ? &shown.figures.columns[at]
               : nullptr;
}

QString dayOrNothing(const std::optional<Day>& day)
{
    return day ? shortDayText(*day) : QString();
}

} // namespace

void EntriesModel::setShown(std::shared_ptr<const ShownList> shown)
{
    beginResetModel();
    shown_ = std::move(shown);
    figureRows_.assign(shown_->told.entries.size(), std::nullopt);
    std::size_t at = 0; // rows of figures stand in the list's order
    for (std::size_t row = 0; row < figureRows_.size() && at < shown_->figures.rows.size(); ++row)
        if (shown_->told.entries[row].result.stock == shown_->figures.rows[at])
            figureRows_[row] = at++;
    endResetModel();
}

const watchlists::Entry& EntriesModel::entry(int row) const
{
    return list().entries.at(static_cast<std::size_t>(row));
}

const EntryTold& EntriesModel::told(int row) const
{
    return shown_->told.entries.at(static_cast<std::size_t>(row));
}

std::optional<std::size_t> EntriesModel::stock(int row) const
{
    return told(row).result.stock;
}

int EntriesModel::rowOf(std::size_t stock) const
{
    const auto& entries = shown_->told.entries;
    const auto found = std::ranges::find(entries, std::optional(stock),
                                         [](const EntryTold& each) { return each.result.stock; });
    return found == entries.end() ? -1 : static_cast<int>(found - entries.begin());
}

int EntriesModel::rowCount(const QModelIndex& parent) const
{
    return parent.isValid() ? 0 : static_cast<int>(shown_->told.entries.size());
}

int EntriesModel::columnCount(const QModelIndex& parent) const
{
    return parent.isValid() ? 0 : OwnColumns + static_cast<int>(shown_->figures.columns.size());
}

bool EntriesModel::isFigure(int column) const
{
    if (column < OwnColumns)
        return entryColumns[column].isFigure;
    const auto* chosen = chosenColumn(*shown_, column);
    return chosen && chosen->kind != Kind::Text;
}

QVariant EntriesModel::data(const QModelIndex& index, int role) const
{
    if (!checkIndex(index, CheckIndexOption::IndexIsValid))
        return {};
    const auto row = static_cast<std::size_t>(index.row());
    const int column = index.column();
    switch (role) {
    case Qt::DisplayRole:
        return shownText(row, column);
    case Qt::EditRole:
        if (column == Review) {
            const auto day = list().entries[row].page.reviewOn;
            return day ? QVariant(dateOf(*day)) : QVariant(QDate());
        }
        return shownText(row, column);
    case Qt::TextAlignmentRole:
        return QVariant::fromValue(Qt::AlignVCenter |
                                   (isFigure(column) ? Qt::AlignRight : Qt::AlignLeft));
    case Qt::FontRole:
        return column == Symbol ? QVariant(fontOf(Weight::SemiBold)) : QVariant();
    case Qt::ForegroundRole:
        return colour(row, column);
    case Qt::ToolTipRole:
        return tip(row, column);
    case figureRole: {
        const double value = figure(row, column);
        return isMissing(value) ? QVariant() : QVariant(value);
    }
    case signRole:
        return column == Sign ? QVariant(static_cast<int>(list().entries[row].page.sign))
                              : QVariant();
    case planBarRole:
        if (const auto& plan = shown_->told.entries[row].course.plan; column == Plan && plan)
            return QVariant::fromValue(PlanBar{*plan, shown_->told.entries[row].result.price});
        return {};
    default:
        return {};
    }
}

QVariant EntriesModel::colour(std::size_t row, int column) const
{
    const EntryTold& told = shown_->told.entries[row];
    constexpr double shownAsNothing = 0.0005;
    if (column == Gain && std::abs(told.result.gain) >= shownAsNothing)
        return told.result.gain < 0.0 ? look().fall : look().rise;
    if (column != State)
        return {};
    if (told.position.isHeld() && shown_->call && shown_->call->saysLeave)
        return look().caution;
    switch (toneOf(told.course.state())) {
    case Tone::Mark:
        return look().mark;
    case Tone::Rise:
        return look().rise;
    case Tone::Fall:
        return look().fall;
    case Tone::Caution:
        return look().caution;
    case Tone::Soft:
        return look().softInk;
    case Tone::Ink:
        break;
    }
    return {};
}

double EntriesModel::figure(std::size_t row, int column) const
{
    const EntryTold& told = shown_->told.entries[row];
    if (const auto* chosen = chosenColumn(*shown_, column))
        return figureRow(row) && chosen->kind != Kind::Text ? chosen->figures[*figureRow(row)]
                                                            : missing;
    switch (column) {
    case Gain:
        return told.result.gain;
    case PriceThen:
        return isMissing(told.result.priceThen) ? list().entries[row].priceThen
                                                : told.result.priceThen;
    case Price:
        return told.result.price;
    case Highest:
        return told.result.highest;
    case Lowest:
        return told.result.lowest;
    case Days:
        return told.result.stock ? static_cast<double>(told.result.sessions) : missing;
    case Held:
        return told.position.isHeld() ? told.position.shares : missing;
    case Verdict:
        return told.verdict ? static_cast<double>(told.verdict->met()) : missing;
    default:
        return missing;
    }
}

std::optional<std::size_t> EntriesModel::figureRow(std::size_t row) const
{
    return figureRows_.at(row);
}

QString EntriesModel::priceOf(std::size_t row, double price) const
{
    const auto stock = shown_->told.entries[row].result.stock;
    return stock ? priceText(price, *shown_->market, *stock) : numberText(price, Unit::Money, 2);
}

QString EntriesModel::shownText(std::size_t row, int column) const
{
    const watchlists::Entry& entry = list().entries[row];
    const EntryTold& told = shown_->told.entries[row];
    const market::Instrument* stock =
        told.result.stock ? &shown_->market->instrument(*told.result.stock) : nullptr;
    if (const auto* chosen = chosenColumn(*shown_, column))
        return figureRow(row) ? valueText(chosen->figures[*figureRow(row)], chosen->kind,
                                          chosen->unit, chosen->decimals, shown_->market->texts())
                              : QString(missingText);
    switch (column) {
    case Symbol:
        return text(stock ? stock->symbol : entry.symbol);
    case State:
        return stateText(told, shown_->call, shown_->told.day);
    case Gain:
        return signedText(told.result.gain, Unit::Percent, 1);
    case Reason:
        return text(entry.reason);
    case Since:
        return shortDayText(entry.addedOn);
    case NextReport:
        return dayOrNothing(told.nextReport);
    case Review:
        return dayOrNothing(entry.page.reviewOn);
    case Category:
        return text(entry.page.category);
    case Source:
        return entry.source.empty() ? tr("by hand") : text(entry.source);
    case Tags: {
        QStringList tags;
        for (const std::string& tag : entry.page.tags)
            tags << text(tag);
        return tags.join(QStringLiteral(", "));
    }
    case Verdict:
        return told.verdict ? tr("%1 of %2").arg(told.verdict->met()).arg(told.verdict->said.size())
                            : QString();
    case Held:
        return told.position.isHeld() ? numberText(told.position.shares, Unit::Plain, 0)
                                      : QString();
    case Days:
        return told.result.stock ? countText(told.result.sessions) : QString(missingText);
    case PriceThen: // beside the close it must stand on the same footing
    case Price:
    case Highest:
    case Lowest:
        return priceOf(row, figure(row, column));
    case Name:
        return !shown_->market          ? QString()
               : !stock                 ? tr("not in this market")
               : told.result.isDelisted ? tr("%1 (delisted)").arg(text(stock->name))
                                        : text(stock->name);
    default:
        return {};
    }
}

QString EntriesModel::tip(std::size_t row, int column) const
{
    const watchlists::Entry& entry = list().entries[row];
    const EntryTold& told = shown_->told.entries[row];
    const auto& result = told.result;
    const bool isMoved =
        !isMissing(result.priceThen) && std::abs(result.priceThen / entry.priceThen - 1.0) > 1e-9;
    if (column == PriceThen && isMoved)
        return tr("It traded at %1 then; splits since are taken out.")
            .arg(priceText(entry.priceThen, *shown_->market, *result.stock));
    if (column == Symbol && result.stock &&
        shown_->market->instrument(*result.stock).symbol != entry.symbol)
        return tr("It was called %1 when it was added.").arg(text(entry.symbol));
    if (column == Symbol && result.stock)
        return text(shown_->market->instrument(*result.stock).name);
    if (column == State && shown_->market)
        return stateSentence(told, *shown_->market, shown_->call);
    if (column == Plan && told.course.plan) {
        const watchlists::TradePlan& plan = *told.course.plan;
        QStringList levels{tr("Stop %1").arg(priceOf(row, plan.stop)),
                           tr("entry %1").arg(priceOf(row, plan.entry))};
        for (const double target : plan.targets)
            levels << tr("target %1").arg(priceOf(row, target));
        levels << tr("close %1").arg(priceOf(row, result.price));
        return levels.join(QStringLiteral(", "));
    }
    if (column == Sign)
        return signText(entry.page.sign);
    if (column == Verdict && told.verdict)
        return tr("“%1” on %2. %3")
            .arg(text(told.verdict->checklist), shortDayText(told.verdict->on),
                 text(told.verdict->words));
    if (const auto* chosen = chosenColumn(*shown_, column); chosen && chosen->error)
        return text(sentence(*chosen->error));
    return shownText(row, column);
}

QVariant EntriesModel::headerData(int section, Qt::Orientation orientation, int role) const
{
    if (orientation != Qt::Horizontal)
        return {};
    if (role == Qt::TextAlignmentRole)
        return QVariant::fromValue(Qt::AlignVCenter |
                                   (isFigure(section) ? Qt::AlignRight : Qt::AlignLeft));
    if (const auto* chosen = chosenColumn(*shown_, section)) {
        if (role == Qt::DisplayRole)
            return text(chosen->head);
        return role == Qt::ToolTipRole ? QVariant(text(chosen->title)) : QVariant();
    }
    if (section >= OwnColumns)
        return {};
    if (role == Qt::DisplayRole)
        return tr(entryColumns[section].title);
    return role == Qt::ToolTipRole ? QVariant(tr(entryColumns[section].tip)) : QVariant();
}

Qt::ItemFlags EntriesModel::flags(const QModelIndex& index) const
{
    Qt::ItemFlags flags = QAbstractTableModel::flags(index) | Qt::ItemIsDropEnabled;
    if (!index.isValid())
        return flags;
    flags |= Qt::ItemIsDragEnabled;
    flags &= ~Qt::ItemIsDropEnabled; // between rows, not onto one
    const bool isEditable = index.column() < OwnColumns && entryColumns[index.column()].isEditable;
    return isEditable ? flags | Qt::ItemIsEditable : flags;
}

bool EntriesModel::setData(const QModelIndex& index, const QVariant& value, int role)
{
    if (role != Qt::EditRole || !(flags(index) & Qt::ItemIsEditable))
        return false;
    QString typed = value.toString().trimmed();
    if (index.column() == Review)
        typed = value.toDate().toString(Qt::ISODate);
    if (typed != (index.column() == Review
                      ? data(index, Qt::EditRole).toDate().toString(Qt::ISODate)
                      : data(index).toString()))
        Q_EMIT this->typed(entry(index.row()), index.column(), typed);
    return true;
}

QStringList EntriesModel::mimeTypes() const
{
    return {QString::fromLatin1(entriesMimeType), QStringLiteral("text/plain")};
}

QMimeData* EntriesModel::mimeData(const QModelIndexList& indexes) const
{
    std::vector<int> rows;
    for (const QModelIndex& index : indexes)
        if (std::ranges::find(rows, index.row()) == rows.end())
            rows.push_back(index.row());
    std::ranges::sort(rows);
    QStringList symbols;
    QJsonArray entries;
    for (const int row : rows) {
        const watchlists::Entry& dragged = entry(row);
        symbols << shownText(static_cast<std::size_t>(row), Symbol);
        entries << QJsonObject{{QStringLiteral("symbol"), text(dragged.symbol)},
                               {QStringLiteral("on"), text(dragged.addedOn.iso())}};
    }
    auto* data = new QMimeData;
    data->setText(symbols.join(QLatin1Char('\n')));
    const QJsonObject carried{{QStringLiteral("list"), QString::number(list().id)},
                              {QStringLiteral("entries"), entries}};
    data->setData(QString::fromLatin1(entriesMimeType), QJsonDocument(carried).toJson());
    return data;
}

QVariant EntriesModel::sortKey(const QModelIndex& index) const
{
    const auto row = static_cast<std::size_t>(index.row());
    const EntryTold& told = shown_->told.entries[row];
    switch (index.column()) {
    case Sign:
        return list().entries[row].page.sign == watchlists::Sign::None
                   ? QVariant()
                   : QVariant(static_cast<double>(list().entries[row].page.sign));
    case Plan: // how far on its way
        return told.course.plan ? QVariant(placeOn({*told.course.plan, {}}, told.result.price))
                                : QVariant();
    case State:
        return told.course.state() == watchlists::PlanState::None
                   ? QVariant()
                   : QVariant(static_cast<double>(told.course.state()));
    case Since:
        return static_cast<double>(list().entries[row].addedOn.serial());
    case NextReport:
        return told.nextReport ? QVariant(static_cast<double>(told.nextReport->serial()))
                               : QVariant();
    case Review: {
        const auto day = list().entries[row].page.reviewOn;
        return day ? QVariant(static_cast<double>(day->serial())) : QVariant();
    }
    default:
        break;
    }
    if (isFigure(index.column())) {
        const double value = figure(row, index.column());
        return isMissing(value) ? QVariant() : QVariant(value);
    }
    const QString words = shownText(row, index.column()).toLower();
    return words.isEmpty() ? QVariant() : QVariant(words);
}

bool EntriesOrder::lessThan(const QModelIndex& a, const QModelIndex& b) const
{
    const auto* entries = static_cast<const EntriesModel*>(sourceModel());
    const QVariant left = entries->sortKey(a);
    const QVariant right = entries->sortKey(b);
    if (!left.isValid() || !right.isValid()) // missing ones stand last both ways
        return left.isValid() == (sortOrder() == Qt::AscendingOrder) &&
               left.isValid() != right.isValid();
    if (left.typeId() == QMetaType::Double)
        return left.toDouble() < right.toDouble();
    return left.toString().localeAwareCompare(right.toString()) < 0;
}

std::optional<DraggedEntries> entriesIn(const QMimeData& data)
{
    const QByteArray bytes = data.data(QString::fromLatin1(entriesMimeType));
    if (bytes.isEmpty())
        return std::nullopt;
    const QJsonObject carried = QJsonDocument::fromJson(bytes).object();
    DraggedEntries dragged{carried.value(QLatin1String("list")).toString().toLongLong(), {}};
    for (const QJsonValue& each : carried.value(QLatin1String("entries")).toArray()) {
        const auto on = Day::parse(utf8(each[QLatin1String("on")].toString()));
        if (on)
            dragged.entries.push_back({utf8(each[QLatin1String("symbol")].toString()), *on});
    }
    return dragged;
}

} // namespace sieve::app
