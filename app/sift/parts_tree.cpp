#include "app/sift/parts_tree.h"

#include "app/parts/number_text.h"

#include <QObject>
#include <QTreeWidgetItem>

namespace sieve::app {

namespace {

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

} // namespace

void addParts(QTreeWidgetItem* to, const language::Explanation& part,
              const market::TextTable& texts, PartColumns columns)
{
    constexpr int decimals = 4;
    auto* item = new QTreeWidgetItem(to);
    item->setText(columns.part, part.meaning.empty() ? text(part.text)
                                                     : QObject::tr("%1   %2").arg(
                                                           text(part.text), text(part.meaning)));
    item->setToolTip(columns.part, text(part.text));
    item->setText(columns.value, valueText(part.value, part.kind, part.unit, decimals, texts));
    item->setTextAlignment(columns.value, Qt::AlignRight | Qt::AlignVCenter);
    item->setText(columns.from, sourceText(part));
    for (const language::Explanation& each : part.parts)
        addParts(item, each, texts, columns);
}

} // namespace sieve::app
