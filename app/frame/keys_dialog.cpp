#include "app/frame/keys_dialog.h"

#include "app/look/look.h"
#include "app/parts/actions.h"

#include <QCoreApplication>
#include <QDialogButtonBox>
#include <QHBoxLayout>
#include <QTextBrowser>
#include <QVBoxLayout>
#include <array>
#include <utility>
#include <vector>

namespace sieve::app {

namespace {

using Keys = std::vector<std::pair<QString, QString>>; ///< the keys, what they do

QString shown(const QList<QKeySequence>& keys)
{
    QStringList texts;
    for (const QKeySequence& key : keys)
        texts << key.toString(QKeySequence::NativeText);
    return texts.join(QStringLiteral(", "));
}

/// Of a numbered action the first and the last key stand for all.
QString shown(const ActionRow& row)
{
    const QString first = shown(keysOf(row.id));
    return row.count == 1 ? first
                          : QStringLiteral("%1 … %2").arg(first, shown(keysOf(row.id, row.count)));
}

QString what(const ActionRow& row)
{
    if (row.count > 1)
        return QCoreApplication::translate("Actions", row.title)
            .arg(QStringLiteral("1 … %1").arg(row.count));
    return plainTitleOf(row.id).remove(QStringLiteral("…"));
}

Keys keysIn(Within within)
{
    Keys keys;
    for (const ActionRow& row : actionRows())
        if (row.within == within && *row.keys)
            keys.emplace_back(shown(row), what(row));
    for (const KeyNote& note : keyNotes())
        if (note.within == within)
            keys.emplace_back(QLatin1String(note.keys),
                              QCoreApplication::translate("Actions", note.what));
    return keys;
}

QString tableOf(const std::vector<Within>& parts)
{
    QString html = QStringLiteral("<table cellspacing='0' cellpadding='2'>");
    for (const Within within : parts) {
        const Keys keys = keysIn(within);
        if (keys.empty())
            continue;
        html += QStringLiteral("<tr><td colspan='2' style='padding-top:8px'><b>%1</b></td></tr>")
                    .arg(nameOf(within));
        for (const auto& [key, does] : keys)
            html += QStringLiteral("<tr><td style='color:%1; white-space:pre'>%2&nbsp;&nbsp;</td>"
                                   "<td>%3</td></tr>")
                        .arg(look().mark.name(), key.toHtmlEscaped(), does.toHtmlEscaped());
    }
    return html + QStringLiteral("</table>");
}

} // namespace

KeysDialog::KeysDialog(QWidget* parent) : QDialog(parent)
{
    setWindowTitle(tr("Keys"));
    resize(1100, 720);
    const std::array<std::vector<Within>, 3> columns{{
        {Within::Window, Within::Chart, Within::Table, Within::Found},
        {Within::Market, Within::States, Within::Mosaic, Within::Weigh},
        {Within::Sift, Within::Criterion, Within::Lists, Within::ListNames, Within::Entries},
    }};
    auto* line = new QHBoxLayout;
    line->setSpacing(0);
    for (const std::vector<Within>& parts : columns) {
        auto* keys = new QTextBrowser;
        keys->setFrameShape(QFrame::NoFrame);
        keys->setHtml(tableOf(parts));
        line->addWidget(keys);
    }
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    auto* layout = new QVBoxLayout(this);
    layout->addLayout(line, 1);
    layout->addWidget(buttons);
}

} // namespace sieve::app
