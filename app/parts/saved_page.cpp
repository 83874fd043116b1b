#include "app/parts/saved_page.h"

#include "app/look/look.h"
#include "app/parts/number_text.h"
#include "core/exports/page.h"

#include <QPdfWriter>
#include <QSaveFile>
#include <QTextDocument>

namespace sieve::app {

namespace {

constexpr int dotsOfPage = 96; ///< the page is laid out in pixels of this size, an inch

} // namespace

std::string familyOfWindow()
{
    return "'" + utf8(fontOf(Weight::Regular).family()) + "',Inter,sans-serif";
}

void fillForPaper(QTextDocument& document, const SavedPage& page)
{
    document.setDefaultFont(fontOf(Weight::Regular));
    document.setHtml(text(page.body));
}

QString savePage(const QString& path, const SavedPage& page)
{
    QSaveFile file(path);
    if (!file.open(QIODevice::WriteOnly))
        return file.errorString();
    if (path.endsWith(QLatin1String(".html"), Qt::CaseInsensitive)) {
        file.write(QByteArray::fromStdString(exports::pageOf(utf8(page.title), page.body)));
    } else {
        QPdfWriter writer(&file);
        writer.setTitle(page.title);
        writer.setPageSize(QPageSize(QPageSize::A4));
        writer.setResolution(dotsOfPage);
        QTextDocument document;
        fillForPaper(document, page);
        document.print(&writer);
    }
    return file.commit() ? QString() : file.errorString();
}

} // namespace sieve::app
