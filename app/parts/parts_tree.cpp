#include "app/parts/parts_tree.h"

#include "app/parts/number_text.h"

#include <QObject>
#include <QTreeWidgetItem>

namespace sieve::app {

namespace {

constexpr int decimals = 4;

/// Where a value comes from: its bar, or what was filed when.
QString sourceText(const language::Explanation& part)
{
    if (part.periodEnd && part.knownOn)
        return QObject::tr("to %1, known %2")
            .arg(shortDayText(*part.periodEnd), shortDayText(*part.knownOn));
    if (part.knownOn)
        return QObject::tr("known %1").arg(shortDayText(*part.knownOn));
    return part.day ? shortDayText(*part.day) : QString();
}

/// What money in another currency is in the market's.
QString worthText(const language::Explanation& part)
{
    if (!part.other || isMissing(part.value))
        return {};
    return isMissing(part.other->inMarket)
               ? QObject::tr("no exchange rate")
               : QStringLiteral("= ") +
                     otherMoneyText(part.other->inMarket, decimals, part.other->marketCurrency);
}

} // namespace

void addParts(QTreeWidgetItem* to, const language::Explanation& part,
              const market::TextTable& texts, PartColumns columns)
{
    auto* item = new QTreeWidgetItem(to);
    item->setText(columns.part, part.meaning.empty() ? text(part.text)
                                                     : QObject::tr("%1   %2").arg(
                                                           text(part.text), text(part.meaning)));
    item->setToolTip(columns.part, text(part.text));
    item->setText(columns.value, valueText(part.value, part.kind, part.unit, decimals, texts));
    if (part.other && !isMissing(part.value))
        item->setText(columns.value, otherMoneyText(part.value, decimals, part.other->currency));
    item->setTextAlignment(columns.value, Qt::AlignRight | Qt::AlignVCenter);
    const QString source = sourceText(part);
    const QString worth = worthText(part);
    item->setText(columns.from, worth.isEmpty() || source.isEmpty()
                                    ? worth + source
                                    : QStringLiteral("%1 · %2").arg(worth, source));
    for (const language::Explanation& each : part.parts)
        addParts(item, each, texts, columns);
}

} // namespace sieve::app
