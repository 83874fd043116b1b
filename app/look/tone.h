#pragma once

class QLabel;

namespace sieve::app {

/// What a label's text is, said by its colour (window.qss); follows a change of palette by itself.
enum class Tone { Ink, Soft, Mark, Rise, Fall, Caution };

void setTone(QLabel* label, Tone tone);

} // namespace sieve::app
