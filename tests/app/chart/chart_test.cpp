#include "app/parts/expression_edit.h"
#include "app/parts/mini_line.h"
#include "core/base/missing.h"

#include <QCompleter>
#include <QImage>
#include <QTest>
#include <catch2/catch.hpp>

namespace sieve::app {

TEST_CASE("Mini line: draws within its area and leaves a gap where a value is missing", "[app]")
{
    const auto inked = [](const std::vector<double>& values) {
        QImage image(60, 20, QImage::Format_RGB32);
        image.fill(Qt::white);
        QPainter painter(&image);
        paintMiniLine(painter, QRectF(5, 5, 50, 10), values, Qt::black);
        painter.end();
        int left = 0;
        int middle = 0;
        for (int y = 0; y < 20; ++y) {
            for (int x = 0; x < 25; ++x)
                left += image.pixelColor(x, y) != Qt::white ? 1 : 0;
            for (int x = 26; x < 34; ++x)
                middle += image.pixelColor(x, y) != Qt::white ? 1 : 0;
            CHECK(image.pixelColor(1, y) == Qt::white);
        }
        return std::pair(left, middle);
    };
    CHECK(inked({}) == std::pair(0, 0));
    CHECK(inked({missing, missing}) == std::pair(0, 0));
    CHECK(inked({1, 2, 3, 4, 5}).second > 0);
    const auto [left, middle] = inked({1, 2, missing, 4, 5});
    CHECK(left > 0);
    CHECK(middle == 0);
    CHECK(inked({7, 7, 7}).first > 0); // a price that does not move is a flat line
}

TEST_CASE("Expression line: words are offered where a word is typed, and only there", "[app]")
{
    ExpressionEdit edit;
    edit.show();
    const auto offered = [&edit](const char* text) {
        edit.clear();
        QTest::keyClicks(&edit, QLatin1String(text));
        const auto* words = edit.findChild<QCompleter*>();
        const bool isOpen = words->popup()->isVisible();
        const int count = isOpen ? words->completionCount() : 0;
        words->popup()->hide();
        return count;
    };
    CHECK(offered("marg") >= 3);
    CHECK(offered("close > dist") >= 3);
    CHECK(offered("earnings per") == offered("per")); // the last word counts
    CHECK(offered("c") == 0);                         // one letter is no word yet
    CHECK(offered("close > 50") == 0);
    CHECK(offered("sector == \"ener") == 0); // inside a text
    CHECK(offered("xqzzy") == 0);
}

TEST_CASE("Expression line: a fault is told and painted, and goes again", "[app]")
{
    ExpressionEdit edit;
    edit.resize(300, 26);
    edit.setText(QStringLiteral("clos > 5"));
    edit.show();
    const QImage plain = edit.grab().toImage();
    edit.setFault(LocatedError{{1, 1, 4, 0, 4}, "no field 'clos'", "did you mean close?"});
    CHECK(edit.toolTip().contains(QStringLiteral("Did you mean close?")));
    CHECK(edit.grab().toImage() != plain);
    edit.setFault(std::nullopt);
    CHECK(edit.toolTip().isEmpty());
    CHECK(edit.grab().toImage() == plain);
}

} // namespace sieve::app
