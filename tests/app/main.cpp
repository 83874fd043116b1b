#define CATCH_CONFIG_RUNNER
#include <catch2/catch.hpp>

#include "app/look/look.h"

#include <QApplication>
#include <QThreadPool>

int main(int count, char** arguments)
{
    qputenv("QT_QPA_PLATFORM", "offscreen");
    QApplication application(count, arguments);
    sieve::app::wear(sieve::app::paperPalette());
    const int status = Catch::Session().run(count, arguments);
    QThreadPool::globalInstance()->waitForDone();
    return status;
}
