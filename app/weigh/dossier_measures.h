#pragma once

#include <QFont>

namespace sieve::app {

/// How large what stands on a dossier's page is.
struct DossierMeasures {
    static constexpr int margin = 14;

    static QFont wordsFont();
    static QFont smallFont();
    static int rowHeight();
    static int partHeight();
    static int titleHeight();
    static int dayWidth();    ///< of an event's day
    static int answerWidth(); ///< of the sign before a question
    static int figureWidth(); ///< of what stands behind a question
    static int moveWidth();   ///< of an event's move
};

} // namespace sieve::app
