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
};

constexpr std::array<std::string_view, 28> heads{
    "Var", "Kel",  "Torv", "Bren", "Skol", "Myr",  "Halv", "Dunn", "Fenn", "Garv",
    "Ild", "Jorv", "Lunn", "Morv", "Norr", "Oss",  "Pell", "Quil", "Rask", "Stenn",
    "Tiv", "Ulv",  "Vesk", "Wynn", "Yarr", "Zell", "Eld",  "Ark"};
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
    Entry entry{stem + " " + std::string(trade), symbolOf(stem + std::string(trade))};
    while (!symbols_.insert(entry.symbol).second)
        entry.symbol[1 + dice.below(3)] =
            static_cast<char>('A' + static_cast<char>(dice.below(26)));
    return entry;
}

} // namespace sieve::demo_market
