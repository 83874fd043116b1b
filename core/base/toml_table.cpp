#include "core/base/toml_table.h"

#include <sstream>

namespace sieve {

std::string quotedToml(const std::string& text)
{
    std::ostringstream out;
    out << toml::value<std::string>(text);
    return out.str();
}

} // namespace sieve
