#pragma once

#include <QByteArray>
#include <QString>

class QWidget;

namespace sieve::app {

/// Asks for a file for a chart's picture; empty where none was chosen.
QString pictureFileAsked(QWidget* parent);

/// Writes a picture; a file of that name is as it was until all is written. Says whether it could:
/// not where there is nothing to write. Threads: any.
bool writePicture(const QString& file, const QByteArray& picture);

/// Whether the file's ending says that it is drawn in lines, not in pixels.
bool isSvg(const QString& file);
bool isPdf(const QString& file); ///< a page

} // namespace sieve::app
