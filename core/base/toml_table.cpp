#include "core/base/toml_table.h"

#include <sstream>

namespace sieve {

std::string quotedToml(const std::string& text)
{
    // The library's form over several lines cannot hold three quotes in a row, and loses a first
    // line that is empty.
    const bool isPlain = text.find("'''") == std::string::npos &&
                         text.find("\"\"\"") == std::string::npos && !text.starts_with('\n') &&
                         !text.starts_with("\r\n");
    const toml::value<std::string> value(text);
    std::ostringstream out;
    if (isPlain)
        out << value;
    else
        out << toml::toml_formatter{value, toml::format_flags::none};
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
