#include "core/base/toml_table.h"

#include <sstream>

namespace sieve {

std::string quotedToml(const std::string& text)
{
    std::ostringstream out;
    out << toml::value<std::string>(text);
    return out.str();
}

std::string quotedToml(std::span<const std::string> texts)
{
    std::vector<std::string> quoted;
    for (const std::string& text : texts)
        quoted.push_back(quotedToml(text));
    return fmt::format("[{}]", fmt::join(quoted, ", "));
}

} // namespace sieve
