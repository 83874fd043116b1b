#include "core/language/reference.h"

#include <cstdio>
#include <string_view>

// wise-sieve-reference fields|functions   writes a page of the language's reference.

int main(int count, char** arguments)
{
    using namespace sieve::language;
    const std::string_view page = count == 2 ? arguments[1] : "";
    if (page == "fields")
        std::fputs(fieldReference(Vocabulary::builtIn()).c_str(), stdout);
    else if (page == "functions")
        std::fputs(functionReference(Vocabulary::builtIn()).c_str(), stdout);
    else
        return 2;
    return 0;
}
