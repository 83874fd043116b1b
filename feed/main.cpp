#include "core/intake/take_in.h"
#include "feed/feed_server.h"

#include <CLI/CLI.hpp>
#include <QCoreApplication>
#include <QTimer>
#include <csignal>
#include <fmt/format.h>

// wise-sieve-feed: replays a session of a market to all who connect. Ends with 0 when told to
// (SIGINT, SIGTERM), 1 when the market was at fault or nothing could be listened on, 2 on wrong
// use. See docs/feed-protocol.md.

namespace {

using namespace sieve;

struct Options {
    std::string market;
    std::optional<Day> session;
    std::string address = "127.0.0.1";
    int port = 0;
    int speed = 1;
    bool isPaused = false;
    bool mayBeHeardElsewhere = false;
    feed::Disturbances disturbances;
};

/// The newest session of which some instrument has minutes.
Day newestSession(const market::Market& market)
{
    Day newest = market.sessions().front();
    for (std::size_t i = 0; i < market.size(); ++i)
        if (const auto& bars = market.minuteBars(i); bars.size() > 0) {
            const market::Exchange* exchange = market.exchange(market.instrument(i).exchange);
            const Minute last = bars.minutes.back();
            newest = std::max(newest, exchange ? market::localDay(*exchange, last) : last.day());
        }
    return newest;
}

int fail(const std::string& why)
{
    fmt::print(stderr, "wise-sieve-feed: {}\n", why);
    return 1;
}

volatile std::sig_atomic_t isLeaving = 0;

void leave(int)
{
    isLeaving = 1;
}

int serve(const Options& options)
{
    const QHostAddress address(QString::fromStdString(options.address));
    if (address.isNull())
        return fail(fmt::format("'{}' is no address", options.address));
    if (!address.isLoopback() && !options.mayBeHeardElsewhere)
        return fail(fmt::format("{} can be reached from other machines; say --open if it may",
                                options.address));
    std::signal(SIGINT, leave);
    std::signal(SIGTERM, leave);
    const auto opened = intake::openFolder(options.market);
    if (!opened)
        return fail(sentence(opened.error()));
    auto tape = feed::SessionTape::of(
        opened->market, options.session.value_or(newestSession(*opened->market)),
        options.disturbances);
    if (!tape)
        return fail(sentence(tape.error()));
    feed::Replay replay(*std::move(tape), std::to_string(QCoreApplication::applicationPid()));
    replay.setSpeed(options.speed);
    replay.setPaused(options.isPaused);
    FeedServer server(std::move(replay));
    const auto port = static_cast<quint16>(options.port);
    if (const QString why = server.listen(address, port); !why.isEmpty())
        return fail(fmt::format("cannot listen on {}, port {}: {}", options.address, options.port,
                                why.toStdString()));
    fmt::print("listening on {} {}\n", options.address, server.port());
    std::fflush(stdout);
    QTimer look; // nothing else may be done in a signal
    QObject::connect(&look, &QTimer::timeout, [] {
        if (isLeaving != 0)
            QCoreApplication::quit();
    });
    look.start(100);
    return QCoreApplication::exec();
}

} // namespace

int main(int count, char** arguments)
{
    QCoreApplication application(count, arguments);
    Options options;
    std::string session;
    CLI::App app("Replays a session of a market as bars of minutes and last prices, as JSON lines");
    app.add_option("--market", options.market, "Folder of a market that was taken in")->required();
    app.add_option("--session", session, "Day; without, the newest one with minutes")
        ->check([](const std::string& text) {
            return Day::parse(text) ? std::string() : "'" + text + "' is not a day such as 2025-03-14";
        });
    app.add_option("--speed", options.speed, "Times as fast as the day was")
        ->check(CLI::Range(1, feed::fastest));
    app.add_flag("--paused", options.isPaused, "Wait until a client says go");
    app.add_option("--port", options.port, "0: any that is free; it is told on the first line")
        ->check(CLI::Range(0, 65535));
    app.add_option("--address", options.address, "To listen on; an IP address of this machine");
    app.add_flag("--open", options.mayBeHeardElsewhere, "Other machines may connect");
    app.add_option("--late", options.disturbances.late, "Of 10,000 bars so many come late")
        ->check(CLI::Range(0, 5'000));
    app.add_option("--corrected", options.disturbances.corrected,
                   "Of 10,000 bars so many are wrong at first")
        ->check(CLI::Range(0, 5'000));
    try {
        app.parse(count, arguments);
    } catch (const CLI::ParseError& wrong) {
        return app.exit(wrong) == 0 ? 0 : 2;
    }
    options.session = Day::parse(session);
    return serve(options);
}
