#pragma once

class QColor;
class QLabel;
class QString;

namespace sieve::app {

/// What a label's text is, said by its colour (window.qss); follows a change of palette by itself.
enum class Tone { Ink, Soft, Mark, Rise, Fall, Caution };

void setTone(QLabel* label, Tone tone);

/// A text as it stands, in a colour, for labels of rich text.
QString coloured(const QString& text, const QColor& colour);

} // namespace sieve::app
