#include "core/expressions/vocabulary.h"
#include "core/intake/price_layout.h"
#include "core/screens/screen.h"

#include <cstdint>

// Everything that a person may write as TOML: mappings, screens, fields.

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size)
{
    using namespace sieve;
    const std::string_view text(reinterpret_cast<const char*>(data), size);
    if (const auto layout = intake::layoutFromToml(text))
        if (!(intake::layoutFromToml(intake::toToml(*layout))))
            __builtin_trap(); // what is written can be read
    if (const auto screen = screens::screenFromToml(text))
        (void)screens::toToml(*screen);
    expressions::Vocabulary vocabulary;
    (void)vocabulary.add(text);
    return 0;
}
