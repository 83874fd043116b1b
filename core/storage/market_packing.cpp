#include "core/storage/market_packing.h"

namespace sieve::storage {

namespace {

void packMinute(Packer& packer, const std::optional<int>& minute)
{
    packer.add(static_cast<std::int32_t>(minute.value_or(-1)));
}

std::optional<int> unpackMinute(Unpacker& unpacker)
{
    const auto minute = unpacker.read<std::int32_t>();
    return minute < 0 ? std::nullopt : std::optional<int>(minute);
}

} // namespace

void pack(Packer& packer, const market::Instrument& each)
{
    for (const std::string* text : {&each.symbol, &each.name, &each.exchange, &each.sector,
                                    &each.industry, &each.currency, &each.delistedWhy, &each.about})
        packer.add(std::string_view(*text));
    packer.add(each.kind);
    packer.add(each.listedOn);
    packer.add(each.offerPrice);
    packer.add(each.delistedOn);
    packer.add(static_cast<std::uint8_t>(each.optionable));
    packer.add(static_cast<std::uint8_t>(each.shortable));
    packer.add(static_cast<std::uint32_t>(each.formerSymbols.size()));
    for (const market::FormerSymbol& former : each.formerSymbols) {
        packer.add(std::string_view(former.symbol));
        packer.add(former.until);
    }
    packer.add(static_cast<std::uint32_t>(each.memberships.size()));
    for (const market::Membership& stay : each.memberships) {
        packer.add(std::string_view(stay.index));
        packer.add(stay.from);
        packer.add(stay.until);
    }
}

market::Instrument unpackInstrument(Unpacker& unpacker)
{
    market::Instrument each;
    for (std::string* text : {&each.symbol, &each.name, &each.exchange, &each.sector,
                              &each.industry, &each.currency, &each.delistedWhy, &each.about})
        *text = unpacker.readText();
    each.kind = unpacker.read<market::InstrumentKind>();
    each.listedOn = unpacker.readOptionalDay();
    each.offerPrice = unpacker.read<double>();
    each.delistedOn = unpacker.readOptionalDay();
    each.optionable = unpacker.read<std::uint8_t>() != 0;
    each.shortable = unpacker.read<std::uint8_t>() != 0;
    for (std::size_t left = unpacker.readCount(); left > 0 && unpacker.isWhole(); --left) {
        std::string symbol = unpacker.readText();
        each.formerSymbols.push_back({std::move(symbol), unpacker.readDay()});
    }
    for (std::size_t left = unpacker.readCount(); left > 0 && unpacker.isWhole(); --left) {
        market::Membership stay{unpacker.readText(), unpacker.readDay()};
        stay.until = unpacker.readOptionalDay();
        each.memberships.push_back(std::move(stay));
    }
    return each;
}

std::string packed(const market::MarketDescription& description)
{
    Packer packer;
    for (const std::string* text :
         {&description.name, &description.version, &description.currency, &description.benchmark})
        packer.add(std::string_view(*text));
    packer.add(static_cast<std::uint32_t>(description.exchanges.size()));
    for (const market::Exchange& exchange : description.exchanges) {
        packer.add(std::string_view(exchange.name));
        packer.add(std::string_view(exchange.zone));
        packMinute(packer, exchange.opensAt);
        packMinute(packer, exchange.closesAt);
        packer.add(static_cast<std::uint32_t>(exchange.holidays.size()));
        for (const market::Holiday& holiday : exchange.holidays) {
            packer.add(holiday.date);
            packMinute(packer, holiday.closesAt);
        }
    }
    packer.add(static_cast<std::uint32_t>(description.currencies.size()));
    for (const market::Currency& currency : description.currencies) {
        packer.add(std::string_view(currency.name));
        packer.add(static_cast<std::uint32_t>(currency.rates.size()));
        for (const market::ExchangeRate& each : currency.rates) {
            packer.add(each.date);
            packer.add(each.rate);
        }
    }
    return packer.bytes();
}

market::MarketDescription unpackDescription(Unpacker& unpacker)
{
    market::MarketDescription description;
    for (std::string* text :
         {&description.name, &description.version, &description.currency, &description.benchmark})
        *text = unpacker.readText();
    for (std::size_t left = unpacker.readCount(); left > 0 && unpacker.isWhole(); --left) {
        market::Exchange exchange;
        exchange.name = unpacker.readText();
        exchange.zone = unpacker.readText();
        exchange.opensAt = unpackMinute(unpacker);
        exchange.closesAt = unpackMinute(unpacker);
        for (std::size_t days = unpacker.readCount(); days > 0 && unpacker.isWhole(); --days) {
            const Day date = unpacker.readDay();
            exchange.holidays.push_back({date, unpackMinute(unpacker)});
        }
        description.exchanges.push_back(std::move(exchange));
    }
    // A file of a former version ends here.
    for (std::size_t left = unpacker.readCount(); left > 0 && unpacker.isWhole(); --left) {
        market::Currency currency;
        currency.name = unpacker.readText();
        for (std::size_t days = unpacker.readCount(); days > 0 && unpacker.isWhole(); --days) {
            const Day date = unpacker.readDay();
            currency.rates.push_back({date, unpacker.read<double>()});
        }
        description.currencies.push_back(std::move(currency));
    }
    return description;
}

} // namespace sieve::storage
