#include "app/parts/number_text.h"

#include "core/base/missing.h"

#include <QDate>
#include <QLocale>
#include <algorithm>
#include <cmath>

namespace sieve::app {

namespace {

QLocale locale()
{
    return QLocale(QLocale::English);
}

/// Whether what is shown is nothing: a move too small for the decimals has no direction either.
bool isZero(const QString& number)
{
    return std::ranges::none_of(number, [](QChar c) { return c >= u'1' && c <= u'9'; });
}

QString rounded(double figure, int decimals)
{
    const QString number = locale().toString(figure, 'f', decimals);
    return figure < 0.0 && isZero(number) ? locale().toString(0.0, 'f', decimals) : number;
}

} // namespace

QString numberText(double figure, Unit unit, int decimals)
{
    if (isMissing(figure))
        return missingText;
    if (unit == Unit::Percent)
        return rounded(figure * 100.0, decimals) + QStringLiteral(" %");
    const double size = std::fabs(figure);
    if ((unit == Unit::Money || unit == Unit::Shares) && size >= 1e5) {
        const auto [factor, mark] = size >= 1e9   ? std::pair(1e9, "B")
                                    : size >= 1e6 ? std::pair(1e6, "M")
                                                  : std::pair(1e3, "k");
        const double scaled = figure / factor;
        return locale().toString(scaled, 'f', std::fabs(scaled) < 100.0 ? 1 : 0) + QChar(0x00A0) +
               QLatin1String(mark);
    }
    if (unit == Unit::Money && size > 0.0 && size < 1.0 && decimals == 2)
        decimals = 4; // a price below one is traded in finer steps
    return rounded(figure, decimals);
}

QString signedText(double figure, Unit unit, int decimals)
{
    const QString plain = numberText(figure, unit, decimals);
    return figure > 0.0 && !isZero(plain) ? QLatin1Char('+') + plain : plain;
}

QString valueText(double value, Kind kind, Unit unit, int decimals, const market::TextTable& texts)
{
    if (isMissing(value))
        return missingText;
    switch (kind) {
    case Kind::YesNo:
        return value == 1.0 ? QObject::tr("yes") : QObject::tr("no");
    case Kind::Text:
        return text(texts.textOf(value));
    case Kind::Day:
        return shortDayText(Day::fromSerial(static_cast<std::int32_t>(value)));
    case Kind::Number:
        break;
    }
    return numberText(value, unit, decimals);
}

QString otherMoneyText(double figure, int decimals, const std::string& currency)
{
    const QString number = numberText(figure, Unit::Money, decimals);
    return isMissing(figure) ? number : text(currency) + QChar(0x00A0) + number;
}

QString priceText(double price, const market::Market& market, std::size_t instrument)
{
    return market.isInOtherCurrency(instrument)
               ? otherMoneyText(price, 2, market.instrument(instrument).currency)
               : numberText(price, Unit::Money, 2);
}

QString exchangedText(double figure, double inMarket, int decimals, const std::string& currency,
                      const std::string& marketCurrency)
{
    if (isMissing(inMarket))
        return QObject::tr("No exchange rate of %1 to %2 is known on this day: it cannot be "
                           "compared with others.")
            .arg(text(currency), text(marketCurrency));
    return QObject::tr("%1 is %2 at the rate of the day")
        .arg(otherMoneyText(figure, decimals, currency),
             otherMoneyText(inMarket, decimals, marketCurrency));
}

QString countText(std::size_t count)
{
    return locale().toString(static_cast<qulonglong>(count));
}

QDate dateOf(Day day)
{
    return QDate(1970, 1, 1).addDays(day.serial());
}

Day dayOf(const QDate& date)
{
    return Day::fromSerial(static_cast<std::int32_t>(QDate(1970, 1, 1).daysTo(date)));
}

QString dayText(Day day)
{
    return locale().toString(dateOf(day), QStringLiteral("ddd d MMM yyyy"));
}

QString shortDayText(Day day)
{
    return locale().toString(dateOf(day), QStringLiteral("d MMM yyyy"));
}

QString text(std::string_view utf8)
{
    return QString::fromUtf8(utf8.data(), static_cast<qsizetype>(utf8.size()));
}

std::string utf8(const QString& text)
{
    return text.toStdString();
}

} // namespace sieve::app
