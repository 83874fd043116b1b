#include "core/engine/list_members.h"

namespace sieve::engine {

std::vector<market::Member> membersOf(const market::Market& market, const ListMembers& list)
{
    std::vector<market::Member> members;
    for (const auto& stay : list.stays)
        if (const auto found = market.find(stay.symbol, stay.from)) {
            market::Member member{*found};
            member.from = stay.from;
            member.until = stay.until.value_or(member.until);
            members.push_back(member);
        }
    return members;
}

} // namespace sieve::engine
