#include "core/language/leaf_fields.h"

#include <algorithm>
#include <array>

namespace sieve::language {

using engine::Op;

namespace {

using market::BarField;
using market::TextField;

constexpr std::array leaves{
    LeafField{"open", Op::BarColumn, BarField::Open},
    LeafField{"high", Op::BarColumn, BarField::High},
    LeafField{"low", Op::BarColumn, BarField::Low},
    LeafField{"close", Op::BarColumn, BarField::Close},
    LeafField{"volume", Op::BarColumn, BarField::Volume},
    LeafField{"total_return", Op::TotalReturn},
    LeafField{"symbol", Op::Symbol},
    LeafField{"name", Op::TextField, {}, TextField::Name},
    LeafField{"exchange", Op::TextField, {}, TextField::Exchange},
    LeafField{"kind", Op::TextField, {}, TextField::Kind},
    LeafField{"sector", Op::TextField, {}, TextField::Sector},
    LeafField{"industry", Op::TextField, {}, TextField::Industry},
    LeafField{"currency", Op::TextField, {}, TextField::Currency},
    LeafField{"day", Op::BarDay},
    LeafField{"bars", Op::BarNumber},
    LeafField{"listed_on", Op::ListedOn},
    LeafField{"offer_price", Op::OfferPrice},
    LeafField{"shares_outstanding", Op::SharesOutstanding},
    LeafField{"free_float_shares", Op::FreeFloat},
    LeafField{"short_interest", Op::ShortInterest},
    LeafField{"optionable", Op::Optionable},
    LeafField{"shortable", Op::Shortable},
    LeafField{"report_day", Op::ReportDay},
    LeafField{"next_report", Op::NextReport},
    LeafField{"inside_day", Op::InsideDay},
    LeafField{"outside_day", Op::OutsideDay},
    LeafField{"last", Op::LiveOnly},
    LeafField{"session_open", Op::LiveOnly},
    LeafField{"session_high", Op::LiveOnly},
    LeafField{"session_low", Op::LiveOnly},
    LeafField{"minutes_since_open", Op::LiveOnly},
    LeafField{"no_data", Op::Constant},
};

} // namespace

const LeafField* leafFieldNamed(std::string_view name)
{
    const auto* found = std::ranges::find(leaves, name, &LeafField::name);
    return found == leaves.end() ? nullptr : found;
}

} // namespace sieve::language
