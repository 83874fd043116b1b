#include "core/charts/set_up.h"
#include "core/conditions/market_book.h"
#include "core/drawings/drawing.h"
#include "core/intake/price_layout.h"
#include "core/language/own_fields.h"
#include "core/screens/column_sets.h"

#include <cstdint>

// Everything that a person may write as TOML: mappings, screens, sets of columns, fields, market
// books, set-ups of charts, drawings.

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
    return 0;
}
