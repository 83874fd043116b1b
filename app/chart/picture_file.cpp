#include "app/chart/picture_file.h"

#include <QDir>
#include <QFileDialog>
#include <QObject>

namespace sieve::app {

QString savePictureAsked(QWidget* parent, const std::function<bool(const QString&)>& save)
{
    const QString file = QFileDialog::getSaveFileName(
        parent, QObject::tr("Save the picture"), QDir::home().filePath(QStringLiteral("chart.png")),
        QObject::tr("Pictures (*.png *.svg *.pdf)"));
    if (file.isEmpty() || save(file))
        return {};
    return QObject::tr("The picture could not be written to %1. Choose a folder that may be "
                       "written to.")
        .arg(file);
}

bool isSvg(const QString& file)
{
    return file.endsWith(QLatin1String(".svg"), Qt::CaseInsensitive);
}

bool isPdf(const QString& file)
{
    return file.endsWith(QLatin1String(".pdf"), Qt::CaseInsensitive);
}

} // namespace sieve::app
