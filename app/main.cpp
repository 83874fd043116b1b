#include "app/desk/desk.h"
#include "app/desk/library_keeper.h"
#include "app/desk/open_market.h"
#include "app/desk/workbench.h"
#include "app/frame/doorbell.h"
#include "app/frame/main_window.h"
#include "app/look/look.h"

#include <QApplication>
#include <QCommandLineParser>
#include <QFileInfo>
#include <QStandardPaths>
#include <QThreadPool>

/// wise-sieve [DATASET]   opens the window, on a dataset if one is named
int main(int count, char** arguments)
{
    QApplication application(count, arguments);
    QApplication::setApplicationName(QStringLiteral("wise-sieve"));
    QApplication::setApplicationVersion(QStringLiteral(SIEVE_VERSION));
    QCommandLineParser parser;
    parser.setApplicationDescription(
        QObject::tr("Reads the market, screens shares, keeps watchlists"));
    parser.addHelpOption();
    parser.addVersionOption();
    parser.addPositionalArgument(QStringLiteral("dataset"),
                                 QObject::tr("Folder of an open dataset"),
                                 QStringLiteral("[dataset]"));
    const QCommandLineOption libraryOption(QStringLiteral("library"),
                                           QObject::tr("Keep lists and screens in this file"),
                                           QStringLiteral("file"));
    parser.addOption(libraryOption);
    parser.process(application);

    sieve::app::wear(sieve::app::paperPalette());
    const QString library =
        parser.isSet(libraryOption)
            ? parser.value(libraryOption)
            : QStandardPaths::writableLocation(QStandardPaths::GenericDataLocation) +
                  QStringLiteral("/wise-sieve/library.sqlite");
    QStringList wanted = parser.positionalArguments();
    for (QString& dataset : wanted) // the window that hears of it may have been started elsewhere
        dataset = QFileInfo(dataset).absoluteFilePath();
    if (sieve::app::Doorbell::ring(library, wanted))
        return 0;
    int status = 0;
    {
        const QString markets =
            QStandardPaths::writableLocation(QStandardPaths::GenericCacheLocation) +
            QStringLiteral("/wise-sieve/markets");
        sieve::app::Desk desk(library.toStdString(), markets.toStdString());
        sieve::app::MainWindow window(desk);
        window.show();
        sieve::app::Doorbell doorbell(library);
        QObject::connect(&doorbell, &sieve::app::Doorbell::rung, &window,
                         &sieve::app::MainWindow::comeForward);
        QObject::connect(&desk.work(), &sieve::app::Workbench::loaded, &doorbell,
                         [&desk, &doorbell] {
                             if (!desk.keeper().isReadOnly())
                                 doorbell.listen();
                         });
        if (!wanted.isEmpty())
            desk.market().keeper().open(wanted.constFirst().toStdString());
        else // what was open last is opened again
            QObject::connect(&desk.work(), &sieve::app::Workbench::loaded, &desk, [&desk] {
                if (const auto recent = desk.market().recentSources(); !recent.empty())
                    desk.market().keeper().open(recent.front());
            });
        status = QApplication::exec();
    }
    QThreadPool::globalInstance()->waitForDone();
    return status;
}
