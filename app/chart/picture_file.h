#pragma once

#include <QString>
#include <functional>

class QWidget;

namespace sieve::app {

/// Asks for a file and has `save` write a chart's picture to it.
/// Errors: a sentence for the person; empty when it was written, or none was chosen.
QString savePictureAsked(QWidget* parent, const std::function<bool(const QString&)>& save);

/// Whether the file's ending says that it is drawn in lines, not in pixels.
bool isSvg(const QString& file);
bool isPdf(const QString& file); ///< a page

} // namespace sieve::app
