#include "app/desk/mail_dialog.h"
#include "app/desk/mail_keeper.h"
#include "app/lists/lists_place.h"
#include "app/market/brief_view.h"
#include "app/parts/actions.h"
#include "app/parts/number_text.h"
#include "app/parts/saved_page.h"
#include "core/briefing/brief_page.h"
#include "core/library/outbox.h"
#include "core/library/settings.h"
#include "core/watchlists/stocks.h"
#include "tests/app/opened.h"

#include <QCheckBox>
#include <QComboBox>
#include <QLineEdit>
#include <QTextBrowser>
#include <algorithm>
#include <catch2/catch.hpp>

// What changed, read in the morning and told in the evening.

namespace sieve::app {

namespace {

using namespace test;
using briefing::Lead;
namespace fs = std::filesystem;

/// Lists with plans of some weeks ago, of which states came of.
void fill(const WindowBench& bench)
{
    const market::Market& market = bench.desk->market().data();
    const auto sessions = market.sessions();
    const Day then = sessions[sessions.size() - 40];
    bench.desk->work().edit(QStringLiteral("fill"), [&](Work& work) {
        watchlists::Watchlist list{bench.desk->work().newId(), "Quay", {}};
        for (std::size_t stock = 0; stock < 30; ++stock) {
            if (market.isIndex(stock) || !market.isListed(stock, then))
                continue;
            const double close = watchlists::priceOn(market, stock, then);
            watchlists::Entry entry{market::symbolOn(market.instrument(stock), then), then, close};
            entry.plan = watchlists::TradePlan{then, 1.04 * close, 0.93 * close};
            list.entries.push_back(entry);
        }
        screens::Screen screen = *work.screen;
        screen.name = "Mine";
        keepScreen(work, screen, bench.desk->work().newId());
        work.lists = {list, watchlists::Watchlist{
                                bench.desk->work().newId(), "Kept", {}, {}, {.screen = "Mine"}}};
    });
    bench.settle();
}

BriefView& openBrief(const WindowBench& bench)
{
    bench.go("market");
    bench.pressCtrl(Qt::Key_B);
    bench.settle();
    auto* view = bench.window->findChild<BriefView*>();
    REQUIRE(view->isVisible());
    waitUntil([view] { return view->brief().has_value(); }, "the brief");
    return *view;
}

void since(const WindowBench& bench, const QString& words)
{
    auto* span = bench.find<QComboBox>(QStringLiteral("Since when"));
    int at = 0;
    while (at < span->count() && !span->itemText(at).startsWith(words))
        ++at;
    REQUIRE(at < span->count());
    span->setCurrentIndex(at);
    Q_EMIT span->activated(at);
    bench.settle();
}

/// The address of the first line that leads to such a thing.
QUrl addressOf(const briefing::Brief& brief, Lead::To to)
{
    for (std::size_t part = 0; part < brief.parts.size(); ++part)
        for (std::size_t line = 0; line < brief.parts[part].lines.size(); ++line)
            if (brief.parts[part].lines[line].lead.to == to)
                return QUrl(QStringLiteral("line:%1.%2").arg(part).arg(line));
    throw std::runtime_error("no such line");
}

} // namespace

TEST_CASE("Brief: one key opens it, each line leads to its thing", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    fill(bench);
    const BriefView& view = openBrief(bench);
    since(bench, QStringLiteral("a month ago"));
    const briefing::Brief brief = *view.brief();
    CHECK(brief.day == bench.desk->focus().day());
    auto* page = bench.find<QTextBrowser>(QStringLiteral("The brief"));
    CHECK(page->toPlainText().contains(text(briefing::titleOf(brief))));
    for (const briefing::Part& part : brief.parts)
        CHECK(page->toPlainText().contains(text(part.lines.front().words)));

    // It follows the palette.
    const QString light = page->toHtml();
    findAction(*bench.window, ActionId::DarkPalette)->trigger();
    bench.settle();
    CHECK(page->toHtml() != light);
    findAction(*bench.window, ActionId::LightPalette)->trigger();
    bench.settle();

    const auto follow = [&](Lead::To to) {
        bench.go("market");
        Q_EMIT page->anchorClicked(addressOf(brief, to));
        bench.settle();
    };
    follow(Lead::To::Stock);
    CHECK(bench.window->place(QStringLiteral("lists"))->isVisible());
    const std::string symbol = [&] {
        for (const briefing::Part& part : brief.parts)
            for (const briefing::Line& line : part.lines)
                if (line.lead.to == Lead::To::Stock)
                    return line.lead.name;
        return std::string();
    }();
    CHECK(bench.desk->market().data().instrument(*bench.desk->focus().selected()).symbol == symbol);
    follow(Lead::To::Screen);
    CHECK(bench.window->place(QStringLiteral("sift"))->isVisible());
    CHECK(bench.desk->work().now().screen->name == "Mine");
    follow(Lead::To::Group); // leads back to the board, where the group is drawn
    CHECK_FALSE(view.isVisible());
    bench.pressCtrl(Qt::Key_B);
    bench.settle();
    CHECK(view.isVisible());
    follow(Lead::To::Market);
    CHECK_FALSE(view.isVisible());
    bench.pressCtrl(Qt::Key_B);
    bench.settle();
    QTest::keyClick(page, Qt::Key_Escape);
    CHECK_FALSE(view.isVisible());
}

TEST_CASE("Brief: the next one tells since this one was read", "[app]")
{
    const OwnFolder own;
    std::string read;
    {
        const WindowBench bench(own.path() / "library.sqlite");
        const BriefView& view = openBrief(bench);
        const auto sessions = bench.desk->market().data().sessions();
        CHECK(view.brief()->since == sessions[sessions.size() - 2]); // none was read before
        read = view.brief()->day.iso();
        // Looking back is no reading of the newest.
        bench.desk->focus().stepSessions(-3);
        bench.settle();
        CHECK(view.brief()->day == sessions[sessions.size() - 4]);
        CHECK(bench.desk->settings().value("brief.read/" +
                                           bench.desk->market().data().description().name) == read);
        bench.desk->focus().goToLatest();
        bench.settle();
    }
    const WindowBench bench(own.path() / "library.sqlite");
    const std::string market = bench.desk->market().data().description().name;
    CHECK(bench.desk->settings().value("brief.read/" + market) == read);
    // As if it had been read a week ago.
    const auto sessions = bench.desk->market().data().sessions();
    bench.desk->settings().set("brief.read/" + market, sessions[sessions.size() - 6].iso());
    const BriefView& view = openBrief(bench);
    CHECK(view.brief()->since == sessions[sessions.size() - 6]);
    // Read again on the same day it still tells since then.
    bench.pressCtrl(Qt::Key_B);
    bench.pressCtrl(Qt::Key_B);
    bench.settle();
    CHECK(view.brief()->since == sessions[sessions.size() - 6]);
}

TEST_CASE("Brief: saved as PDF, HTML and text", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    fill(bench);
    BriefView& view = openBrief(bench);
    since(bench, QStringLiteral("a month ago"));
    const auto save = [&](const fs::path& file) {
        inOpened<QFileDialog>(
            bench, [&] { findAction(view, ActionId::SaveBrief)->trigger(); },
            [&](QFileDialog& dialog) { choose(dialog, file); });
    };
    save(own.path() / "brief.pdf");
    CHECK(own.read("brief.pdf").starts_with("%PDF"));
    save(own.path() / "brief.html");
    briefing::PageStyle style;
    style.look.font = familyOfWindow();
    CHECK(own.read("brief.html") == briefing::pageOf(*view.brief(), style));
    save(own.path() / "brief.txt");
    CHECK(own.read("brief.txt") == briefing::textOf(*view.brief()));
    save(own.path() / "nowhere" / "brief.txt");
    CHECK(bench.window->noticeText().contains(QStringLiteral("could not be saved")));
}

TEST_CASE("Mail: wanted once, written once an evening, never without an address", "[app]")
{
    const OwnFolder own;
    const fs::path library = own.path() / "library.sqlite";
    const fs::path outbox = library::outboxOf(library);
    const auto mails = [&] {
        return fs::exists(outbox) ? std::distance(fs::directory_iterator(outbox), {}) : 0;
    };
    {
        const WindowBench bench(library);
        fill(bench);
        answerNext<MailDialog>(bench, [](MailDialog& dialog) {
            auto* to = dialog.findChild<QLineEdit*>();
            to->setText(QStringLiteral("ana@example.org, b@example.org"));
            accept(dialog);
            CHECK(dialog.isVisible()); // two addresses are a fault
            to->setText(QStringLiteral("ana@example.org"));
            auto* columns = dialog.findChild<QComboBox*>();
            columns->setCurrentIndex(1);
            accept(dialog);
        });
        findAction(*bench.window, ActionId::MailTerms)->trigger();
        bench.settle();
        CHECK(bench.desk->work().now().mail->to == "ana@example.org");
        waitUntil([&] { return mails() == 1; }, "the mail");
        bench.settle();
        // Another wish does not write the same evening's again.
        bench.desk->work().edit(QStringLiteral("test"),
                                [](Work& work) { work.mail.edit().hasAlerts = false; });
        bench.settle();
        bench.desk->keeper().waitUntilDone();
        bench.settle();
        CHECK(mails() == 1);
        const std::string file =
            own.read(fs::relative(fs::directory_iterator(outbox)->path(), own.path()).string());
        CHECK_THAT(file, Catch::Contains("To: ana@example.org") &&
                             Catch::Contains("multipart/alternative") &&
                             Catch::Contains("Brief of "));
        fs::remove_all(outbox); // sent
    }
    const WindowBench bench(library); // the same evening once more
    bench.settle();
    bench.desk->keeper().waitUntilDone();
    bench.settle();
    CHECK(mails() == 0);
    // Asked for on an evening on which none was wanted, it tells since the last mail, so that the
    // days between are told once.
    const auto sessions = bench.desk->market().data().sessions();
    const std::string market = bench.desk->market().data().description().name;
    const Day last = sessions[sessions.size() - 9];
    bench.desk->keeper().enqueue(
        [&](library::Library& opened) { setSetting(opened, "mailed_to/" + market, last.iso()); });
    bench.desk->mail().writeNow();
    waitUntil([&] { return mails() == 1; }, "the mail");
    CHECK_THAT(own.read(fs::relative(fs::directory_iterator(outbox)->path(), own.path()).string()),
               Catch::Contains("what changed since " + exports::dayInWords(last)));
    bench.desk->work().undoStack().undo();
    bench.desk->work().edit(QStringLiteral("test"), [](Work& work) { work.mail.edit().to = ""; });
    bench.settle();
    fs::remove_all(outbox);
    bench.desk->mail().writeNow();
    bench.settle();
    CHECK(mails() == 0);
    CHECK(bench.window->noticeText().contains(QStringLiteral("No mail was written")));
}

} // namespace sieve::app
