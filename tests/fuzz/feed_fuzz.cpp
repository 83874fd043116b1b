#include "core/feed/messages.h"

#include <cmath>
#include <cstdint>

// Lines as a feed or a client sends them, whole or damaged.

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size)
{
    using namespace sieve::feed;
    const std::string_view text(reinterpret_cast<const char*>(data), size);
    const auto read = messageOf(text);
    if (!read)
        return 0;
    if (const auto* bar = std::get_if<Bar>(&*read))
        if (!std::isfinite(bar->open + bar->high + bar->low + bar->close + bar->volume) ||
            bar->low > bar->high || bar->low <= 0.0)
            __builtin_trap(); // what is taken can be a bar
    std::string line = lineOf(*read);
    line.pop_back();
    const auto again = messageOf(line);
    if (!again || !(*again == *read) || line.find('\n') != std::string::npos)
        __builtin_trap(); // what is taken can be told
    return 0;
}
