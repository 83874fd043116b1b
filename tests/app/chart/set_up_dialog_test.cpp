#include "app/chart/set_up_dialog.h"

#include "tests/own_folder.h"

#include <QComboBox>
#include <QDialogButtonBox>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QTest>
#include <catch2/catch.hpp>
#include <optional>

// What a chart shows, as text: read, refused, opened and saved.

namespace sieve::app {

TEST_CASE("Set-up dialog: only a text without a mistake can be shown", "[app]")
{
    const test::OwnFolder folder;
    SetUpDialog dialog(charts::standardSetUp());
    dialog.show();
    const auto* buttons = dialog.findChild<QDialogButtonBox*>();
    const auto canUse = [&] {
        for (QAbstractButton* button : buttons->buttons())
            if (buttons->buttonRole(button) == QDialogButtonBox::AcceptRole)
                return button->isEnabled();
        return false;
    };
    CHECK(canUse());
    CHECK(dialog.told().contains(QStringLiteral("3 panes, 6 layers")));
    dialog.editor().setPlainText(QStringLiteral("[[pane]]\nheight = 0\n"));
    CHECK_FALSE(canUse());
    CHECK(dialog.told().contains(QStringLiteral("Line 2")));
    CHECK(dialog.setUp() == charts::standardSetUp()); // the newest one without a mistake
    dialog.editor().setPlainText(QStringLiteral("name = \"Mine\"\n[[pane]]\n"));
    CHECK(canUse());
    CHECK(dialog.setUp().name == "Mine");
    auto* ready = dialog.findChild<QComboBox*>();
    ready->setCurrentIndex(2);
    Q_EMIT ready->activated(2);
    CHECK(dialog.setUp() == charts::readySetUps()[1]);
    const QString file = QString::fromStdString((folder.path() / "mine.toml").string());
    std::optional<bool> isWell;
    QObject::connect(&dialog, &SetUpDialog::fileDone, &dialog, [&](bool well) { isWell = well; });
    const auto done = [&](auto what) {
        isWell.reset();
        what();
        REQUIRE(QTest::qWaitFor([&] { return isWell.has_value(); }, 10'000));
        return *isWell;
    };
    const auto saves = [&](const QString& path) { return done([&] { dialog.saveFile(path); }); };
    const auto opens = [&](const QString& path) { return done([&] { dialog.openFile(path); }); };
    REQUIRE(saves(file));
    dialog.editor().setPlainText(QStringLiteral("[[pane]]\n"));
    REQUIRE(opens(file));
    CHECK(dialog.setUp() == charts::readySetUps()[1]);
    CHECK_FALSE(opens(file + QStringLiteral("x")));
    CHECK(dialog.told().contains(QStringLiteral("could not be read")));
    folder.write("long.toml", std::string((1U << 20U) + 1U, '#'));
    CHECK_FALSE(opens(QString::fromStdString((folder.path() / "long.toml").string())));
    CHECK(dialog.told().contains(QStringLiteral("longer than 1 MiB")));
    CHECK_FALSE(saves(QStringLiteral("/no folder/mine.toml")));
    CHECK(dialog.told().contains(QStringLiteral("could not be written")));
}

} // namespace sieve::app
