#include "app/look/look.h"
#include "tests/catch_runner.h"

#include <QApplication>
#include <QThreadPool>

int main(int count, char** arguments)
{
    qputenv("QT_QPA_PLATFORM", "offscreen");
    QApplication application(count, arguments);
    sieve::app::wear(sieve::app::paperPalette());
    const int status = sieve::test::runTests(count, arguments);
    QThreadPool::globalInstance()->waitForDone();
    return status;
}
