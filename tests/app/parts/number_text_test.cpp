#include "app/parts/number_text.h"

#include "app/look/palette.h"
#include "core/base/missing.h"

#include <catch2/catch.hpp>
#include <cmath>

namespace sieve::app {

namespace {

std::string shown(double figure, Unit unit, int decimals)
{
    return numberText(figure, unit, decimals).toStdString();
}

double luminance(const QColor& colour)
{
    const auto part = [](double value) {
        return value <= 0.03928 ? value / 12.92 : std::pow((value + 0.055) / 1.055, 2.4);
    };
    return 0.2126 * part(colour.redF()) + 0.7152 * part(colour.greenF()) +
           0.0722 * part(colour.blueF());
}

double contrast(const QColor& a, const QColor& b)
{
    const double light = std::max(luminance(a), luminance(b));
    const double dark = std::min(luminance(a), luminance(b));
    return (light + 0.05) / (dark + 0.05);
}

} // namespace

TEST_CASE("Counts and days: as everywhere in the window", "[app]")
{
    CHECK(countText(0) == QStringLiteral("0"));
    CHECK(countText(12'400) == QStringLiteral("12,400"));
    const Day day = *Day::parse("2024-02-29");
    CHECK(dateOf(day) == QDate(2024, 2, 29));
    CHECK(dateOf(*Day::parse("1969-12-31")) == QDate(1969, 12, 31));
    CHECK(dayOf(dateOf(day)) == day);
    CHECK(shortDayText(day) == QStringLiteral("29 Feb 2024"));
}

TEST_CASE("Number text: units, separators, and a dash for what is missing", "[app]")
{
    CHECK(shown(1234.5, Unit::Plain, 1) == "1,234.5");
    CHECK(shown(0.0512, Unit::Percent, 1) == "5.1 %");
    CHECK(shown(-0.5, Unit::Percent, 0) == "-50 %");
    CHECK(shown(12.345, Unit::Money, 2) == "12.35");
    CHECK(shown(0.1234, Unit::Money, 2) == "0.1234");
    CHECK(shown(2'345'678, Unit::Money, 0) == "2.3\u00A0M");
    CHECK(shown(234'567'890, Unit::Shares, 0) == "235\u00A0M");
    CHECK(shown(4.2e9, Unit::Money, 0) == "4.2\u00A0B");
    CHECK(shown(missing, Unit::Money, 2) == "–");
    CHECK(signedText(0.01, Unit::Percent, 1) == QStringLiteral("+1.0 %"));
    CHECK(signedText(missing, Unit::Percent, 1) == QStringLiteral("–"));
    CHECK(shown(-0.00004, Unit::Percent, 2) == "0.00 %"); // nothing has no sign
    CHECK(shown(-0.0, Unit::Plain, 1) == "0.0");
    CHECK(shown(-0.00006, Unit::Percent, 2) == "-0.01 %");
    CHECK(signedText(0.00004, Unit::Percent, 2) == QStringLiteral("0.00 %"));
    CHECK(signedText(0.00006, Unit::Percent, 2) == QStringLiteral("+0.01 %"));
    CHECK(signedText(-0.2, Unit::Plain, 0) == QStringLiteral("0"));
    CHECK(dayText(*Day::parse("2026-09-30")) == QStringLiteral("Wed 30 Sep 2026"));
}

TEST_CASE("Palettes: text stands out from what it stands on", "[app]")
{
    for (const Palette& palette : {paperPalette(), harbourPalette()})
        for (const QColor& paper : {palette.ground, palette.sheet})
            for (const QColor& ink : {palette.ink, palette.softInk, palette.mark, palette.rise,
                                      palette.fall, palette.caution}) {
                INFO(palette.name.toStdString() << " " << ink.name().toStdString());
                CHECK(contrast(paper, ink) >= 4.3);
            }
}

} // namespace sieve::app
