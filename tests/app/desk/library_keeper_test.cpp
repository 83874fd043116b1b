#include "app/desk/library_keeper.h"

#include "core/library/settings.h"
#include "tests/app/window_bench.h"

#include <QSignalSpy>
#include <algorithm>
#include <catch2/catch.hpp>

namespace sieve::app {

using test::OwnFolder;

TEST_CASE("Library keeper: does its work in order, and all of it before it ends", "[app]")
{
    const OwnFolder own;
    const auto file = own.path() / "library.sqlite";
    std::vector<int> order;
    {
        LibraryKeeper keeper(file, nullptr);
        keeper.start();
        for (int i = 0; i < 50; ++i)
            keeper.enqueue([i, &order](library::Library& library) {
                order.push_back(i);
                library::setSetting(library, "last", std::to_string(i));
            });
    }
    CHECK(order.size() == 50);
    CHECK(std::is_sorted(order.begin(), order.end()));
    const auto again = library::Library::open(file);
    CHECK(library::settings(*again.library).at("last") == "49");
}

TEST_CASE("Library keeper: one piece of work that fails does not stop the rest", "[app]")
{
    LibraryKeeper keeper({}, nullptr);
    const QSignalSpy failed(&keeper, &LibraryKeeper::failed);
    const QSignalSpy opened(&keeper, &LibraryKeeper::opened);
    keeper.start();
    bool ranOn = false;
    keeper.enqueue([](library::Library& library) { library.database().exec("NO SUCH WORDS"); });
    keeper.enqueue([&ranOn](library::Library&) { ranOn = true; });
    keeper.waitUntilDone();
    QCoreApplication::processEvents();
    CHECK(ranOn);
    CHECK(opened.count() == 1); // whoever connects before the start hears it
    REQUIRE(failed.count() == 1);
    CHECK(failed.first().first().toString().contains(QStringLiteral("could not be saved")));
}

} // namespace sieve::app
