#include "app/chart/picture_file.h"

#include <QDir>
#include <QFileDialog>
#include <QObject>
#include <QSaveFile>

namespace sieve::app {

QString pictureFileAsked(QWidget* parent)
{
    return QFileDialog::getSaveFileName(parent, QObject::tr("Save the picture"),
                                        QDir::home().filePath(QStringLiteral("chart.png")),
                                        QObject::tr("Pictures (*.png *.svg *.pdf)"));
}

bool writePicture(const QString& file, const QByteArray& picture)
{
    QSaveFile out(file);
    return !picture.isEmpty() && out.open(QIODevice::WriteOnly) &&
           out.write(picture) == picture.size() && out.commit();
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
