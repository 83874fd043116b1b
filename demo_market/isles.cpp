#include "demo_market/isles.h"

#include <array>
#include <cctype>

namespace sieve::demo_market {

namespace {

constexpr std::array table{
    Industry{"Energy", "Tidal power", "Tidal"},
    Industry{"Energy", "Wind parks", "Windworks"},
    Industry{"Energy", "Grid and cable", "Cable"},
    Industry{"Energy", "Heat storage", "Heat"},
    Industry{"Shipping", "Ferries", "Ferries"},
    Industry{"Shipping", "Cold-chain shipping", "Coldline"},
    Industry{"Shipping", "Ship repair", "Drydock"},
    Industry{"Shipping", "Harbours", "Harbours"},
    Industry{"Food and sea", "Kelp farming", "Kelp"},
    Industry{"Food and sea", "Fisheries", "Fisheries"},
    Industry{"Food and sea", "Dairies", "Dairies"},
    Industry{"Food and sea", "Bakeries and mills", "Mills"},
    Industry{"Materials", "Basalt", "Basalt"},
    Industry{"Materials", "Glass and ceramics", "Glass"},
    Industry{"Materials", "Salt and minerals", "Minerals"},
    Industry{"Machines", "Pumps and turbines", "Pumps"},
    Industry{"Machines", "Winches and cranes", "Winches"},
    Industry{"Machines", "Measuring tools", "Gauges"},
    Industry{"Water", "Desalination", "Clearwater"},
    Industry{"Water", "Water networks", "Mains"},
    Industry{"Health", "Gene clinics", "Clinics"},
    Industry{"Health", "Remedies", "Remedies"},
    Industry{"Health", "Care homes", "Care"},
    Industry{"Health", "Diagnostic kits", "Diagnostics"},
    Industry{"Technology", "Sensor chips", "Sensors"},
    Industry{"Technology", "Design software", "Software"},
    Industry{"Technology", "Data halls", "Datahalls"},
    Industry{"Technology", "Harbour automation", "Automation"},
    Industry{"Leisure", "Reef resorts", "Resorts"},
    Industry{"Leisure", "Sailing schools", "Sailing"},
    Industry{"Leisure", "Theatres and games", "Games"},
    Industry{"Goods and shops", "Wool and clothing", "Wool"},
    Industry{"Goods and shops", "Ship chandlers", "Chandlers"},
    Industry{"Goods and shops", "Home and kitchen", "Household"},
    Industry{"Finance", "Island banks", "Bank"},
    Industry{"Finance", "Reinsurance", "Reinsurance"},
    Industry{"Finance", "Brokers and exchanges", "Brokers"},
    Industry{"Media and post", "Radio and news", "Radio"},
    Industry{"Media and post", "Parcels and post", "Parcels"},
    Industry{"Media and post", "Sea cables", "Seacable"},
    Industry{"Energy", "Seaweed gas", "Biogas"},
    Industry{"Shipping", "Tugs and pilots", "Pilots"},
    Industry{"Shipping", "Containers and crates", "Crates"},
    Industry{"Food and sea", "Oyster beds", "Oysters"},
    Industry{"Food and sea", "Teas and spirits", "Spirits"},
    Industry{"Materials", "Timber and board", "Timber"},
    Industry{"Machines", "Boat engines", "Engines"},
    Industry{"Machines", "Diving gear", "Diving"},
    Industry{"Water", "Storm drains", "Drains"},
    Industry{"Water", "Water testing", "Assays"},
    Industry{"Health", "Animal health", "Vets"},
    Industry{"Health", "Hearing and sight", "Lenses"},
    Industry{"Technology", "Marine radar", "Radar"},
    Industry{"Technology", "Payments software", "Payments"},
    Industry{"Leisure", "Inns and spas", "Inns"},
    Industry{"Leisure", "Regattas and clubs", "Regattas"},
    Industry{"Goods and shops", "Toys and books", "Toys"},
    Industry{"Goods and shops", "Furniture", "Furniture"},
    Industry{"Finance", "Savings houses", "Savings"},
    Industry{"Finance", "Leasing", "Leasing"},
    Industry{"Media and post", "Printing", "Printing"},
    Industry{"Media and post", "Film and stage", "Film"},
};

constexpr std::array<std::string_view, 46> heads{
    "Var",  "Kel",   "Torv",  "Bren", "Skol", "Myr",  "Halv", "Dunn", "Fenn",  "Garv",
    "Ild",  "Jorv",  "Lunn",  "Morv", "Norr", "Oss",  "Pell", "Quil", "Rask",  "Stenn",
    "Tiv",  "Ulv",   "Vesk",  "Wynn", "Yarr", "Zell", "Eld",  "Ark",  "Brack", "Calv",
    "Dorr", "Fjal",  "Grenn", "Hesk", "Krag", "Lomm", "Nesk", "Orv",  "Pryd",  "Runn",
    "Sker", "Tholl", "Umb",   "Ivv",  "Jenn", "Thrav"};
constexpr std::array<std::string_view, 16> tails{"row", "mere",  "holm", "wick", "sund", "ness",
                                                 "and", "eth",   "ock",  "ora",  "une",  "isk",
                                                 "ell", "aster", "ithe", "ova"};

std::string symbolOf(const std::string& name)
{
    std::string symbol;
    for (const char c : name) // consonants first, as in a harbour master's list
        if (std::isalpha(static_cast<unsigned char>(c)) &&
            std::string_view("aeiou").find(static_cast<char>(std::tolower(c))) ==
                std::string_view::npos)
            symbol += static_cast<char>(std::toupper(static_cast<unsigned char>(c)));
    return (symbol + "VXQZ").substr(0, 4);
}

} // namespace

std::span<const Industry> industries()
{
    return table;
}

Register::Entry Register::enter(Dice& dice, std::string_view trade)
{
    std::string stem;
    do { // one throw a statement: the order of throws within one is the compiler's to choose
        stem = heads[dice.below(heads.size())];
        stem += tails[dice.below(tails.size())];
    } while (!stems_.insert(stem).second);
    const std::string like = symbolOf(stem + std::string(trade));
    if (symbols_.insert(like).second)
        return {stem + " " + std::string(trade), like};
    return {stem + " " + std::string(trade), symbol(dice, like)};
}

std::string Register::symbol(Dice& dice, std::string_view like)
{
    std::string symbol(like.substr(0, 4));
    do { // one throw a statement
        const std::size_t place = 1 + dice.below(3);
        symbol[place] = static_cast<char>('A' + static_cast<char>(dice.below(26)));
    } while (!symbols_.insert(symbol).second);
    return symbol;
}

} // namespace sieve::demo_market
