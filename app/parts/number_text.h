#pragma once

#include "core/base/day.h"
#include "core/base/kind.h"
#include "core/market/market.h"

#include <QDate>
#include <QString>

namespace sieve::app {

/// The one place where figures become text. Missing is a dash, never 0.
/// Percent shows 0.05 as "5.0 %"; large money and shares are shortened: "12.4 M". What rounds to
/// nothing has no sign.
QString numberText(double figure, Unit unit, int decimals);
/// As numberText with a sign in front of what is above 0: "+1.2 %".
QString signedText(double figure, Unit unit, int decimals);
QString valueText(double value, Kind kind, Unit unit, int decimals, const market::TextTable& texts);
/// Money in another currency than the market's: "dn 12.4 M", so that figures of a column stay under
/// each other; and what it is in the market's, "dn 12.4 M is vl 3.1 M at the rate of the day".
QString otherMoneyText(double figure, int decimals, const std::string& currency);
/// A price of an instrument, with its currency where that is another than the market's.
QString priceText(double price, const market::Market& market, std::size_t instrument);
QString exchangedText(double figure, double inMarket, int decimals, const std::string& currency,
                      const std::string& marketCurrency);
QString countText(std::size_t count); ///< "12,400"
QDate dateOf(Day day);
Day dayOf(const QDate& date);
QString dayText(Day day);      ///< "Wed 30 Sep 2026"
QString shortDayText(Day day); ///< "30 Sep 2026"
QString text(std::string_view utf8);
std::string utf8(const QString& text);

inline const QChar missingText(0x2013);

} // namespace sieve::app
