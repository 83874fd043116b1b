#include "tests/app/opened.h"
#include "tests/app/pictures.h"

#include "app/desk/mail_dialog.h"
#include "app/desk/mail_keeper.h"
#include "app/lists/read_list_dialog.h"
#include "app/lists/review_view.h"
#include "app/market/brief_view.h"
#include "app/parts/actions.h"
#include "core/briefing/brief_page.h"
#include "core/library/outbox.h"

#include <QAction>
#include <QComboBox>

// The brief over a week and over a dull day, and the dialogs of mail and of lists from files.

namespace sieve::test {

void takeBrief(const QDir& folder)
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite", wholeDemoDataset());
    bench.go("lists");
    fillLists(bench);
    bench.desk->work().edit(QStringLiteral("test"), [&](app::Work& work) {
        screens::Screen screen = *work.screen;
        screen.name = "Pullback in an uptrend, mine";
        keepScreen(work, screen, bench.desk->work().newId());
    });
    bench.go("market");
    bench.pressCtrl(Qt::Key_B);
    bench.settle();
    take(bench, folder, "brief_day");
    auto* since = bench.find<QComboBox>(QStringLiteral("Since when"));
    since->setCurrentIndex(since->findText(QStringLiteral("a month ago")));
    Q_EMIT since->activated(since->currentIndex());
    bench.settle();
    take(bench, folder, "brief");
    bench.window->resize(1024, 700);
    bench.settle();
    take(bench, folder, "brief_small");
    const auto& brief = *bench.window->findChild<app::BriefView*>()->brief();
    QFile page(folder.filePath(QStringLiteral("brief.html")));
    if (page.open(QIODevice::WriteOnly))
        page.write(QByteArray::fromStdString(briefing::pageOf(brief)));
    QFile::remove(folder.filePath(QStringLiteral("brief.pdf"))); // else it is asked about
    inOpened<QFileDialog>(
        bench, [&] { app::findAction(*bench.window, app::ActionId::SaveBrief)->trigger(); },
        [&](QFileDialog& dialog) {
            choose(dialog, folder.filePath(QStringLiteral("brief.pdf")).toStdString());
        });
    bench.desk->work().edit(QStringLiteral("test"), [](app::Work& work) {
        work.mail = watchlists::MailTerms{.to = "ana@example.org", .columns = "Trend and strength"};
    });
    bench.desk->mail().writeNow();
    const auto outbox = library::outboxOf(bench.desk->keeper().file());
    waitUntil([&] { return std::filesystem::exists(outbox); }, "a mail");
    bench.desk->keeper().waitUntilDone();
    std::filesystem::copy(outbox, folder.filePath(QStringLiteral("outbox")).toStdString(),
                          std::filesystem::copy_options::overwrite_existing |
                              std::filesystem::copy_options::recursive);
    bench.window->resize(1280, 800);
    bench.go("lists");
    app::findAction(*bench.window, app::ActionId::ShowReview)->trigger();
    bench.settle();
    buttonOf<QPushButton>(*bench.window->findChild<app::ReviewView*>(),
                          QStringLiteral("&Wall of these cases"))
        ->click();
    bench.settle();
    take(bench, folder, "review_wall");
    app::MailDialog mail(*bench.desk->work().now().mail, {}, QStringLiteral("/home/ana/library"),
                         bench.window.get());
    mail.show();
    bench.settle();
    mail.grab().save(folder.filePath(QStringLiteral("brief_mail.png")));
    watchlists::ListRead read;
    read.entries.resize(32);
    read.unknown = 1;
    read.notes = {{1, "the column “Mood” is not known and is passed over"},
                  {4, "“soon” is no day such as 2025-03-14"},
                  {9, "no symbol stands in this row", true},
                  {12, "QXZ is not in this market; it is kept"}};
    app::ReadListDialog dialog(bench.desk->work().now(), QStringLiteral("harbours"), read, 0,
                               bench.window.get());
    dialog.show();
    bench.settle();
    dialog.grab().save(folder.filePath(QStringLiteral("lists_read.png")));
}

} // namespace sieve::test
