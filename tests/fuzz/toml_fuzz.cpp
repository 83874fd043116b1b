#include "core/charts/set_up.h"
#include "core/conditions/market_book.h"
#include "core/drawings/drawing.h"
#include "core/intake/price_layout.h"
#include "core/language/own_fields.h"
#include "core/screens/column_sets.h"
#include "core/studies/kept_run.h"
#include "core/studies/study_files.h"
#include "core/watchlists/alert.h"
#include "core/watchlists/entry.h"
#include "core/watchlists/mail_terms.h"
#include "core/watchlists/trading_terms.h"

#include <cstdint>

// Everything that a person may write as TOML: mappings, screens, sets of columns, fields, market
// books, set-ups of charts, drawings, pages of entries, plans, alerts, trading terms.

namespace {

/// What can be read can be written, and comes back the same.
template <class Thing>
void comesBack(std::string_view text, sieve::Result<Thing> (*read)(std::string_view))
{
    if (const auto thing = read(text))
        if (const auto again = read(toToml(*thing)); !again || !(*again == *thing))
            __builtin_trap();
}

} // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size)
{
    using namespace sieve;
    const std::string_view text(reinterpret_cast<const char*>(data), size);
    if (const auto layout = intake::layoutFromToml(text))
        if (!(intake::layoutFromToml(intake::toToml(*layout))))
            __builtin_trap(); // what is written can be read
    if (const auto screen = screens::screenFromToml(text))
        if (const auto again = screens::screenFromToml(screens::toToml(*screen));
            !again || *again != *screen)
            __builtin_trap(); // and comes back the same
    if (const auto sets = screens::columnSetsFromToml(text))
        if (const auto again = screens::columnSetsFromToml(screens::toToml(*sets));
            !again || *again != *sets)
            __builtin_trap();
    if (const auto fields = language::OwnFields::fromToml(text))
        if (!language::OwnFields::fromToml(fields->toToml()))
            __builtin_trap();
    if (const auto book = conditions::bookFromToml(text))
        if (const auto again = conditions::bookFromToml(conditions::toToml(*book));
            !again || *again != *book)
            __builtin_trap();
    if (const auto setUp = charts::setUpFromToml(text))
        if (const auto again = charts::setUpFromToml(charts::toToml(*setUp));
            !again || *again != *setUp)
            __builtin_trap();
    if (const auto drawing = drawings::drawingFromToml(text))
        if (const auto again = drawings::drawingFromToml(drawings::toToml(*drawing));
            !again || *again != *drawing)
            __builtin_trap();
    const auto noScreen = [](std::string_view) { return std::optional<screens::Screen>(); };
    if (const auto question = studies::followingFromToml(text, noScreen))
        if (const auto again = studies::followingFromToml(studies::toToml(*question), noScreen);
            !again || !(*again == *question))
            __builtin_trap();
    if (const auto rule = studies::portfolioFromToml(text, noScreen))
        if (!studies::portfolioFromToml(studies::toToml(*rule), noScreen))
            __builtin_trap(); // a step that is cash forgets what it would hold
    comesBack(text, studies::standingsFromToml);
    comesBack(text, studies::keptRunFromToml);
    comesBack(text, watchlists::entryPageFromToml);
    comesBack(text, watchlists::tradePlanFromToml);
    comesBack(text, watchlists::mailTermsFromToml);
    comesBack(text, watchlists::alertFromToml);
    comesBack(text, watchlists::raisedFromToml);
    comesBack(text, watchlists::tradingTermsFromToml);
    return 0;
}
